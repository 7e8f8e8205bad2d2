/** What orders paid for delivery: whether an option asks just that, and options of theirs that the shop does not have. */
import { useToldOfDelivery } from "../../api/queries";
import type { DeliveryOption, DeliveryPaid, Frame, Zone } from "../../api/types";
import { cash, count, soMany } from "../../pieces/figures";
import { folded } from "../../pieces/lists";
import { chargeInWords } from "./charge-word";
import { freshOption } from "./fresh-option";
import { type Choose, useAdding, useChanges, useShop } from "./saving";

/** The name of an option where orders name none. */
const UNNAMED = "Delivery";
/** Options that orders name and a zone does not have, up to so many. */
const MOST_NAMED = 12;
/** How near to what most paid an option's charge comes that needs no word: a hundredth of the orders. */
const NEAR = 0.01;

const named = (one: DeliveryPaid) => one.option || UNNAMED;

const asPaid = (one: DeliveryPaid): DeliveryOption => ({ ...freshOption(named(one), one.share_bp), charge: one.charge, free_from: one.free_from });

function inWords(one: DeliveryPaid, frame: Frame): string {
  const free = one.free_from == null ? "" : `, and nothing from ${cash(one.free_from, frame)}`;
  return chargeInWords(one.charge, frame) + free;
}

/** Of which days orders are, null for all; behind which. */
export const inTheLast = (days: number | null) => (days === null ? "" : ` in the last ${days} days`);

export const whose = (one: Pick<DeliveryPaid, "option" | "days">) => `orders${one.option ? ` by ${one.option}` : ""}${inTheLast(one.days)}`;

/** From where on an option is free, where no order tells of that: none came to so much. */
const unreached = (option: DeliveryOption, one: DeliveryPaid) => (option.free_from != null && option.free_from > one.dearest ? option.free_from : null);

/** What most of those paid that did not pay what is told, as the end of a sentence. */
const others = (one: DeliveryPaid, frame: Frame) => (one.another === null ? "" : `; others most often ${one.another ? cash(one.another, frame) : "nothing"}`);

/** Those of a zone that the shop has no option for; orders that name none tell of one where nothing else does. */
function missing(paid: DeliveryPaid[], zone: Zone): DeliveryPaid[] {
  const here = paid.filter((one) => one.zone === zone.name);
  const bare = zone.options.length === 0 && here.every((one) => !one.option);
  return here.filter((one) => one.ours.length === 0 && (one.option || bare));
}

export function PaidAsAsked({ zone, zoneAt, option, at }: { zone: Zone; zoneAt: number; option: DeliveryOption; at: number }) {
  const { frame } = useShop();
  const { data } = useToldOfDelivery();
  const change = useChanges();
  const one = data?.paid.find((paid) => paid.zone === zone.name && paid.ours.length === 1 && paid.ours[0] === option.name);
  if (!one) return null;
  const isAsked = one.as_asked + NEAR * one.orders >= one.exact;
  const rest = isAsked ? others(one, frame) : "";
  return (
    <p className="mt-2 text-small text-soft">
      {one.as_asked === one.orders ? `All ${count(one.orders)} ${whose(one)} paid just this.` : `Of ${count(one.orders)} ${whose(one)}, ${one.as_asked ? count(one.as_asked) : "none"} paid just this${rest}.`}
      {!isAsked && (
        <>
          {" "}
          <strong className="text-ink">
            {count(one.exact)} paid {inWords(one, frame)}.
          </strong>{" "}
          <button type="button" className="quiet" onClick={() => void change.option(zoneAt, at, { charge: one.charge, free_from: one.free_from ?? unreached(option, one) })}>
            Take that
          </button>
        </>
      )}
    </p>
  );
}

/** Of orders that name no option, where the zone has several. */
export function PaidByAny({ zone }: { zone: Zone }) {
  const { data } = useToldOfDelivery();
  const one = data?.paid.find((paid) => paid.zone === zone.name && paid.ours.length > 1);
  if (!one) return null;
  return (
    <p className="mt-2 text-small text-soft">
      Of {count(one.orders)} {whose(one)} that name no option, {one.as_asked ? count(one.as_asked) : "none"} paid just what one of these asks.
    </p>
  );
}

export function PaidBesides({ zone, at, choose }: { zone: Zone; at: number; choose: Choose }) {
  const { frame } = useShop();
  const { data } = useToldOfDelivery();
  const add = useAdding(zone, at, choose);
  return missing(data?.paid ?? [], zone).map((one) => (
    <p key={one.option} className="mt-2 text-small">
      {one.exact === one.orders ? `${count(one.orders)} ${whose(one)} paid ` : `Of ${count(one.orders)} ${whose(one)}, ${count(one.exact)} paid just `}
      <strong>{inWords(one, frame)}</strong>
      {others(one, frame)}.{" "}
      <button type="button" className="quiet" onClick={() => add(asPaid(one))}>
        {one.option ? `Add ${one.option}` : "Add an option that asks this"}
      </button>
    </p>
  ));
}

/** Options that orders name without telling what they paid, and that the zone does not have. */
export function NamedBesides({ zone, at, choose }: { zone: Zone; at: number; choose: Choose }) {
  const { data } = useToldOfDelivery();
  const add = useAdding(zone, at, choose);
  if (!data) return null;
  const told = data.options.filter((one) => one.zone === zone.name);
  const known = [...zone.options.map((one) => one.name), ...data.paid.filter((one) => one.zone === zone.name).map((one) => one.option)].map(folded);
  const besides = told.filter((one) => !known.includes(folded(one.option))).slice(0, MOST_NAMED);
  const whole = told.reduce((sum, one) => sum + one.orders, 0);
  return besides.map(({ option, orders }) => (
    <p key={option} className="mt-2 text-small">
      {soMany(orders, "order")} {orders === 1 ? "names" : "name"} {option}, which is not here{zone.options.length > 0 && `, and ${orders === 1 ? "is" : "are"} taken as gone by any`}.{" "}
      <button type="button" className="quiet" onClick={() => add(freshOption(option, Math.round((orders / whole) * 10_000)))}>
        Add {option}
      </button>
    </p>
  ));
}

/** All at once, where there are several. */
export function AddAllPaid() {
  const { delivery } = useShop();
  const { data } = useToldOfDelivery();
  const change = useChanges();
  const paid = data?.paid ?? [];
  const zones = delivery.zones.filter((zone) => missing(paid, zone).length);
  const many = zones.reduce((sum, zone) => sum + missing(paid, zone).length, 0);
  if (many < 2) return null;
  return (
    <p className="mt-2 text-small">
      Orders tell what {count(many)} options charge that are not here{zones.length > 1 && `, in ${count(zones.length)} zones`}.{" "}
      <button
        type="button"
        className="quiet"
        onClick={() => void change.zones((all) => all.map((zone) => ({ ...zone, options: [...zone.options, ...missing(paid, zone).map(asPaid)] })))}
      >
        Add all of them
      </button>
    </p>
  );
}
