/** The bridge from today to the plan, as beads on upright rods: each step begins where the last one ended. */
import { scaleLinear } from "d3-scale";

import type { Forecast } from "../../api/types";
import { money, roundUp } from "../../pieces/figures";

const [WIDTH, HEIGHT, TOP, BOTTOM] = [790, 168, 22, 128];
const BEAD = { width: 50, height: 9.2 };

interface Column {
  key: string;
  label: string;
  amount: number;
  from: number;
  to: number;
  look: "kept" | "away" | "gain" | "loss";
}

export function Bridge({ forecast }: { forecast: Forecast }) {
  const whole = forecast.precision === "whole";
  const columns: Column[] = [];
  let level = forecast.start;
  const ends = { key: "today", label: "Today", amount: level, from: 0, to: level, look: level < 0 ? "loss" : "kept" } as const;
  columns.push(ends);
  for (const step of forecast.bridge) {
    const always = ["given_away", "delivery_given_up", "more_orders"].includes(step.key);
    if (step.amount === 0 && !always) continue;
    const away = ["given_away", "delivery_given_up"].includes(step.key);
    const look = away && step.amount <= 0 ? "away" : step.amount >= 0 ? "gain" : "loss";
    columns.push({ key: step.key, label: step.label, amount: step.amount, from: level, to: level + step.amount, look });
    level += step.amount;
  }
  columns.push({ key: "plan", label: "The plan", amount: level, from: 0, to: level, look: level < 0 ? "loss" : "kept" });

  const levels = columns.slice(0, -1).map((one) => one.to);
  const highest = Math.max(...levels, 1);
  const lowest = Math.min(...levels);
  // Where all of it happens far above 0, the rods are cut, or the steps could not be told apart.
  const cut = lowest - (highest - lowest) * 0.5;
  const isCut = cut > highest * 0.4;
  const floor = isCut ? cut : Math.min(lowest, 0);
  const y = scaleLinear([floor, highest], [BOTTOM, TOP]).clamp(true);
  const unit = 10 ** forecast.minor_digits;
  const bead = roundUp(((highest - floor) * BEAD.height) / (BOTTOM - TOP) / unit) * unit;
  const tall = ((BOTTOM - TOP) * bead) / (highest - floor);
  const pitch = WIDTH / columns.length;
  return (
    <figure>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" role="img" aria-label={inWords(columns, forecast)}>
        <line x1={0} x2={WIDTH} y1={y(0)} y2={y(0)} stroke="var(--color-line)" strokeWidth={1.5} />
        {columns.map((one, at) => {
          const x = pitch * (at + 0.5);
          const [high, low] = [y(Math.max(one.from, one.to)), y(Math.min(one.from, one.to))];
          const sum = one.key === "today" || one.key === "plan";
          return (
            <g key={one.key}>
              <line x1={x} x2={x} y1={TOP - 4} y2={BOTTOM + 4} stroke="var(--color-line)" strokeWidth={2} />
              {at < columns.length - 1 && (
                <line x1={x + BEAD.width / 2} x2={x + pitch - BEAD.width / 2} y1={y(one.to)} y2={y(one.to)} stroke="var(--color-ink)" />
              )}
              <Stack x={x} high={high} low={low} bead={tall} look={one.look} />
              {sum && isCut && <Cut x={x} />}
              <text x={x} y={high - 6} textAnchor="middle" fontSize={12.5} fontWeight={sum ? 700 : 600} fill="var(--color-ink)">
                {money(one.amount, forecast, { whole, signed: !sum })}
              </text>
              <text x={x} y={HEIGHT - 22} textAnchor="middle" fontSize={12} fill="var(--color-ink)">
                {one.label}
              </text>
            </g>
          );
        })}
        <text x={0} y={HEIGHT - 3} fontSize={11} fill="var(--color-soft)">
          a bead is {money(bead, forecast, { whole: bead >= unit })}
          {isCut && " · the outer rods are cut below"}
        </text>
      </svg>
    </figure>
  );
}

/** A stack that goes on further down than is drawn. */
const Cut = ({ x }: { x: number }) => (
  <path
    d={`M${x - 34} ${BOTTOM - 9}l11.3 -6l11.3 6l11.3 -6l11.3 6l11.3 -6l11.3 6v5l-11.3 -6l-11.3 6l-11.3 -6l-11.3 6l-11.3 -6l-11.3 6z`}
    fill="var(--color-paper)"
    stroke="var(--color-ink)"
  />
);

/** Flat beads on an upright rod between two heights; the last one may be part of one. */
function Stack({ x, high, low, bead, look }: { x: number; high: number; low: number; bead: number; look: Column["look"] }) {
  const tall = Math.max(low - high, 1.5);
  const fill = { kept: "var(--color-yellow)", gain: "var(--color-yellow)", away: "var(--color-sheet)", loss: "var(--color-loss)" }[look];
  const beads = [];
  for (let up = 0; up < tall - 0.2; up += bead) {
    const height = Math.min(bead, tall - up);
    beads.push(
      <rect
        key={up}
        x={x - BEAD.width / 2}
        y={low - up - height + 0.5}
        width={BEAD.width}
        height={Math.max(height - 0.8, 1)}
        rx={Math.min(5, height / 2)}
        fill={fill}
        stroke="var(--color-ink)"
        strokeWidth={1.1}
        strokeDasharray={look === "away" ? "3 2" : undefined}
      />,
    );
    if (look === "loss" && height > 5)
      beads.push(<path key={`n${up}`} d={`M${x - 5} ${low - up - height + 0.5}l5 4.5l5 -4.5z`} fill="var(--color-paper)" stroke="var(--color-ink)" strokeWidth={1} />);
  }
  return <>{beads}</>;
}

const inWords = (columns: Column[], forecast: Forecast): string =>
  columns
    .map((one) => `${one.label} ${money(one.amount, forecast, { whole: forecast.precision === "whole" })}`)
    .join(", ");
