/** The answer comes first: one plain sentence with the money in it. Its figures open to the sum behind them. */
import type { ReactNode } from "react";

import type { Forecast, Part, Plan } from "../../api/types";
import { count, soMany, money, share } from "../../pieces/figures";
import { Slip } from "../../pieces/slip";
import { Working } from "./working";

/** children: how sure it is, which comes a moment later and has its room kept, that of its underlined figures too. */
export function AnswerSentence({ forecast, plan, children }: { forecast: Forecast; plan: Plan; children: ReactNode }) {
  return (
    <>
    <div aria-live="polite" aria-atomic="true">
      <h1 className="max-w-[50rem] text-answer font-semibold" data-testid="answer">
        {forecast.answer.map((part, at) => (
          <AnswerPart key={at} {...{ part, forecast, plan }} />
        ))}
      </h1>
      {forecast.aside.length > 0 && (
        <p className="mt-1">
          {forecast.aside.map((part, at) => (
            <AnswerPart key={at} {...{ part, forecast, plan }} />
          ))}
        </p>
      )}
    </div>
    <p className="min-h-[calc(1.45em+2px)]">{children}</p>
    </>
  );
}

/** why: there is none; null while it is counted, in the room of two lines and two smaller ones, with figures underlined, that
 * most answers take: nothing moves as it comes. */
export function NoAnswer({ why }: { why: string | null }) {
  return <p className={`text-answer ${why ? "" : "min-h-[calc(2*(1lh+2px)+0.25rem+2*(1.45*var(--text-body)+2px))]"}`}>{why ?? "Counting…"}</p>;
}

function AnswerPart({ part, forecast, plan }: { part: Part; forecast: Forecast; plan: Plan }) {
  if (part.kind === "words") return <>{part.text}</>;
  if (part.kind === "count") return <b>{count(part.count, part.count < 9.95 ? 1 : 0) + part.after}</b>;
  const whole = forecast.precision === "whole";
  if (part.kind === "share")
    return (
      <Slip
        title="What it needs to break even"
        width={400}
        trigger={<button type="button" className="border-b-[3px] border-ink whitespace-nowrap">{`${share(part.share)}${part.after}`}</button>}
      >
        <BreakEvenWorking forecast={forecast} />
      </Slip>
    );
  const text = `${money(part.amount, forecast, { whole })}${part.after}`;
  if (part.about === "leak") return <strong className="text-loss-ink">{text}</strong>;
  return (
    <Slip
      title="Plan minus today"
      width={470}
      trigger={
        <button type="button" className={`border-b-[3px] whitespace-nowrap ${part.lost ? "border-loss" : "border-yellow"}`}>
          {text}
        </button>
      }
    >
      <Working {...{ plan }} figure="impact" of={forecast} />
      <p className="mt-2 text-small text-soft">
        {soMany(forecast.today.orders, "order")} today: {count(forecast.today.orders / forecast.days, 1)} a day for {forecast.days}{" "}
        {forecast.days === 1 ? "day" : "days"}, going by {count(forecast.counted_days)} days of your history, their weekdays and months. Today is the same days with nothing but what runs already.
      </p>
    </Slip>
  );
}

function BreakEvenWorking({ forecast }: { forecast: Forecast }) {
  const whole = forecast.precision === "whole";
  const extra = forecast.bridge.find((step) => step.key === "more_orders")?.amount ?? 0;
  const needed = (forecast.more_orders.value ?? 0) * forecast.today.orders;
  const gap = extra - forecast.impact;
  const rows: [string, string][] = [
    ["The plan’s cost on the orders that come anyway", money(gap, forecast, { whole })],
    ["divided by what one more order like those it reaches keeps", money(needed ? gap / needed : 0, forecast)],
    ["orders needed", count(needed, 1)],
    [`of ${soMany(forecast.today.orders, "order")} today`, share(forecast.more_orders.value ?? 0)],
    ["you expect", share(forecast.expected_more_orders)],
  ];
  return (
    <table className="figures w-full text-small">
      <tbody>
        {rows.map(([words, figure]) => (
          <tr key={words}>
            <td>{words}</td>
            <td className="n">{figure}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** How many more orders are expected, and how many are needed, as beads on a rod. */
export function NeedRod({ forecast }: { forecast: Forecast }) {
  const { verdict, value } = forecast.more_orders;
  const expected = forecast.expected_more_orders;
  const [width, left, right, y] = [300, 10, 290, 36];
  const top = Math.max(0.05, (value ?? 0) * 1.35, expected * 1.5);
  const x = (at: number) => left + ((right - left) * Math.min(at, top)) / top;
  const needed = value === null ? null : x(value);
  const says =
    value !== null
      ? `breaks even at ${share(value)}`
      : verdict === "always"
        ? "breaks even at any"
        : verdict === "never"
          ? "breaks even at none"
          : "makes no difference";
  return (
    <figure className="w-[300px] shrink-0">
      <figcaption className="flex justify-between text-small">
        <span className="font-semibold">More orders</span>
        <span className="text-soft">{says}</span>
      </figcaption>
      <svg width={width} height={66} role="img" aria-label={`You expect ${share(expected)} more orders; the plan ${says}`}>
        <line x1={left} x2={right} y1={y} y2={y} stroke="var(--color-ink)" strokeWidth={2} />
        {[left, right].map((end) => (
          <line key={end} x1={end} x2={end} y1={y - 9} y2={y + 9} stroke="var(--color-ink)" strokeWidth={3} strokeLinecap="round" />
        ))}
        {needed !== null && (
          <>
            <line x1={needed} x2={needed} y1={y - 20} y2={y + 12} stroke="var(--color-ink)" strokeWidth={2} strokeDasharray="2.5 2.5" />
            <text x={needed} y={y - 21} fontSize={11.5} textAnchor={needed > width - 50 ? "end" : needed < left + 20 ? "start" : "middle"} fill="var(--color-ink)">
              needed
            </text>
          </>
        )}
        <circle cx={x(expected)} cy={y} r={8.5} fill="var(--color-ink)" />
        <text x={Math.max(x(expected), left + 4)} y={y + 25} fontSize={11.5} textAnchor={x(expected) < 60 ? "start" : "middle"} fill="var(--color-ink)">
          you expect {share(expected)}
        </text>
      </svg>
    </figure>
  );
}
