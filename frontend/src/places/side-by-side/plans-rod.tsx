/** Every column on one scale: what it keeps more than today, right of the post, or less, left of it, with its range. */
import { scaleLinear } from "d3-scale";
import type { ReactNode } from "react";

import type { Forecast, HowSure } from "../../api/types";
import { Beads } from "../../pieces/beads";
import { inAHundred, money, roundUp, type Currency } from "../../pieces/figures";
import { useWidth } from "../../pieces/measured";
import type { Column } from "./columns";

const [R, ROW, EDGE] = [6.2, 56, 14];
const PITCH = 2 * R + 0.6;

type Sure = HowSure["columns"][number];

interface Props {
  columns: Column[];
  forecasts: Forecast[];
  sure: Sure[] | null;
  of: Currency;
  /** What can be done with a column. */
  todo: (at: number) => ReactNode;
}

export function PlansRod({ columns, forecasts, sure, of, todo }: Props) {
  const [box, width] = useWidth<HTMLDivElement>(560);
  const impacts = forecasts.map((one) => one.impact);
  const ends = [...impacts, ...(sure ?? []).flatMap((one) => [one.low, one.high]), 0];
  const unit = 10 ** of.minor_digits;
  const [least, most] = [Math.min(...ends), Math.max(...ends, unit)];
  const x = scaleLinear([least, most], [EDGE, width - EDGE]);
  const bead = roundUp((most - least) / ((width - 2 * EDGE) / PITCH) / unit) * unit;
  // A bead is as wide as what it stands for, so that ranges and beads are on one scale.
  const r = (x(bead) - x(0) - 0.6) / 2;
  const whole = forecasts.some((one) => one.precision === "whole");
  return (
    <div className="mt-3">
      <ol aria-label="Plans side by side" className="grid gap-0">
        {columns.map((column, at) => {
          const impact = impacts[at]!;
          const range = sure?.[at] ?? null;
          const told = `${money(Math.abs(impact), of, { whole })} ${impact < 0 ? "less" : "more"}`;
          return (
            <li key={column.key} className="grid grid-cols-[17rem_minmax(0,1fr)_11rem] items-center gap-x-4 border-t border-line first:border-t-0 max-[900px]:grid-cols-[11rem_minmax(0,1fr)_8rem]" data-testid="column">
              <div className="min-w-0 py-1">
                <p className="line-clamp-2 font-head text-body leading-tight font-semibold" title={column.name}>
                  {column.name}
                </p>
                <p className="flex flex-wrap gap-x-3 text-small">{todo(at)}</p>
              </div>
              <div ref={at === 0 ? box : undefined} className="min-w-0">
                <svg width={width} height={ROW} role="img" aria-label={`${column.name} keeps ${told} than today${range ? `, nine times in ten between ${money(range.low, of, { whole })} and ${money(range.high, of, { whole })}` : ""}`} className="block">
                  <line x1={EDGE} x2={width - EDGE} y1={ROW / 2} y2={ROW / 2} stroke="var(--color-line)" strokeWidth={2} />
                  {range && <RangeMark {...{ range }} x={x} />}
                  <Beads parts={[{ kind: impact < 0 ? "lost" : "kept", size: Math.abs(impact) / bead }]} x={impact < 0 ? x(impact) : x(0) + 1} y={ROW / 2} r={r} />
                  <line x1={x(0)} x2={x(0)} y1={0} y2={ROW} stroke="var(--color-ink)" strokeWidth={4} />
                </svg>
              </div>
              <p className="py-1 text-end leading-tight">
                <span className={`font-semibold ${impact < 0 ? "text-loss-ink" : ""}`} data-testid="impact">
                  {told}
                </span>
                <span className="block text-small text-soft">{range ? `beats today ${inAHundred(range.beats_today)}` : " "}</span>
              </p>
            </li>
          );
        })}
      </ol>
      <p className="grid grid-cols-[17rem_minmax(0,1fr)_11rem] gap-x-4 text-small text-soft max-[900px]:grid-cols-[11rem_minmax(0,1fr)_8rem]">
        <span />
        <span className="relative block h-5">
          <span className="absolute" style={{ left: Math.min(Math.max(x(0) - 18, 0), width - 40) }}>
            today
          </span>
        </span>
        <span />
      </p>
      <p className="text-small text-soft">A bead is {money(bead, of, { whole: bead % unit === 0 })}; the thin line below holds what it keeps nine times in ten.</p>
    </div>
  );
}

const RangeMark = ({ range, x }: { range: Sure; x: (amount: number) => number }) => (
  <g stroke="var(--color-ink)">
    <line x1={x(range.low)} x2={x(range.high)} y1={ROW - 11} y2={ROW - 11} strokeWidth={1.6} />
    {[range.low, range.high].map((end, n) => (
      <line key={n} x1={x(end)} x2={x(end)} y1={ROW - 15} y2={ROW - 7} strokeWidth={1.6} />
    ))}
  </g>
);
