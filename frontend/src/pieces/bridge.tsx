/** The bridge from today to the plan, as beads on upright rods: each step begins where the last one ended. */
import { scaleLinear } from "d3-scale";

import { BeadStack, type Look } from "./bead-stack";
import { money, roundUp, type Currency } from "./figures";
import { linesOf, useWidth, widthOf } from "./measured";

const [TOP, BOTTOM] = [22, 128];
const AMOUNT = 12.5;
const BEAD = { width: 50, height: 9.2 };
const LETTERS = 12;
const LINE = 14;
/** Below this room for a column, labels of neighbours stand in turn above and below each other. */
const NARROW = 96;

interface Column {
  key: string;
  label: string;
  amount: number;
  from: number;
  to: number;
  look: Look;
}

interface Props {
  /** What is kept today, and how each step changes it. */
  start: number;
  steps: readonly { key: string; label: string; amount: number }[];
  of: Currency;
  /** Leave the minor digits off. */
  whole: boolean;
  /** What it leads from and to. */
  ends?: readonly [string, string];
}

export function Bridge({ start, steps, of, whole, ends: [from, to] = ["Today", "The plan"] }: Props) {
  const [box, width] = useWidth<HTMLElement>(790);
  const columns: Column[] = [];
  let level = start;
  const ends = { key: "today", label: from, amount: level, from: 0, to: level, look: level < 0 ? "loss" : "kept" } as const;
  columns.push(ends);
  for (const step of steps) {
    const always = ["given_away", "delivery_given_up", "more_orders"].includes(step.key);
    if (step.amount === 0 && !always) continue;
    const away = ["given_away", "delivery_given_up"].includes(step.key);
    const look = away && step.amount <= 0 ? "away" : step.amount >= 0 ? "gain" : "loss";
    columns.push({ key: step.key, label: step.label, amount: step.amount, from: level, to: level + step.amount, look });
    level += step.amount;
  }
  columns.push({ key: "plan", label: to, amount: level, from: 0, to: level, look: level < 0 ? "loss" : "kept" });

  const levels = columns.slice(0, -1).map((one) => one.to);
  const highest = Math.max(...levels, 1);
  const lowest = Math.min(...levels);
  // Where all of it happens far above 0, the rods are cut, or the steps could not be told apart.
  const cut = lowest - (highest - lowest) * 0.5;
  const isCut = cut > highest * 0.4;
  const floor = isCut ? cut : Math.min(lowest, 0);
  const pitch = width / columns.length;
  const amounts = columns.map((one) => money(one.amount, of, { whole, signed: !isEnd(one) }));
  const crowded = amounts.some((amount, at) => meets(amount, amounts[at + 1] ?? "", pitch));
  const top = TOP + (crowded ? LINE : 0);
  const y = scaleLinear([floor, highest], [BOTTOM, top]).clamp(true);
  const stands = apart(columns.map((one) => y(Math.max(one.from, one.to)) - 6), amounts, pitch);
  const unit = 10 ** of.minor_digits;
  const bead = roundUp(((highest - floor) * BEAD.height) / (BOTTOM - top) / unit) * unit;
  const tall = ((BOTTOM - top) * bead) / (highest - floor);
  const across = Math.min(BEAD.width, pitch - 12);
  const staggered = pitch < NARROW;
  const labels = columns.map((one) => linesOf(one.label, (staggered ? 2 : 1) * pitch - 8, LETTERS));
  const deepest = (of: number) => Math.max(...labels.map((lines, at) => (staggered && at % 2 !== of ? 0 : lines.length)), 1);
  const [first, second] = [deepest(0), staggered ? deepest(1) : 0];
  const height = BOTTOM + 6 + (first + second) * LINE + 20;
  const atEdge = (x: number, label: string[], size = LETTERS) => {
    const half = Math.max(...label.map((line) => widthOf(line, size))) / 2;
    return Math.min(Math.max(x, half), width - half);
  };
  return (
    <figure ref={box}>
      <svg width={width} height={height} role="img" aria-label={inWords(columns, of, whole)}>
        <line x1={0} x2={width} y1={y(0)} y2={y(0)} stroke="var(--color-line)" strokeWidth={1.5} />
        {columns.map((one, at) => {
          const x = pitch * (at + 0.5);
          const [high, low] = [y(Math.max(one.from, one.to)), y(Math.min(one.from, one.to))];
          const sum = isEnd(one);
          return (
            <g key={one.key}>
              <line x1={x} x2={x} y1={top - 4} y2={BOTTOM + 4} stroke="var(--color-line)" strokeWidth={2} />
              {at < columns.length - 1 && (
                <line x1={x + across / 2} x2={x + pitch - across / 2} y1={y(one.to)} y2={y(one.to)} stroke="var(--color-ink)" />
              )}
              <BeadStack x={x} across={across} high={high} low={low} bead={tall} look={one.look} />
              {sum && isCut && <Cut x={x} across={across} />}
              <text x={atEdge(x, [amounts[at]!], AMOUNT)} y={stands[at]} textAnchor="middle" fontSize={AMOUNT} fontWeight={sum ? 700 : 600} fill="var(--color-ink)">
                {amounts[at]}
              </text>
              {labels[at]!.map((line, n) => (
                <text key={n} x={atEdge(x, labels[at]!)} y={BOTTOM + 18 + ((staggered && at % 2 ? first : 0) + n) * LINE} textAnchor="middle" fontSize={LETTERS} fill="var(--color-ink)">
                  {line}
                </text>
              ))}
            </g>
          );
        })}
        <text x={0} y={height - 3} fontSize={11} fill="var(--color-soft)">
          a bead is {money(bead, of, { whole: bead >= unit })}
          {isCut && " · the outer rods are cut below"}
        </text>
      </svg>
    </figure>
  );
}

const isEnd = (column: Column) => column.key === "today" || column.key === "plan";

/** Whether two amounts beside each other have no room on one line. */
const meets = (one: string, next: string, pitch: number) => (widthOf(one, AMOUNT) + widthOf(next, AMOUNT)) / 2 + 4 > pitch;

/** Where amounts stand, each a line above the one before it where both would meet. */
function apart(lines: number[], amounts: string[], pitch: number): number[] {
  const found: number[] = [];
  for (const [at, line] of lines.entries()) {
    const before = found[at - 1];
    const isOn = before !== undefined && Math.abs(line - before) < LINE && meets(amounts[at - 1]!, amounts[at]!, pitch);
    found.push(isOn ? before - LINE : line);
  }
  return found;
}

/** A stack that goes on further down than is drawn. */
const Cut = ({ x, across }: { x: number; across: number }) => {
  const tooth = (across + 18) / 6;
  const [there, back] = [`l${tooth} -6l${tooth} 6`.repeat(3), `l${-tooth} -6l${-tooth} 6`.repeat(3)];
  return (
  <path
    d={`M${x - 3 * tooth} ${BOTTOM - 9}${there}v5${back}z`}
    fill="var(--color-paper)"
    stroke="var(--color-ink)"
  />
  );
};

const inWords = (columns: Column[], of: Currency, whole: boolean): string =>
  columns
    .map((one) => `${one.label} ${money(one.amount, of, { whole })}`)
    .join(", ");
