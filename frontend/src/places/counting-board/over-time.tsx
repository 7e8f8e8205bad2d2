/** The plan day by day beside today, and how long the goods in stock last. */
import { useState } from "react";

import { useNames } from "../../api/queries";
import type { Forecast, Frame, OverTime, Plan } from "../../api/types";
import { DayChart } from "../../pieces/day-chart";
import { count, days, listed, money, soMany } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { useNameOf } from "../../pieces/offer-names";
import { nameOfSku } from "../../pieces/product-picker";
import { SoldOutWord } from "./sold-out-word";
import { useFollowing } from "./use-following";

/** Goods of which less than this part is needed are only counted. */
const MUCH = 0.5;
const SHOWN = 12;

interface OverProps {
  plan: Plan;
  forecast: Forecast;
  frame: Frame;
  answered: boolean;
}

const useOverTime = ({ plan, answered, frame }: OverProps): OverTime | null => useFollowing<OverTime>("/forecast/days", plan, answered, frame.data_version).found;

const Waiting = () => (
  <p role="status" className="min-h-36 text-small text-soft">
    Going through the days…
  </p>
);

const day = (one: string): string => days(one, one, false);

export function ByDay(props: OverProps) {
  const found = useOverTime(props);
  const nameOf = useNameOf(props.plan);
  const { data: goods } = useNames();
  const [table, setTable] = useState(false);
  if (!found) return <Waiting />;
  const marks = marksOf(found, props.forecast, nameOf, (sku) => nameOfSku(sku, goods ?? []));
  const more = (one: OverTime["days"][number]) => one.kept - one.kept_today;
  const rising = found.days.toSorted((one, other) => more(one) - more(other));
  const [worst, best] = [rising[0]!, rising.at(-1)!];
  const change = (one: typeof best) => money(more(one), props.frame, { whole: true, signed: true });
  return (
    <>
      {table ? <DayTable days={found.days} frame={props.frame} /> : <DayChart days={found.days} of={props.frame} marked={new Set(marks.map(([on]) => on))} />}
      <p className="text-small text-soft">
        {found.days.length > 1 && `Against today, ${day(best.day)} does best (${change(best)}), ${day(worst.day)} worst (${change(worst)}).`}
        {marks.slice(0, SHOWN).map(([on, words]) => (
          <span key={on + words}>
            {" "}
            <span className="text-ink">{day(on)}</span>: {words}.
          </span>
        ))}
        {marks.length > SHOWN && ` And ${marks.length - SHOWN} more.`}{" "}
        <button type="button" className="quiet" aria-pressed={table} onClick={() => setTable(!table)}>
          {table ? "as beads" : "as a table"}
        </button>
      </p>
    </>
  );
}

function DayTable({ days: all, frame }: { days: OverTime["days"]; frame: Frame }) {
  const cash = (amount: number, signed = false) => money(amount, frame, { signed });
  return (
    <div className="max-h-72 overflow-y-auto" tabIndex={0}>
      <table className="figures mt-1 w-full text-small">
        <Headings>
          <Heading>Day</Heading>
          {["Orders today", "Under the plan", "You keep today", "Under the plan", "Change"].map((words, at) => <Heading key={at} n>{words}</Heading>)}
        </Headings>
        <tbody>
          {all.map((one) => (
            <tr key={one.day}>
              <th scope="row" className="font-normal! text-ink!">
                {day(one.day)}
              </th>
              <td className="n">{count(one.orders_today, 1)}</td>
              <td className="n">{count(one.orders, 1)}</td>
              <td className="n">{cash(one.kept_today)}</td>
              <td className="n">{cash(one.kept)}</td>
              <td className="n">{cash(one.kept - one.kept_today, true)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What starts, ends or runs out, by day. */
function marksOf(found: OverTime, { ends }: Forecast, nameOf: (id: string) => string, nameOfGood: (sku: string) => string): [day: string, words: string][] {
  const marks: [string, string][] = [];
  for (const one of found.days) {
    if (one.starts.length) marks.push([one.day, `${listed(one.starts.map(nameOf))} ${one.starts.length > 1 ? "start" : "starts"}`]);
    if (one.ends.length) marks.push([one.day, `last day of ${listed(one.ends.map(nameOf))}`]);
  }
  for (const one of ends) {
    if (!one.day || (one.of === "stock" && !one.put_in)) continue;
    marks.push([one.day, one.of === "stock" ? `no ${nameOfGood(one.sku ?? "")} is left to put in` : `${nameOf(one.offer ?? "")} has reached its limit of ${one.of === "uses" ? "uses" : "spending"}`]);
  }
  for (const one of found.needs) if (one.ends) marks.push([one.ends, `the stock of ${one.product || one.sku} runs out${one.ends_today === one.ends ? ", as today" : ""}`]);
  return marks.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
}

/** change: of the plan, for what shoppers do when something is sold out. */
export function StockNeeded({ change, ...props }: OverProps & { change: (make: (plan: Plan) => Plan) => void }) {
  const found = useOverTime(props);
  if (!found) return <Waiting />;
  const short = found.needs.filter((one, at) => at < SHOWN && (one.ends !== null || one.plan >= one.stock * MUCH));
  const others = found.needs.length - short.length + found.others;
  if (found.needs.length === 0) return <p className="min-h-36 pt-2 text-soft">Goods says of nothing how many are in stock.</p>;
  return (
    <>
      {short.length > 0 && (
        <table className="figures mt-1 w-full">
          <Headings>
            <Heading>Goods</Heading>
            <Heading n>In stock</Heading>
            <Heading n>Needed today</Heading>
            <Heading n>Under the plan</Heading>
            <Heading className="ps-6!">It lasts</Heading>
          </Headings>
          <tbody>
            {short.map((one) => (
              <tr key={one.sku}>
                <td>
                  {one.product || one.sku}{" "}
                  <span className="text-soft">
                    {one.sku}
                    {one.kits > 0 && `, alone and in ${soMany(one.kits, "kit")}`}
                  </span>
                </td>
                <td className="n">{count(one.stock)}</td>
                <td className="n">{count(one.today)}</td>
                <td className="n">{count(one.plan)}</td>
                <td className={`ps-6! ${one.ends ? "text-loss-ink" : ""}`}>
                  {one.ends ? `until ${day(one.ends)}` : "all days"}
                  {one.ends && one.ends_today !== one.ends && `, today ${one.ends_today ? `until ${day(one.ends_today)}` : "all days"}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="mt-1 text-small text-soft">
        {short.length === 0 && "The plan needs less than half of all that is in stock. "}
        {others > 0 && short.length > 0 && `Of ${count(others)} more that are counted, less than half is needed. `}
        Things put in, what carts are topped up with and orders that come on top are in it.
      </p>
      {found.needs.some((one) => one.ends ?? one.ends_today) && <SoldOutWord plan={props.plan} change={change} />}
    </>
  );
}
