/** The shopper's slip: what is in the cart, what each offer took off, and what there is to pay, offer by offer. */
import { RadioGroup } from "radix-ui";
import type { KeyboardEvent } from "react";

import type { Cart, Frame, Named, Way } from "../../api/types";
import { money } from "../../pieces/figures";
import { Heading } from "../../pieces/headings";
import { NumberBox } from "../../pieces/number-box";
import { nameOfSku } from "../../pieces/product-picker";
import { setUnits } from "./carts";

interface SlipProps {
  cart: Cart;
  way: Way;
  frame: Frame;
  goods: Named[];
  nameOf: (offer: string) => string;
  /** After how many steps it is looked at. */
  step: number;
  change: (make: (cart: Cart) => Cart) => void;
}

export function ShoppersSlip({ cart, way, frame, goods, nameOf, step, change }: SlipProps) {
  const { plan, steps } = way;
  const done = steps.slice(0, step);
  const [onGoods, onDelivery] = [new Set(done.filter((one) => one.on === "goods").map((one) => one.offer)), new Set(done.filter((one) => one.on === "delivery").map((one) => one.offer))];
  const goodsDone = steps.every((one, at) => one.on === "delivery" || at < step);
  const whole = step >= steps.length;
  const cash = (amount: number) => money(amount, frame);
  const lineOf = (sku: string) => plan.lines.find((line) => line.sku === sku);
  const takenFrom = (taken: { offer: string; amount: number }[], by: Set<string>) => taken.filter((one) => by.has(one.offer));
  const sum = (taken: { amount: number }[]) => taken.reduce((all, one) => all + one.amount, 0);
  const deliveryOff = takenFrom(plan.delivery_taken_off, onDelivery);
  const putIn = plan.put_in.filter((one) => onGoods.has(one.offer));
  return (
    <table className="figures w-full">
      <thead className="sr-only">
        <tr>
          <Heading>Units</Heading>
          <Heading>What</Heading>
          <Heading>Amount</Heading>
        </tr>
      </thead>
      <tbody>
        {cart.lines.map(({ sku, quantity }) => {
          const line = lineOf(sku);
          const off = line ? takenFrom(line.taken_off, onGoods) : [];
          const before = line ? line.standing * line.quantity : 0;
          return (
            <tr key={sku} className="align-top">
              <td className="w-16">
                <NumberBox label={`How many ${nameOfSku(sku, goods)}`} hideLabel value={quantity} scale={1} step={1} least={0} most={100_000} width="3.4rem" onChange={(next) => change((now) => setUnits(now, sku, next))} />
              </td>
              <td className="pt-1!">
                {nameOfSku(sku, goods)} <span className="text-small text-soft">{line ? `at ${cash(line.standing)}` : sku}</span>
                {off.map((one) => (
                  <span key={one.offer} className="block text-small text-soft">
                    {nameOf(one.offer)}
                  </span>
                ))}
              </td>
              <td className="n pt-1!">
                {line && cash(before)}
                {off.map((one) => (
                  <span key={one.offer} className="block text-small text-soft">
                    {cash(-one.amount)}
                  </span>
                ))}
              </td>
            </tr>
          );
        })}
        {putIn.map((one) => (
          <tr key={`${one.offer} ${one.sku}`}>
            <td className="ps-3">{one.quantity}</td>
            <td>
              {nameOfSku(one.sku, goods)} <span className="text-small text-soft">put in by {nameOf(one.offer)}</span>
            </td>
            <td className="n">{cash(one.asked)}</td>
          </tr>
        ))}
        <Row label={goodsDone ? (plan.option ? `Delivery: ${plan.option}` : "Delivery") : "Delivery"} amount={goodsDone ? cash(plan.delivery_before_offers) : "once goods are settled"} faint={!goodsDone}>
          {goodsDone && deliveryOff.map((one) => <Row key={one.offer} label={nameOf(one.offer)} amount={cash(-one.amount)} faint />)}
        </Row>
        {plan.surcharges !== 0 && <Row label="Surcharges" amount={cash(plan.surcharges)} />}
        {whole && !frameIncludesTax(way) && <Row label="Tax" amount={cash(plan.tax)} />}
        <tr className="sum">
          <td />
          <td>{whole ? "To pay" : "Goods so far"}</td>
          <td className="n" data-testid="to-pay">
            {cash(whole ? plan.total : plan.lines.reduce((all, line) => all + line.standing * line.quantity - sum(takenFrom(line.taken_off, onGoods)), 0) + putIn.reduce((all, one) => all + one.asked, 0))}
          </td>
        </tr>
        {whole && frameIncludesTax(way) && plan.tax !== 0 && <Row label="of which tax" amount={cash(plan.tax)} faint />}
      </tbody>
    </table>
  );
}

/** Whether prices hold their tax: then it is not added to what there is to pay. */
const frameIncludesTax = ({ plan }: Way): boolean => plan.goods + plan.delivery + plan.surcharges === plan.total;

function Row({ label, amount, faint = false, children }: { label: string; amount: string; faint?: boolean; children?: React.ReactNode }) {
  return (
    <>
      <tr className={faint ? "text-small text-soft" : ""}>
        <td />
        <td>{label}</td>
        <td className="n">{amount}</td>
      </tr>
      {children}
    </>
  );
}

interface StepsProps {
  steps: Way["steps"];
  nameOf: (offer: string) => string;
  step: number;
  set: (step: number) => void;
}

/** The pricing as beads on a rod, one an offer: go back along it and see what each one did. */
export function StepRod({ steps, nameOf, step, set }: StepsProps) {
  const names = ["before offers", ...steps.map((one) => nameOf(one.offer))];
  const along = (event: KeyboardEvent) => {
    const way = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
    if (way) set((step + way + names.length) % names.length);
  };
  return (
    <RadioGroup.Root onKeyDown={along} aria-label="After which offer the slip is shown" orientation="horizontal" value={String(step)} onValueChange={(value) => set(Number(value))} className="relative flex flex-wrap gap-x-4 gap-y-1 text-small">
      {names.map((name, at) => (
        <RadioGroup.Item key={at} value={String(at)} className={`flex items-center gap-1.5 ${at === step ? "font-semibold" : "text-soft hover:text-ink"}`}>
          <span aria-hidden className={`size-3 rounded-bead border-[1.5px] border-ink ${at === step ? "bg-yellow" : at < step ? "bg-ink" : "bg-sheet"}`} />
          {name}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
