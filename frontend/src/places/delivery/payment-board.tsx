/** Ways to pay: what each costs, and how many pay so where an order does not say. */
import { useToldOfDelivery } from "../../api/queries";
import type { BeingPaid, PaymentMethod, Refusals } from "../../api/types";
import { count, listed, money, rate } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { changedAt, folded } from "../../pieces/lists";
import { SavedNumber } from "../../pieces/saved-number";
import { BesideSet, compared, Told } from "./beside-set";
import { areNamed, sharesNamed } from "./named-shares";
import { NewName } from "./new-name";
import { inTheLast } from "./paid-by-orders";
import { moneyBox, PERCENT, useChanges, useShop, Wrong } from "./saving";

/** Whether a way to pay costs what orders paid so did. */
function CostAsSet({ told, take }: { told: BeingPaid; take: (told: BeingPaid) => void }) {
  const { frame } = useShop();
  const one = { cost: told.cost, set: told.by_ours, orders: told.orders, exact: told.exact };
  const parts = [...(told.cost_bp ? [`${rate(told.cost_bp)} of the total`] : []), ...(told.fixed ? [money(told.fixed, frame)] : [])];
  return (
    <BesideSet
      one={one}
      says={compared(one, `orders paid by ${told.payment}${inTheLast(told.days)}`, "to be paid", { same: "as is said here", other: "said here" }, frame)}
      prices={listed(parts)}
      button={{ change: "Take that", begin: "Take that" }}
      unseen={` for ${told.payment}`}
      take={() => take(told)}
    />
  );
}

/** How many orders were refused on the way, to be taken where that is not what is said. */
function RefusedAsSet({ told, take }: { told: Refusals; take: () => void }) {
  const { payment, days, orders, refused, share_bp, said_bp, clearly } = told;
  const up = days === null ? "" : `, in the ${days} days up to ${told.on_the_way} days before the last order`;
  const whose = `orders${payment && ` paid by ${payment}`}`;
  const were = `${refused ? count(refused) : "None"} of ${count(orders)} ${whose} ${refused > 1 ? "were" : "was"} refused on the way or not fetched${up}`;
  const said = rate(said_bp ?? 0);
  const beside = clearly
    ? `, ${share_bp > (said_bp ?? 0) ? "more" : "less"} than the ${said} said here.`
    : `${refused ? `: ${rate(share_bp)}` : ""}, ${share_bp === said_bp ? "as is" : `near the ${said}`} said here.`;
  return <Told says={`${were}${beside}`} found={clearly ? `That is ${rate(share_bp)}.` : null} button="Take that" unseen={` as the share of ${whose} that are refused`} take={take} />;
}

/** Ways to pay that orders name and the shop does not have, up to so many. */
const MOST_NAMED = 12;

export function PaymentBoard() {
  const { frame, delivery } = useShop();
  const change = useChanges();
  const all = delivery.settings.payments;
  const put = (payments: PaymentMethod[]) => void change.settings({ payments });
  const set = (at: number, part: Partial<PaymentMethod>) => put(changedAt(all, at, part));
  const { data } = useToldOfDelivery();
  const told = data?.payments.map(({ payment, orders }) => ({ name: payment, orders })) ?? [];
  const named = sharesNamed(all.map((one) => one.name), told);
  const cost = (name: string) => data?.being_paid.find((one) => folded(one.payment) === folded(name));
  const refused = (name: string) => data?.refused.find((one) => folded(one.payment) === folded(name));
  const ofAll = refused("");
  const add = (name: string) => {
    const { cost_bp, fixed } = cost(name) ?? { cost_bp: 0, fixed: 0 };
    const refused_bp = (refused(name) ?? ofAll)?.share_bp ?? 0;
    const [share_bp] = sharesNamed([name, ...told.map((one) => one.name).filter((one) => one !== name)], told) ?? [];
    put([...all, { name, cost_bp, fixed, share_bp: share_bp ?? (all.length ? 0 : 10_000), refused_bp }]);
  };
  const here = new Set(all.map((one) => one.name.toLowerCase()));
  const besides = frame.shoppers.payments.filter((name) => !here.has(name.toLowerCase()));
  const example = 50 * frame.round_amount;
  return (
    <section aria-label="Payment" className="max-w-5xl">
      {all.length === 0 ? (
        <p className="text-soft">No way to pay yet: being paid costs you nothing in every forecast.</p>
      ) : (
        <table className="figures">
          <Headings>
            <Heading>Paid by</Heading>
            <Heading n>Of the total</Heading>
            <Heading n>and for each order</Heading>
            <Heading n>Share who pay so</Heading>
            {named && <Heading n>in your orders</Heading>}
            <Heading n>Cancelled or refused</Heading>
            <Heading n>An order of {money(example, frame, { whole: true })} costs you</Heading>
            <Heading unseen>Take away</Heading>
          </Headings>
          <tbody>
            {all.map((one, at) => (
              <tr key={one.name}>
                <th scope="row" className="text-ink!">
                  {one.name}
                </th>
                <td className="n">
                  <SavedNumber {...PERCENT} step={10} mayBeEmpty={false} label={`Of the total, ${one.name}`} value={one.cost_bp} save={(cost_bp) => cost_bp !== null && set(at, { cost_bp })} />
                </td>
                <td className="n">
                  <SavedNumber {...moneyBox(frame)} fine mayBeEmpty={false} label={`For each order, ${one.name}`} value={one.fixed} save={(fixed) => fixed !== null && set(at, { fixed })} />
                </td>
                <td className="n">
                  <SavedNumber {...PERCENT} mayBeEmpty={false} label={`Share who pay by ${one.name}`} value={one.share_bp} save={(share_bp) => share_bp !== null && set(at, { share_bp })} />
                </td>
                {named && <td className="n">{rate(Math.round(named[at]! / 10) * 10)}</td>}
                <td className="n">
                  <SavedNumber {...PERCENT} step={10} mayBeEmpty={false} label={`Cancelled or refused, ${one.name}`} value={one.refused_bp} save={(refused_bp) => refused_bp !== null && set(at, { refused_bp })} />
                </td>
                <td className="n">{money((example * one.cost_bp) / 10_000 + one.fixed, frame)}</td>
                <td className="ps-4!">
                  <button type="button" className="quiet text-small" onClick={() => put(all.toSpliced(at, 1))}>
                    Take away<span className="sr-only"> {one.name}</span>
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {named && !areNamed(all.map((one) => one.share_bp), named) && (
        <p className="mt-2 text-small">
          <button type="button" className="quiet" onClick={() => put(all.map((one, at) => ({ ...one, share_bp: named[at] ?? one.share_bp })))}>
            Take the shares of your orders
          </button>
        </p>
      )}
      {all.map((one, at) => {
        const told = cost(one.name);
        return told && <CostAsSet key={one.name} told={told} take={({ cost_bp, fixed }) => set(at, { cost_bp, fixed })} />;
      })}
      {all.map((one, at) => {
        const told = refused(one.name);
        return told && <RefusedAsSet key={one.name} told={told} take={() => set(at, { refused_bp: told.share_bp })} />;
      })}
      {ofAll && all.length > 0 && <RefusedAsSet told={ofAll} take={() => put(all.map((one) => ({ ...one, refused_bp: ofAll.share_bp })))} />}
      {data && besides.length > 0 && (
        <p className="mt-3">
          Orders name {besides.length === 1 ? "a way to pay that is" : "ways to pay that are"} not here{all.length > 0 && ", and are taken as paid in any way"}:{" "}
          {besides.slice(0, MOST_NAMED).map((name) => (
            <button key={name} type="button" className="quiet me-3" onClick={() => add(name)}>
              Add {name}
            </button>
          ))}
        </p>
      )}
      <p className="mt-2 text-small text-soft">Shares serve where an order does not say how it was paid; together they count as everybody. An order cancelled or refused on the way brings nothing: its goods come back like returns, carriage and payment stay spent.</p>
      <p className="mt-3">
        <NewName title="A further way to pay" button="Add a way to pay" taken={all.map((one) => one.name)} make={add} />
      </p>
      <Wrong />
    </section>
  );
}
