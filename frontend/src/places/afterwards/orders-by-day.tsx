/** Orders of each day around an offer, as beads of so many, beside those expected without it as a dashed line. */
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";

import type { LearnedOffer } from "../../api/types";
import { count, soMany, days as inWords } from "../../pieces/figures";
import { useWidth } from "../../pieces/measured";

const [TOP, BOTTOM] = [8, 96];
const LETTERS = 11;

type Day = LearnedOffer["by_day"][number];

/** More days than this are put together by seven. */
const MOST_DAYS = 70;

/** Days, or weeks where there are many; what is left of the last week is left out. */
export function stretches(days: Day[]): Day[] {
  if (days.length <= MOST_DAYS) return days;
  return Array.from({ length: Math.floor(days.length / 7) }, (_, at) => {
    const some = days.slice(at * 7, at * 7 + 7);
    const sum = (of: (day: Day) => number) => some.reduce((so, one) => so + of(one), 0);
    return { day: some[0]!.day, orders: sum((one) => one.orders), usual: sum((one) => one.usual), runs: sum((one) => Number(one.runs)) > 3 };
  });
}

export function OrdersByDay({ learned: { by_day: days } }: { learned: LearnedOffer }) {
  const sum = (of: (one: Day) => number) => days.reduce((so, one) => so + (one.runs ? of(one) : 0), 0);
  const says = `${soMany(sum((one) => one.orders), "order")} while it ran, ${count(sum((one) => one.usual))} expected without it`;
  return <DayRods {...{ days, says }} label="Orders by day" what="orders" dashes="expected" />;
}

/** Orders that used a code, beside those that would have if every order that could were as likely to. */
export function UsesByDay({ learned: { uses_by_day: seen } }: { learned: LearnedOffer }) {
  const [used, could] = [seen.reduce((so, one) => so + one.used, 0), seen.reduce((so, one) => so + one.could, 0)];
  const days = seen.map((one) => ({ day: one.day, orders: one.used, usual: could ? (one.could * used) / could : 0, runs: true }));
  const says = `${soMany(used, "use")}, of ${soMany(could, "order")} that could have; spread evenly over those`;
  return <DayRods {...{ days, says }} label="Uses by day" what="uses" dashes="evenly" />;
}

interface RodsProps {
  days: Day[];
  label: string;
  /** What it comes to, and what the dashed line is. */
  says: string;
  what: string;
  dashes: string;
}

function DayRods({ days, label, says, what, dashes }: RodsProps) {
  const all = stretches(days);
  const [box, width] = useWidth<HTMLElement>(400);
  const most = Math.max(...all.map((one) => Math.max(one.orders, one.usual)), 1);
  const y = scaleLinear([0, most], [BOTTOM, TOP]);
  const pitch = width / all.length;
  const runs = all.filter((one) => one.runs);
  const usual = line<Day>().x((_, at) => pitch * (at + 0.5)).y((one) => y(one.usual))(all);
  const first = all.findIndex((one) => one.runs);
  return (
    <figure ref={box}>
      <svg width={width} height={BOTTOM + 20} role="img" aria-label={`${label}: ${says}`}>
        {runs.length > 0 && runs.length < all.length && <rect x={pitch * first} width={pitch * runs.length} y={TOP - 6} height={BOTTOM - TOP + 6} fill="var(--color-line)" opacity={0.45} />}
        <line x1={0} x2={width} y1={BOTTOM} y2={BOTTOM} stroke="var(--color-line)" strokeWidth={1.5} />
        {all.map((one, at) => (
          <g key={one.day}>
            <title>{`${inWords(one.day, one.day, false)}: ${count(one.orders)} ${what}, ${count(one.usual, 1)} ${dashes}`}</title>
            <line x1={pitch * (at + 0.5)} x2={pitch * (at + 0.5)} y1={BOTTOM} y2={y(one.orders)} stroke="var(--color-goods)" strokeWidth={Math.max(pitch * 0.45, 1)} />
            {pitch > 4 && <circle cx={pitch * (at + 0.5)} cy={y(one.orders)} r={Math.min(pitch * 0.4, 4)} fill={one.runs ? "var(--color-ink)" : "var(--color-sheet)"} stroke="var(--color-ink)" strokeWidth={1.2} />}
          </g>
        ))}
        <path d={usual ?? ""} fill="none" stroke="var(--color-ink)" strokeWidth={1.8} strokeDasharray="4 3" />
        {all.length > 0 && (
          <>
            <text x={0} y={BOTTOM + 15} fontSize={LETTERS} fill="var(--color-soft)">
              {inWords(all[0]!.day, all[0]!.day, false)}
            </text>
            <text x={width} y={BOTTOM + 15} fontSize={LETTERS} textAnchor="end" fill="var(--color-soft)">
              {inWords(all.at(-1)!.day, all.at(-1)!.day, false)}
            </text>
          </>
        )}
      </svg>
      <figcaption className="text-small text-soft">
        {says} (dashes).{days.length > MOST_DAYS && " A rod is a week."}
      </figcaption>
    </figure>
  );
}
