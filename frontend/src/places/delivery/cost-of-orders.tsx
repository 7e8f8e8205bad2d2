/** What orders cost to deliver: whether the tariffs of an option say just that, and tariffs of what they cost. */
import { useToldOfDelivery } from "../../api/queries";
import type { DeliveryCost, DeliveryOption, Frame, Zone } from "../../api/types";
import { count, kilograms, listed, money } from "../../pieces/figures";
import { BesideSet, compared } from "./beside-set";
import { whose } from "./paid-by-orders";
import { plainZones, useShop } from "./saving";

function pricesInWords({ tariff: { steps, per_kilogram } }: DeliveryCost, frame: Frame): string {
  const by = steps.map((step) => (step.upto === null ? (steps.length === 1 ? `${money(step.amount, frame)} each` : `${money(step.amount, frame)} beyond`) : `${money(step.amount, frame)} up to ${kilograms(step.upto)}`));
  return listed(per_kilogram === null ? by : [...by, `${money(per_kilogram, frame)} for each kilogram more`]);
}

const beside = ({ cost, by_tariffs, orders, exact }: DeliveryCost) => ({ cost, set: by_tariffs, orders, exact });

const inWords = (one: DeliveryCost, frame: Frame) => compared(beside(one), whose(one), "to deliver", { same: "as your tariffs say", other: "of your tariffs" }, frame);

const told = (cost: DeliveryCost[], zone: string, option: string) => cost.find((one) => one.zone === zone && one.ours.length === 1 && one.ours[0] === option);

/** Going by tariffs of what orders cost. */
function useGoByCosts() {
  const { save } = useShop();
  return (ways: { zone: string; option: string }[]) => void save({ path: "/delivery/tariffs-of-costs", method: "POST", body: () => ({ ways }) });
}

export function CostAsPriced({ zone, option }: { zone: Zone; option: DeliveryOption }) {
  const { frame } = useShop();
  const { data } = useToldOfDelivery();
  const goBy = useGoByCosts();
  const one = told(data?.cost ?? [], zone.name, option.name);
  if (!one) return null;
  return (
    <BesideSet
      one={beside(one)}
      says={inWords(one, frame)}
      prices={pricesInWords(one, frame)}
      button={{ change: "Go by that", begin: "Make that its tariff" }}
      take={() => goBy([{ zone: zone.name, option: option.name }])}
    />
  );
}

/** Of orders that name no option, where the zone has several. */
export function CostOfAny({ zone }: { zone: Zone }) {
  const { frame } = useShop();
  const { data } = useToldOfDelivery();
  const one = data?.cost.find((cost) => cost.zone === zone.name && cost.ours.length > 1);
  return one ? <p className="mt-2 text-small text-soft">Naming no option, {inWords(one, frame)}</p> : null;
}

/** All at once, where there are several without a tariff. */
export function PriceAllByCost() {
  const { delivery } = useShop();
  const { data } = useToldOfDelivery();
  const goBy = useGoByCosts();
  const ways = plainZones(delivery).flatMap(({ name, options }) =>
    options.filter((option) => option.tariffs.length === 0 && told(data?.cost ?? [], name, option.name)).map((option) => ({ zone: name, option: option.name })),
  );
  if (ways.length < 2) return null;
  return (
    <p className="mt-2 text-small">
      Orders tell what {count(ways.length)} options cost that have no tariff.{" "}
      <button type="button" className="quiet" onClick={() => goBy(ways)}>
        Make tariffs of that
      </button>
    </p>
  );
}
