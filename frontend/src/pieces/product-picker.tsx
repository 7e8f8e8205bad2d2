/** Products found by name or SKU and ticked, with what each costs and how much of it sells. */
import { useDeferredValue, useId, useMemo, useState } from "react";

import { useCarts } from "../api/queries";
import type { Frame, Named } from "../api/types";
import { count, money } from "./figures";

const MOST_FOUND = 5;
const DAYS_A_MONTH = 365 / 12;

export const nameOf = (good: Named): string => [good.product || good.sku, good.option].filter(Boolean).join(" ");

export function nameOfSku(sku: string, goods: Named[]): string {
  const good = goods.find((one) => one.sku === sku);
  return good ? nameOf(good) : sku;
}

/** SKUs in a text, told as people know them. */
export const withNames = (text: string, goods: Named[]): string => text.replace(/× ([^,]+?)(?=$|,| and )/g, (_, sku: string) => `× ${nameOfSku(sku, goods)}`);

/** How many options each product has. */
function counted(goods: Named[]): Map<string, number> {
  const found = new Map<string, number>();
  for (const { product } of goods) found.set(product, (found.get(product) ?? 0) + 1);
  return found;
}

interface PickerProps {
  goods: Named[];
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
  const options = useMemo(() => counted(goods), [goods]);
  const families = products ? [...new Set(matches.map((good) => good.product))].filter((name) => name && options.get(name)! > 1) : [];
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
      {[...new Set([...whole, ...families.slice(0, MOST_FOUND)])].map((name) => (
        <label key={name} className="choice flex items-baseline gap-2.5">
          <input type="checkbox" checked={whole.includes(name)} onChange={(event) => onChange(skus, toggled(whole, name, event.target.checked))} />
          <span className="min-w-0">
            {name}
            <span className="block text-small text-soft">all {options.get(name) ?? 0} options of it</span>
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
export function Covered({ goods }: { goods: Named[] }) {
  const { data: carts } = useCarts();
  if (!carts?.counted_days) return null;
  const units = goods.reduce((sum, good) => sum + good.units, 0);
  return (
    <p className="mt-2 text-small text-soft">
      {count(goods.length)} {goods.length === 1 ? "product" : "products"}, {count((units * DAYS_A_MONTH) / carts.counted_days)} units a month
    </p>
  );
}
