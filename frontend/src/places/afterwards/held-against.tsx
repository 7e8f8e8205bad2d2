/** One kept forecast against what came: the sentence, each figure in or out of its range, and why it differs. */
import { Tabs } from "radix-ui";
import { useNavigate } from "react-router";

import { ask } from "../../api/client";
import type { Against, Drawn, Held, SavedPlan } from "../../api/types";
import { Bridge } from "../../pieces/bridge";
import { DayChart } from "../../pieces/day-chart";
import { count, days, money, share } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { useNotice } from "../../pieces/notice";
import { TabWords } from "../../pieces/tab-words";
import { keepCart } from "../../pieces/kept-cart";
import { AtTheTill, BehindParts, type InTill } from "./behind-parts";
import { asRan, type PastOffers } from "./use-past";

interface Props {
  /** The id of the forecast that was kept. */
  kept: number;
  against: Against;
  plans: SavedPlan[];
  past: PastOffers;
}

const NONE_MARKED = new Set<string>();

export function HeldAgainst({ kept, against, plans, past }: Props) {
  const profit = against.figures.find((one) => one.key === "profit");
  const saved = plans.find((one) => one.plan.name === against.plan) ?? null;
  const { fail } = useNotice();
  const go = useNavigate();
  const inTill = async (order: number) => {
    try {
      const drawn = await ask<Drawn>("POST", "/till/draw", { plan: saved!.plan, order });
      keepCart(drawn.cart);
      void go(`/till?plan=${saved!.id}`);
    } catch (error) {
      fail(error);
    }
  };
  return (
    <section aria-label={`What became of ${against.plan}`}>
      <p className="mt-1 text-body">
        <span className="font-head text-title">{against.plan}</span> · {days(against.first_day, against.last_day)}
      </p>
      <h1 className="mt-1 text-answer" data-testid="became">
        {against.sentence}
      </h1>
      {against.to_come && <p className="mt-1">{against.to_come}</p>}
      <div className="mt-3 grid grid-cols-[minmax(0,31rem)_minmax(0,1fr)] gap-x-8 gap-y-4 max-[1000px]:grid-cols-1">
        <Figures {...{ against }} />
        <Tabs.Root defaultValue="why">
          <div className="flex items-baseline justify-between">
            <h2 className="text-title">From the forecast to what came</h2>
            <TabWords label="From the forecast to what came" words={[["why", "why"], ["days", "by day"]]} />
          </div>
          <Tabs.Content value="why">
            {profit && <Bridge start={Math.round(profit.expected)} steps={against.split} of={against} whole ends={["Expected", "What came"]} />}
            <BehindParts {...{ against, kept, inTill: saved ? inTill : null }} />
          </Tabs.Content>
          <Tabs.Content value="days">
            <DayChart days={against.by_day.map((one) => ({ day: one.day, kept: one.kept, kept_today: one.kept_expected }))} of={against} marked={NONE_MARKED} beside="expected" />
          </Tabs.Content>
        </Tabs.Root>
      </div>
      {against.difference && <p className="mt-3">{against.difference.says}</p>}
      {against.came_back && <p className="mt-3">{against.came_back.says}</p>}
      {against.costs.map((one) => (
        <p key={one.says} className="mt-3">
          {one.says}
        </p>
      ))}
      {saved && <LearnFrom {...{ saved, past }} />}
      <SetUpWrong {...{ against, inTill: saved ? inTill : null }} />
    </section>
  );
}

/** The plan's offers, told as offers that ran, so that history says how shoppers responded to them. */
function LearnFrom({ saved, past }: { saved: SavedPlan; past: PastOffers }) {
  const { say } = useNotice();
  const { plan } = saved;
  const untold = plan.offers.filter((offer) => offer.in_plan && !past.offers.some((one) => one.id === offer.id));
  if (untold.length === 0) return null;
  const tell = () => {
    past.put((offers) => [...offers, ...untold.filter((offer) => !offers.some((one) => one.id === offer.id)).map((offer) => asRan(offer, plan))]);
    say("Below, history says how shoppers responded to them; take over what you believe.");
  };
  return (
    <p className="mt-3">
      <button type="button" className="press" onClick={tell}>
        Learn from {untold.length === 1 ? "its offer" : `its ${count(untold.length)} offers`}
      </button>
    </p>
  );
}

function Figures({ against }: { against: Against }) {
  const cash = (value: number) => money(value, against, { whole: true });
  return (
    <table className="figures w-full self-start">
      <Headings>
        <Heading unseen>Figure</Heading>
        <Heading n>expected</Heading>
        <Heading n>came</Heading>
        <Heading className="ps-4!">within its range</Heading>
      </Headings>
      <tbody>
        {against.figures.map((one) => (
          <Row key={one.key} held={one} label={one.label} tell={one.key === "orders" ? count : cash} />
        ))}
        {against.offers.flatMap((offer) => [
          <Row key={`${offer.id} uses`} held={offer.uses} label={`${offer.name}: uses`} tell={count} />,
          <Row key={`${offer.id} given`} held={offer.given_away} label={`${offer.name}: given away`} tell={cash} />,
        ])}
      </tbody>
    </table>
  );
}

function Row({ held, label, tell }: { held: Held; label: string; tell: (value: number) => string }) {
  return (
    <tr>
      <th scope="row" className="max-w-44 truncate font-normal!" title={label}>
        {label}
      </th>
      <td className="n">{tell(Math.round(held.expected))}</td>
      <td className="n font-semibold">{tell(Math.round(held.came))}</td>
      <td className="ps-4!">
        <Within {...{ held, tell }} />
      </td>
    </tr>
  );
}

const [WIDE, EDGE, MIDDLE] = [124, 9, 11];

/** The range as a piece of rod, what was expected as a mark, and what came as a bead: notched where it is outside. */
function Within({ held, tell }: { held: Held; tell: (value: number) => string }) {
  const [least, most] = [Math.min(held.low, held.came), Math.max(held.high, held.came)];
  const room = (most - least) * 0.12 || 1;
  const at = (value: number) => EDGE + ((value - least + room) / (most - least + 2 * room)) * (WIDE - 2 * EDGE);
  const says = `between ${tell(Math.round(held.low))} and ${tell(Math.round(held.high))} expected, ${tell(Math.round(held.came))} came: ${held.inside ? "inside" : "outside"}`;
  const x = at(held.came);
  return (
    <svg width={WIDE + 52} height={22} role="img" aria-label={says}>
      <title>{says}</title>
      <line x1={EDGE} x2={WIDE - EDGE} y1={MIDDLE} y2={MIDDLE} stroke="var(--color-line)" strokeWidth={2} />
      <line x1={at(held.low)} x2={at(held.high)} y1={MIDDLE} y2={MIDDLE} stroke="var(--color-tax)" strokeWidth={6} />
      <line x1={at(held.expected)} x2={at(held.expected)} y1={MIDDLE - 8} y2={MIDDLE + 8} stroke="var(--color-ink)" strokeWidth={2} strokeDasharray="2.5 2" />
      {held.inside ? (
        <circle cx={x} cy={MIDDLE} r={6} fill="var(--color-ink)" />
      ) : (
        <path d={`M${x - 7} ${MIDDLE - 6}h14l-4 6l4 6h-14l4 -6z`} fill="var(--color-loss)" stroke="var(--color-ink)" />
      )}
      <text x={WIDE + 2} y={MIDDLE + 4} fontSize={11.5} fill="var(--color-ink)">
        {held.inside ? "inside" : "outside"}
      </text>
    </svg>
  );
}

/** Where the shop seems to be set up otherwise than the plan. */
function SetUpWrong({ against, inTill }: { against: Against; inTill: InTill | null }) {
  const { odd, others, unknown_codes: codes, told } = against;
  if (odd.length === 0 && codes.length === 0) return told === 0 ? <p className="mt-3 text-small text-soft">These orders do not tell what was paid, so what the plan says is taken for it.</p> : null;
  const delivered = odd.some((one) => one.delivery_paid !== one.delivery_should);
  return (
    <section aria-labelledby="odd-title" className="mt-4">
      <h2 id="odd-title" className="text-title">
        Is the shop set up as the plan says?
      </h2>
      {codes.map((one) => (
        <p key={one.code}>
          {count(one.orders)} {one.orders === 1 ? "order" : "orders"} used <strong>{one.code}</strong>, which no offer of this plan knows.
        </p>
      ))}
      {odd.length > 0 && (
        <>
          <p>
            {count(odd.length + others)} {odd.length + others === 1 ? "order" : "orders"} paid otherwise than the plan says{told < 1 && `; ${share(told)} of all tell what was paid for their goods`}.
          </p>
          <table className="figures mt-1 text-small">
            <Headings>
              <Heading>Order</Heading>
              <Heading>Day</Heading>
              <Heading n>goods paid</Heading>
              <Heading n>should be</Heading>
              {delivered && (
                <>
                  <Heading n>delivery paid</Heading>
                  <Heading n>should be</Heading>
                </>
              )}
              <Heading n>difference</Heading>
              <Heading unseen>At the Till</Heading>
            </Headings>
            <tbody>
              {odd.slice(0, SHOWN).map((one) => (
                <tr key={one.order_id}>
                  <th scope="row">{one.number}</th>
                  <td>{days(one.day, one.day, false)}</td>
                  <td className="n">{money(one.paid, against)}</td>
                  <td className="n">{money(one.should, against)}</td>
                  {delivered && (
                    <>
                      <td className="n">{money(one.delivery_paid, against)}</td>
                      <td className="n">{money(one.delivery_should, against)}</td>
                    </>
                  )}
                  <td className="n">{money(one.paid - one.should + one.delivery_paid - one.delivery_should, against, { signed: true })}</td>
                  <td className="ps-4!">
                    {inTill && <AtTheTill number={one.number} see={() => void inTill(one.order_id)} />}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </section>
  );
}

/** Odd orders shown, those furthest off. */
const SHOWN = 8;
