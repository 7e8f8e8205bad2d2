/** Products found by name or SKU and ticked, with what each costs and how much of it sells. */
import { useDeferredValue, useId, useState } from "react";

import { useCarts } from "../../api/queries";
import type { Frame, Good } from "../../api/types";
import { count, money } from "../../pieces/figures";

const MOST_FOUND = 6;
const DAYS_A_MONTH = 365 / 12;

export const nameOf = (good: Good): string => [good.product || good.sku, good.option].filter(Boolean).join(" ");

export function nameOfSku(sku: string, goods: Good[]): string {
  const good = goods.find((one) => one.sku === sku);
  return good ? nameOf(good) : sku;
}

export function ProductPicker({ goods, skus, frame, onChange, label = "Single products" }: { goods: Good[]; skus: string[]; frame: Frame; onChange: (skus: string[]) => void; label?: string }) {
  const id = useId();
  const [text, setText] = useState("");
  const wanted = useDeferredValue(text.trim().toLowerCase());
  const chosen = goods.filter((good) => skus.includes(good.sku));
  const matches = wanted
    ? goods.filter((good) => !skus.includes(good.sku) && `${good.sku} ${nameOf(good)} ${good.categories.join(" ")}`.toLowerCase().includes(wanted))
    : [];
  return (
    <div className="mt-2">
      <label htmlFor={id} className="block text-small text-soft">
        {label}
      </label>
      <input id={id} type="search" className="w-full" placeholder="Name, category or SKU" value={text} onChange={(event) => setText(event.target.value)} />
      {[...chosen, ...matches.slice(0, MOST_FOUND)].map((good) => (
        <label key={good.sku} className="choice flex items-baseline gap-2.5">
          <input
            type="checkbox"
            checked={skus.includes(good.sku)}
            onChange={(event) => onChange(event.target.checked ? [...skus, good.sku] : skus.filter((sku) => sku !== good.sku))}
          />
          <span className="min-w-0">
            {nameOf(good)}
            <span className="block text-small text-soft">
              {good.standing == null ? "no price" : money(good.standing, frame)}, costs{" "}
              {good.unit_cost == null ? "unknown" : money(good.unit_cost, frame)}
            </span>
          </span>
        </label>
      ))}
      {matches.length > MOST_FOUND && <p className="text-small text-soft">and {matches.length - MOST_FOUND} more; type on.</p>}
      {wanted && matches.length === 0 && <p className="text-small text-soft">No product matches.</p>}
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
