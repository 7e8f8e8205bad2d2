/** Who brings the cart, where it goes and when, as a sentence: every word of it can be set. */
import { useDelivery, useRunning } from "../../api/queries";
import type { Cart, Frame, Plan } from "../../api/types";
import { count, days, listed } from "../../pieces/figures";
import { Labelled } from "../../pieces/labelled";
import { namesIn } from "../../pieces/lists";
import { NumberBox } from "../../pieces/number-box";
import { Slip } from "../../pieces/slip";
import { Choices, DayBox, Ticks, TimeBox, Word } from "../../pieces/words";

interface SentenceProps {
  cart: Cart;
  plan: Plan;
  frame: Frame;
  /** The option it goes by most likely, where none is chosen. */
  likeliest: string;
  change: (make: (cart: Cart) => Cart) => void;
}

const WEEKDAY = new Intl.DateTimeFormat("en-GB", { weekday: "long", timeZone: "UTC" });

export function CartSentence({ cart, plan, frame, likeliest, change }: SentenceProps) {
  const { data: delivery } = useDelivery();
  const running = useRunning();
  const put = (part: Partial<Cart>) => change((before) => ({ ...before, ...part }));
  const options = delivery?.zones.find((zone) => zone.name === cart.zone)?.options.map((option) => option.name) ?? [];
  const [day, clock] = (cart.time ?? `${plan.first_day}T12:00:00`).split("T") as [string, string];
  const minute = Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3, 5));
  const at = (newDay: string, newMinute: number) =>
    put({ time: `${newDay}T${String(Math.floor(newMinute / 60)).padStart(2, "0")}:${String(newMinute % 60).padStart(2, "0")}:00` });
  const codes = [...new Set([...plan.offers, ...running].flatMap(({ terms: { given } }) => (given.by === "itself" ? [] : given.by === "codes" ? given.codes.slice(0, 3) : [given.code])))];
  return (
    <p className="max-w-[52rem] text-sentence">
      Sent to{" "}
      <Slip title="Where it goes" trigger={<Word>{cart.zone || "nowhere"}</Word>}>
        <Choices label="Zone" value={cart.zone} onChange={(zone) => put({ zone, option: "" })} options={frame.zones.map((zone) => [zone, zone] as const)} />
      </Slip>{" "}
      by{" "}
      <Slip title="How it is delivered" trigger={<Word>{cart.option || (likeliest ? `${likeliest}, most likely` : "any delivery")}</Word>}>
        <Choices label="Option of delivery" value={cart.option} onChange={(option) => put({ option })} options={[["", "Not known: as such shoppers choose"], ...options.map((option) => [option, option] as const)]} />
      </Slip>
      , paid{" "}
      <Slip title="How it is paid" trigger={<Word>{cart.payment ? `by ${cart.payment}` : "any way"}</Word>}>
        <Choices label="Way of paying" value={cart.payment} onChange={(payment) => put({ payment })} options={[["", "Not known: any way"], ...frame.shoppers.payments.map((one) => [one, one] as const)]} />
      </Slip>
      , on{" "}
      <Slip title="When it comes" trigger={<Word>{`${WEEKDAY.format(new Date(day))}, ${days(day, day, false)}, ${Math.floor(minute / 60)}:${String(minute % 60).padStart(2, "0")}`}</Word>}>
        <div className="flex gap-3">
          <DayBox label="Day" value={day} onChange={(next) => next && at(next, minute)} />
          <TimeBox label="Time" value={minute} onChange={(next) => at(day, next ?? 0)} />
        </div>
      </Slip>
      , by <ShopperWord {...{ cart, frame, put }} />, with{" "}
      <Slip title="Which codes the shopper has" trigger={<Word>{cart.codes.length ? listed(cart.codes) : "no code"}</Word>}>
        {codes.length > 0 && <Ticks label="Codes of the plan" shown all={codes} ticked={cart.codes.filter((code) => codes.includes(code))} onChange={(ticked) => put({ codes: [...cart.codes.filter((code) => !codes.includes(code)), ...ticked] })} />}
        <Labelled className="mt-2" label="Other codes, one a line">
          {(id) => <textarea id={id} rows={2} className="w-full" defaultValue={cart.codes.filter((code) => !codes.includes(code)).join("\n")} onChange={(event) => put({ codes: [...cart.codes.filter((code) => codes.includes(code)), ...namesIn(event.target.value)] })} />}
        </Labelled>
      </Slip>
      .
    </p>
  );
}

type ShopperProps = Pick<SentenceProps, "cart" | "frame"> & { put: (part: Partial<Cart>) => void };

function ShopperWord({ cart, frame, put }: ShopperProps) {
  const { shopper } = cart;
  const set = (part: Partial<Cart["shopper"]>) => put({ shopper: { ...shopper, ...part } });
  const which = shopper.orders_before === null ? "unknown" : shopper.orders_before === 0 ? "first" : "later";
  return (
    <Slip title="Who brings it" width={360} trigger={<Word>{shopperInWords(cart)}</Word>}>
      <Choices
        label="Which order of the shopper"
        value={which}
        onChange={(next) => set({ orders_before: next === "unknown" ? null : next === "first" ? 0 : 1, days_since: null })}
        options={[
          ["unknown", "Nobody knows who it is"],
          ["first", "It is a first order"],
          ["later", "There were orders before"],
        ]}
      />
      {which === "later" && (
        <div className="mt-1 flex gap-4 ps-8">
          <NumberBox label="Orders before" value={shopper.orders_before} scale={1} step={1} least={1} most={1000} width="4.5rem" onChange={(orders_before) => set({ orders_before })} />
          <NumberBox label="Days since the last" value={shopper.days_since} scale={1} step={10} least={0} most={3660} width="4.5rem" onChange={(days_since) => set({ days_since })} onClear={() => set({ days_since: null })} />
        </div>
      )}
      {frame.shoppers.groups.length > 0 && (
        <Labelled className="mt-2" label="Group">
          {(id) => (
            <select id={id} value={shopper.group} onChange={(event) => set({ group: event.target.value })}>
              <option value="">none</option>
              {frame.shoppers.groups.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          )}
        </Labelled>
      )}
      {frame.shoppers.tags.length > 0 && <Ticks label="Tags" shown all={frame.shoppers.tags} ticked={shopper.tags} onChange={(tags) => set({ tags })} />}
      {frame.shoppers.channels.length > 0 && (
        <Labelled className="mt-2" label="Comes by">
          {(id) => (
            <select id={id} value={cart.channel} onChange={(event) => put({ channel: event.target.value })}>
              <option value="">not known</option>
              {frame.shoppers.channels.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          )}
        </Labelled>
      )}
    </Slip>
  );
}

function shopperInWords({ shopper, channel }: Cart): string {
  const who =
    shopper.orders_before === null
      ? "a shopper nobody knows"
      : shopper.orders_before === 0
        ? "a first-time shopper"
        : `a shopper of ${count(shopper.orders_before)} earlier ${shopper.orders_before === 1 ? "order" : "orders"}`;
  const marks = [shopper.group, ...shopper.tags, channel].filter(Boolean);
  return marks.length ? `${who} (${marks.join(", ")})` : who;
}
