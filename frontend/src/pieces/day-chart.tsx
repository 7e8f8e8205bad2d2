/** What each day of a plan keeps, as beads on upright rods, beside today as a dashed mark. Many days stand as weeks. */
import { scaleLinear } from "d3-scale";

import { BeadStack } from "./bead-stack";
import { days as inWords, money, roundUp, type Currency } from "./figures";
import { useWidth } from "./measured";

const [TOP, BOTTOM] = [14, 118];
const BEAD = 7.4;
const WIDEST = 34;
const LETTERS = 11;
/** More days than this are put together by seven. */
const MOST_DAYS = 45;
/** Below this room, only the first day of a week is told. */
const NARROW = 22;

export interface DayKept {
  day: string;
  kept: number;
  kept_today: number;
}

interface Stretch {
  first: string;
  last: string;
  kept: number;
  today: number;
}

export const stretches = (days: DayKept[]): Stretch[] => {
  const size = days.length > MOST_DAYS ? 7 : 1;
  return Array.from({ length: Math.ceil(days.length / size) }, (_, at) => {
    const some = days.slice(at * size, (at + 1) * size);
    const sum = (of: (day: DayKept) => number) => some.reduce((so, day) => so + of(day), 0);
    return { first: some[0]!.day, last: some.at(-1)!.day, kept: sum((one) => one.kept), today: sum((one) => one.kept_today) };
  });
};

interface Props {
  days: DayKept[];
  of: Currency;
  /** Days on which something starts or ends. */
  marked: ReadonlySet<string>;
  /** What the dashes are. */
  beside?: string;
}

export function DayChart({ days, of, marked, beside = "today" }: Props) {
  const [box, width] = useWidth<HTMLElement>(790);
  const all = stretches(days);
  const values = all.flatMap((one) => [one.kept, one.today]);
  const [highest, lowest] = [Math.max(...values, 1), Math.min(...values, 0)];
  const y = scaleLinear([lowest, highest], [BOTTOM, TOP]);
  const unit = 10 ** of.minor_digits;
  const bead = roundUp(((highest - lowest) * BEAD) / (BOTTOM - TOP) / unit) * unit;
  const tall = ((BOTTOM - TOP) * bead) / (highest - lowest);
  const pitch = width / Math.max(all.length, 1);
  const across = Math.min(WIDEST, Math.max(pitch - 8, 3));
  return (
    <figure ref={box}>
      <svg width={width} height={BOTTOM + 42} role="img" aria-label={`What each ${days.length > MOST_DAYS ? "week" : "day"} keeps: ${all.map((one) => `${inWords(one.first, one.last, false)} ${money(one.kept, of, { whole: true })}, ${beside} ${money(one.today, of, { whole: true })}`).join("; ")}`}>
        <line x1={0} x2={width} y1={y(0)} y2={y(0)} stroke="var(--color-line)" strokeWidth={1.5} />
        {all.map((one, at) => {
          const x = pitch * (at + 0.5);
          const date = new Date(one.first);
          const begins = at === 0 || date.getUTCDate() === 1 || (all.length > 1 && days.length > MOST_DAYS && date.getUTCDate() <= 7);
          const told = begins ? inWords(one.first, one.first, false).replace(/(\w{3})\w+$/, "$1") : String(date.getUTCDate());
          return (
            <g key={one.first}>
              <title>{`${inWords(one.first, one.last, false)}: ${money(one.kept, of)}, ${beside} ${money(one.today, of)}`}</title>
              <rect x={x - pitch / 2} y={TOP - 8} width={pitch} height={BOTTOM - TOP + 12} fill="transparent" />
              <line x1={x} x2={x} y1={TOP - 4} y2={BOTTOM + 4} stroke="var(--color-line)" strokeWidth={1.5} />
              <BeadStack x={x} across={across} high={y(Math.max(one.kept, 0))} low={y(Math.min(one.kept, 0))} bead={tall} look={one.kept < 0 ? "loss" : "kept"} />
              <line x1={x - across / 2 - 3} x2={x + across / 2 + 3} y1={y(one.today)} y2={y(one.today)} stroke="var(--color-ink)" strokeWidth={2} strokeDasharray="2.5 2" />
              {(begins || pitch >= NARROW || date.getUTCDay() === 1) && (
                <text x={x} y={BOTTOM + 17} textAnchor="middle" fontSize={LETTERS} fontWeight={begins ? 600 : 400} fill="var(--color-ink)">
                  {told}
                </text>
              )}
              {days.some((day) => day.day >= one.first && day.day <= one.last && marked.has(day.day)) && <path d={`M${x - 5} ${BOTTOM + 29}l5 -7l5 7z`} fill="var(--color-ink)" />}
            </g>
          );
        })}
        <text x={0} y={BOTTOM + 40} fontSize={LETTERS} fill="var(--color-soft)">
          a bead is {money(bead, of, { whole: bead >= unit })}
          {days.length > MOST_DAYS && " · a rod is a week"} · dashes: {beside}
        </text>
      </svg>
    </figure>
  );
}
