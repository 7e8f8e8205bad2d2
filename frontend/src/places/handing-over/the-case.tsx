/** The case for a plan: one page for whoever decides, from the same figures as the board. */
import { useQuery } from "@tanstack/react-query";

import { ask } from "../../api/client";
import { useNames, useRunning } from "../../api/queries";
import type { Forecast, Frame, Plan, Range, SavedPlan, Snag, Snags } from "../../api/types";
import { Bridge } from "../../pieces/bridge";
import { count, soMany, days, inAHundred, money, rate, share } from "../../pieces/figures";
import { mixInWords, USUAL } from "../../pieces/mix-names";
import { useNameOf } from "../../pieces/offer-names";
import { CALLED } from "../../offers/responses";
import { offerInWords } from "../../offers/sentence";
import { OfPlan, Paper, Part, useForecast } from "./paper";

export const TheCase = () => <OfPlan>{(saved, frame) => <OfThePlan {...{ saved, frame }} />}</OfPlan>;

function OfThePlan({ saved, frame }: { saved: SavedPlan; frame: Frame }) {
  const { plan } = saved;
  const { data: forecast, error } = useForecast(plan, frame.data_version);
  const { data: range } = useQuery({ queryKey: ["range", frame.data_version, plan], queryFn: ({ signal }) => ask<Range>("POST", "/forecast/range", plan, signal) });
  const { data: snags } = useQuery({ queryKey: ["snags", frame.data_version, plan], queryFn: ({ signal }) => ask<Snags>("POST", "/snags", plan, signal) });
  if (error)
    return (
      <p role="alert" className="px-7 py-6">
        {error.message}
      </p>
    );
  if (!forecast || !range || !snags) return <p className="px-7 py-6 text-answer">Putting it together…</p>;
  return (
    <Paper plan={saved} beside={{ path: "/handing-over", words: "Hand it over" }}>
      <Sheet {...{ plan, frame, forecast, range }} snags={snags.snags} />
    </Paper>
  );
}

interface SheetProps {
  plan: Plan;
  frame: Frame;
  forecast: Forecast;
  range: Range;
  snags: Snag[];
}

function Sheet({ plan, frame, forecast, range, snags }: SheetProps) {
  const { data: goods } = useNames();
  const running = useRunning();
  const whole = forecast.precision === "whole";
  const cash = (amount: number) => money(amount, frame, { whole });
  const told = (amount: number) => `${cash(Math.abs(amount))} ${amount < 0 ? "less" : "more"}`;
  const own = plan.offers.filter((one) => one.in_plan);
  return (
    <>
      <p className="text-small text-soft">
        {frame.name} · the case for it · {days(plan.first_day, plan.last_day)}
      </p>
      <h1 className="text-answer">{plan.name}</h1>
      <p className="mt-2 text-title font-semibold">{forecast.answer_text}</p>
      <p className="mt-1">
        {range.low < range.high ? (
          <>
            Nine times in ten it keeps between {told(range.low)} and {told(range.high)} than today; it beats today {inAHundred(range.beats)}.
          </>
        ) : (
          "No figure of the response has a range, so nothing is said of how sure this is."
        )}
        {forecast.most.amount !== null && ` It cannot give away more than ${cash(forecast.most.amount)}.`}
      </p>
      <Part title="What is offered">
        <ul className="grid gap-1.5">
          {own.map((offer) => (
            <li key={offer.id} className="break-inside-avoid">
              {offer.name && <strong>{offer.name}: </strong>}
              {offerInWords(offer, plan, frame, goods ?? [], running)}
            </li>
          ))}
          {own.length === 0 && <li>No offer is slid into the plan.</li>}
        </ul>
      </Part>
      <Part title="From today to the plan">
        <Bridge start={forecast.start} steps={forecast.bridge} of={forecast} whole={whole} />
      </Part>
      <Part title="What it rests on">
        <RestsOn {...{ plan, forecast }} />
      </Part>
      <Part title="What could go wrong">
        <Risks {...{ plan, frame, forecast, range, snags }} />
      </Part>
    </>
  );
}

function RestsOn({ plan, forecast }: Pick<SheetProps, "plan" | "forecast">) {
  const nameOf = useNameOf(plan);
  const said = plan.offers
    .filter((one) => one.in_plan)
    .flatMap(({ id, terms: { response } }) => (["uptake_bp", "take_up_bp", "top_up_bp", "shift_bp", "extra_bp", "borrowed_bp", "switched_bp"] as const).flatMap((figure) => (response[figure] === null ? [] : [`${nameOf(id)}, ${CALLED[figure]}: ${rate(response[figure]!)}`])));
  return (
    <ul className="grid gap-1">
      <li>
        {soMany(forecast.today.orders, "order")} over {soMany(forecast.days, "day")} as things stand, of {mixInWords(plan.mix || USUAL)}, going by {soMany(forecast.counted_days, "day")} of history; {count(forecast.plan.orders - forecast.today.orders, 1)} more under the plan.
      </li>
      <li>{said.length ? `What shoppers are expected to do: ${said.join("; ")}.` : "Nothing is said of how shoppers respond: it is the plain cost on the orders that come anyway."}</li>
      {forecast.caveats.map((one) => (
        <li key={one}>{one}</li>
      ))}
    </ul>
  );
}

/** The largest leak, what was set aside, and the figure that tells most: three lines at most of each. */
function Risks({ plan, frame, forecast, range, snags }: SheetProps) {
  const nameOf = useNameOf(plan);
  const cash = (amount: number) => money(amount, frame, { whole: true });
  const ways = forecast.rods.type?.length ? forecast.rods.type : forecast.rods.category;
  const worst = ways.reduce<(typeof ways)[number] | null>((most, rod) => (most && most.change <= rod.change ? most : rod), null);
  const open = snags.filter((one) => one.set_aside === null).toSorted((one, other) => (other.stake ?? 0) - (one.stake ?? 0));
  const aside = snags.filter((one) => one.set_aside !== null);
  const swing = range.swings[0];
  return (
    <ol className="grid list-decimal gap-1.5 ps-5">
      {worst && worst.change < 0 && (
        <li>
          It leaks most on carts of “{worst.label}”: {cash(-worst.change)} less than today{forecast.plan.orders_losing_money > forecast.today.orders_losing_money ? `; ${soMany(forecast.plan.orders_losing_money, "order", 1)} lose money, ${count(forecast.today.orders_losing_money, 1)} today` : ""}.
        </li>
      )}
      {swing && (
        <li>
          What tells most: {swing.offer === null || swing.figure === null ? "how many orders come" : `${nameOf(swing.offer)}, ${CALLED[swing.figure]}`}. At {share(swing.low)} it keeps {cash(Math.abs(swing.impact_at_low))} {swing.impact_at_low < 0 ? "less" : "more"} than today, at {share(swing.high)} {cash(Math.abs(swing.impact_at_high))} {swing.impact_at_high < 0 ? "less" : "more"}.
        </li>
      )}
      {open.slice(0, 1).map((one) => (
        <li key={one.key + one.offer}>
          {one.offer && `${nameOf(one.offer)}: `}
          {one.text}
          {one.stake !== null && one.stake > 0 && ` ${cash(one.stake)} are at stake.`}
          {open.length > 1 && ` And ${count(open.length - 1)} more snags are open.`}
        </li>
      ))}
      {aside.slice(0, 3).map((one) => (
        <li key={`aside ${one.key} ${one.offer}`}>
          Let be: {one.offer && `${nameOf(one.offer)}: `}
          {one.text} {one.set_aside && `(${one.set_aside})`}
        </li>
      ))}
    </ol>
  );
}
