/** How sure the answer is, in a sentence that opens to what makes it so. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask } from "../../api/client";
import type { Forecast, Frame, Plan, Range } from "../../api/types";
import { count, inAHundred, listed, money, share } from "../../pieces/figures";
import { KeptRecord } from "../../pieces/kept-record";
import { Slip } from "../../pieces/slip";
import { useNameOf } from "../../pieces/offer-names";
import { goToWord } from "./go-to-word";
import { CALLED } from "../../offers/responses";

interface Props {
  range: Range;
  plan: Plan;
  frame: Frame;
  forecast: Forecast;
}

export function RangeLine({ range, plan, frame, forecast }: Props) {
  const nameOf = useNameOf(plan);
  const [open, setOpen] = useState(false);
  const go = (offer: string, figure: string) => {
    setOpen(false);
    goToWord(offer, `/response/${figure}`, { opened: true });
  };
  const whole = forecast.precision === "whole";
  const told = (amount: number) => `${money(Math.abs(amount), frame, { whole })} ${amount < 0 ? "less" : "more"}`;
  const { low, high } = range;
  const between = low < 0 === high < 0 ? `${money(Math.min(Math.abs(low), Math.abs(high)), frame, { whole })} and ${told(Math.abs(low) > Math.abs(high) ? low : high)}` : `${told(low)} and ${told(high)}`;
  return (
    <>
      Nine times in ten it keeps between{" "}
      <Slip
        title="How sure this is"
        width={520}
        open={open}
        onOpenChange={setOpen}
        trigger={
          <button type="button" className="border-b-2 border-ink font-semibold" data-testid="range">
            {between}
          </button>
        }
      >
        <Swings {...{ range, plan, frame, whole, go }} />
        <HowLong {...{ plan }} version={frame.data_version} />
        <KeptRecord version={frame.data_version} className="mt-2 text-small" />
        {forecast.most.unbounded.length > 0 && (
          <p className="mt-2 text-small text-soft">
            Nothing bounds what {listed(forecast.most.unbounded.map(nameOf))} may give away. A limit of uses or of spending in all would: <i>and also…</i> below its sentence.
          </p>
        )}
      </Slip>
      ; it beats today {inAHundred(range.beats)}.
      {forecast.most.amount !== null && forecast.offers.length > 0 && <> It cannot give away more than {money(forecast.most.amount, frame, { whole })}.</>}
    </>
  );
}

/** How long the plan must run until what it does can be told from chance. */
function HowLong({ plan, version }: { plan: Plan; version: number }) {
  const { data } = useQuery({ queryKey: ["how long", version, plan], queryFn: ({ signal }) => ask<{ says: string }>("POST", "/how-long", plan, signal) });
  return data?.says ? <p className="mt-2 text-small">{data.says}</p> : null;
}

interface Row {
  name: string;
  low: number;
  high: number;
  /** Between which values the figure moves. */
  ends: string;
  opens: (() => void) | null;
}

const [WIDTH, BAR, LEFT, PAD] = [488, 26, 188, 10];

/** What the answer would be at the low and the high of each figure, the largest swing first. */
function Swings({ range, plan, frame, whole, go }: Omit<Props, "forecast"> & { whole: boolean; go: (offer: string, figure: string) => void }) {
  const nameOf = useNameOf(plan);
  const ends = range.swings.flatMap((one) => [one.impact_at_low, one.impact_at_high]);
  const [least, most] = [Math.min(0, range.low, ...ends), Math.max(0, range.high, ...ends)];
  const x = (amount: number) => LEFT + ((WIDTH - LEFT - PAD) * (amount - least)) / (most - least || 1);
  const rows: Row[] = [
    { name: "All of it, nine times in ten", low: range.low, high: range.high, ends: "", opens: null },
    ...range.swings.map((one) => {
      const { offer, figure } = one;
      const name = figure === null ? "Orders that come" : `${nameOf(offer ?? "")}: ${CALLED[figure]}`;
      return { name, low: one.impact_at_low, high: one.impact_at_high, ends: `${share(one.low)} to ${share(one.high)}`, opens: offer !== null && figure !== null ? () => go(offer, figure) : null };
    }),
  ];
  const height = rows.length * BAR + 22;
  return (
    <>
      <div className="relative">
      <svg width={WIDTH} height={height} role="img" aria-label={rows.map((one) => `${one.name}: ${money(one.low, frame, { whole })} to ${money(one.high, frame, { whole })}`).join("; ")}>
        <line x1={x(0)} x2={x(0)} y1={0} y2={height - 18} stroke="var(--color-ink)" strokeWidth={2} />
        <text x={x(0)} y={height - 5} fontSize={11.5} textAnchor={x(0) > WIDTH - 40 ? "end" : "middle"} fill="var(--color-ink)">
          today
        </text>
        {Math.abs(x(range.likely) - x(0)) > 44 && (
          <text x={x(range.likely)} y={height - 5} fontSize={11.5} textAnchor={x(range.likely) > WIDTH - 40 ? "end" : "middle"} fill="var(--color-soft)">
            likely
          </text>
        )}
        <line x1={x(range.likely)} x2={x(range.likely)} y1={0} y2={height - 18} stroke="var(--color-soft)" strokeDasharray="2 3" />
        {rows.map((one, at) => {
          const [from, to] = [Math.min(x(one.low), x(one.high)), Math.max(x(one.low), x(one.high))];
          return (
            <g key={at}>
              <rect x={from} y={at * BAR + 6} width={Math.max(to - from, 2)} height={12} rx={6} fill={at ? "var(--color-sheet)" : "var(--color-yellow)"} stroke="var(--color-ink)" strokeWidth={1.3} />
            </g>
          );
        })}
      </svg>
      <ol className="absolute inset-y-0 start-0 text-tiny leading-[13px]" style={{ width: LEFT - 8 }}>
        {rows.map((one, at) => (
          <li key={at} className="flex flex-col justify-center" style={{ height: BAR }}>
            {one.opens ? (
              <button type="button" className="truncate text-start hover:underline" title={`${one.name}: open it below its offer`} onClick={one.opens}>
                {one.name}
              </button>
            ) : (
              <span className={`truncate ${at ? "" : "font-semibold"}`}>{one.name}</span>
            )}
            {one.ends && <span className="text-soft">{one.ends}</span>}
          </li>
        ))}
      </ol>
      </div>
      <p className="mt-2 text-small text-soft">
        {range.swings.length ? "Each bar runs from the low to the high of one figure, all else as likely. " : "No figure has a range yet: open one below an offer, and say how sure you are. "}
        Chance alone moves it by {money(range.luck, frame, { whole })} or less two times in three, and that your history is a sample by{" "}
        {money(range.sampled, frame, { whole })}. In {count(Math.round(range.likely_at * 100))} of 100 draws it keeps less than is likely.
      </p>
    </>
  );
}
