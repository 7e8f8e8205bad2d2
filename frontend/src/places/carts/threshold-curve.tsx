/** What a plan, or today's free delivery, comes to over the values its threshold could have, drawn over the carts. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { ScaleLinear } from "d3-scale";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";

import { ask } from "../../api/client";
import type { Curve, Frame, FreeFrom } from "../../api/types";
import { money, roundUp } from "../../pieces/figures";
import { useSettled } from "../../pieces/settled";
import type { Mix } from "./mixes";
import { pointerOf, withThreshold, type Threshold } from "./thresholds";

const POINTS = 24;
const PAD = 7;

interface Props {
  threshold: Threshold;
  value: number;
  most: number;
  x: ScaleLinear<number, number>;
  height: number;
  frame: Frame;
  mix: Mix;
}

/** What is asked for a curve, and what it is held against. */
function useCurve({ of, value }: Threshold, values: number[], mix: Mix): { amounts: readonly (number | null)[] | undefined; whose: string } {
  const { first_day, last_day } = mix.days;
  const terms = useSettled(mix.terms);
  const ofPlan = useQuery({
    enabled: of !== null,
    queryKey: ["curve", of?.saved.plan, of?.offer, of?.condition, values, mix.terms],
    queryFn: ({ signal }) => {
      const plan = withThreshold(of!.saved.plan, of!.offer, of!.condition, values[0]!);
      return ask<Curve>("POST", "/curve", { plan, pointers: [pointerOf(of!.offer, of!.condition)], values }, signal);
    },
    placeholderData: keepPreviousData,
  });
  const ofToday = useQuery({
    enabled: of === null,
    queryKey: ["free from", value, values, terms, first_day, last_day],
    queryFn: ({ signal }) => ask<FreeFrom>("POST", "/mixes/free-from", { terms, first_day, last_day, free_from: value, values }, signal),
    placeholderData: keepPreviousData,
  });
  if (of) return { amounts: ofPlan.data?.impacts, whose: `“${of.saved.plan.name}” against today` };
  return { amounts: ofToday.data?.kept.map((kept) => kept - ofToday.data.now), whose: "Before any offer, against now" };
}

export function ThresholdCurve({ threshold, value, most, x, height, frame, mix }: Props) {
  const unit = 10 ** frame.minor_digits;
  const step = Math.max(roundUp(most / POINTS / unit), 1) * unit;
  const values = Array.from({ length: Math.floor(most / step) }, (_, at) => (at + 1) * step);
  const { amounts, whose } = useCurve(threshold, values, mix);
  const points = values.flatMap((one, at): [number, number][] => (amounts?.[at] == null ? [] : [[one, amounts[at]]]));
  if (points.length < 3)
    return (
      <text x={x(0)} y={height / 2} fontSize={12} fill="var(--color-soft)">
        {amounts ? "" : "Working out the curve…"}
      </text>
    );
  const impacts = points.map(([, impact]) => impact);
  const best = points.reduce((a, b) => (b[1] > a[1] ? b : a));
  const y = scaleLinear([Math.min(0, ...impacts), Math.max(0, ...impacts)], [height - PAD, PAD]);
  const after = points.find(([one]) => one >= value) ?? points.at(-1)!;
  const before = points.findLast(([one]) => one <= value) ?? points[0]!;
  const here = after[0] === before[0] ? after[1] : before[1] + ((after[1] - before[1]) * (value - before[0])) / (after[0] - before[0]);
  const says = `${whose}: ${money(here, frame, { whole: true, signed: true })} at ${money(value, frame, { whole: value % unit === 0 })}, best ${money(best[1], frame, { whole: true, signed: true })} at ${money(best[0], frame, { whole: true })}`;
  const onLeft = x(most) - x(value) < 420;
  /** Where the curve is high at that end the words stand below it. */
  const end = points.at(onLeft ? 0 : -1)!;
  const low = y(end[1]) < height / 2;
  return (
    <g role="img" aria-label={says}>
      <line x1={x(0)} x2={x(most)} y1={y(0)} y2={y(0)} stroke="var(--color-line)" strokeWidth={1.5} />
      <path d={line()(points.map(([one, impact]) => [x(one), y(impact)]))!} fill="none" stroke="var(--color-ink)" strokeWidth={1.8} />
      <circle cx={x(best[0])} cy={y(best[1])} r={4.5} fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth={1.5} />
      <circle cx={x(Math.min(value, most))} cy={y(here)} r={5} fill="var(--color-yellow)" stroke="var(--color-ink)" strokeWidth={1.5} />
      <text x={onLeft ? x(0) : x(most)} y={low ? height - 3 : 12} fontSize={12} textAnchor={onLeft ? "start" : "end"} fill="var(--color-ink)" stroke="var(--color-paper)" strokeWidth={4} paintOrder="stroke">
        {says}
      </text>
    </g>
  );
}
