/** Products found by name or SKU and ticked, with what each costs and how much of it sells. */
import { useDeferredValue, useId, useState } from "react";

import { useCarts } from "../api/queries";
import type { Frame, Good } from "../api/types";
import { count, money } from "./figures";

const MOST_FOUND = 5;
const DAYS_A_MONTH = 365 / 12;

export const nameOf = (good: Good): string => [good.product || good.sku, good.option].filter(Boolean).join(" ");

export function nameOfSku(sku: string, goods: Good[]): string {
  const good = goods.find((one) => one.sku === sku);
  return good ? nameOf(good) : sku;
}

interface PickerProps {
  goods: Good[];
  skus: string[];
  /** Whole products that are ticked, by name; without it only single options are offered. */
  products?: string[];
  frame: Frame;
  onChange: (skus: string[], products: string[]) => void;
  label?: string;
}

export function ProductPicker({ goods, skus, products, frame, onChange, label = "Products" }: PickerProps) {
  const id = useId();
  const [text, setText] = useState("");
  const wanted = useDeferredValue(text.trim().toLowerCase());
  const whole = products ?? [];
  const matches = wanted
    ? goods.filter((good) => `${good.sku} ${nameOf(good)} ${good.brand} ${good.categories.join(" ")}`.toLowerCase().includes(wanted))
    : [];
  const severalOptions = (name: string) => goods.filter((good) => good.product === name).length > 1;
  const families = products ? [...new Set(matches.map((good) => good.product))].filter((name) => name && severalOptions(name)) : [];
  const single = matches.filter((good) => !skus.includes(good.sku));
  const chosen = goods.filter((good) => skus.includes(good.sku));
  const toggled = (list: string[], name: string, on: boolean) => (on ? [...list, name] : list.filter((one) => one !== name));
  return (
    <div className="mt-2">
      <label htmlFor={id} className="block text-small text-soft">
        {label}
      </label>
      <input id={id} type="search" className="w-full" placeholder="Name, brand, category or SKU" value={text} onChange={(event) => setText(event.target.value)} />
      <div className="max-h-40 overflow-y-auto">
      {[...new Set([...whole, ...families])].map((name) => (
        <label key={name} className="choice flex items-baseline gap-2.5">
          <input type="checkbox" checked={whole.includes(name)} onChange={(event) => onChange(skus, toggled(whole, name, event.target.checked))} />
          <span className="min-w-0">
            {name}
            <span className="block text-small text-soft">all {goods.filter((good) => good.product === name).length} options of it</span>
          </span>
        </label>
      ))}
      {[...chosen, ...single.slice(0, MOST_FOUND)].map((good) => (
        <label key={good.sku} className="choice flex items-baseline gap-2.5">
          <input type="checkbox" checked={skus.includes(good.sku)} onChange={(event) => onChange(toggled(skus, good.sku, event.target.checked), whole)} />
          <span className="min-w-0">
            {nameOf(good)}
            <span className="block text-small text-soft">
              {good.standing == null ? "no price" : money(good.standing, frame)}, costs{" "}
              {good.unit_cost == null ? "unknown" : money(good.unit_cost, frame)}
              {good.never_discounted && ", never discounted"}
            </span>
          </span>
        </label>
      ))}
      {single.length > MOST_FOUND && <p className="text-small text-soft">and {single.length - MOST_FOUND} more; type on.</p>}
      {wanted && matches.length === 0 && <p className="text-small text-soft">No product matches.</p>}
      </div>
    </div>
  );
}

/** How many units a month the goods sell. */
export function Covered({ goods }: { goods: Good[] }) {
  const { data: carts } = useCarts();
  if (!carts?.counted_days) return null;
  const units = goods.reduce((sum, good) => sum + good.units, 0);
  return (
    <p className="mt-2 text-small text-soft">
      {count(goods.length)} {goods.length === 1 ? "product" : "products"}, {count((units * DAYS_A_MONTH) / carts.counted_days)} units a month
    </p>
  );
}
