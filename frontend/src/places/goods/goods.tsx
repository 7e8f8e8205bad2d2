/** Goods: products, what they cost, and what of each price is kept. */
import { useDeferredValue, useRef, useState } from "react";

import { useFrame, useGoods } from "../../api/queries";
import type { Frame, Good } from "../../api/types";
import { Bead } from "../../pieces/beads";
import { BringIn } from "../../pieces/bring-in";
import { count, money, share } from "../../pieces/figures";
import { useKey } from "../../pieces/keys";

type Order = "product" | "kept" | "margin" | "units";

const ORDERS: [Order, string][] = [
  ["product", "by name"],
  ["units", "by units ordered"],
  ["kept", "by kept a unit"],
  ["margin", "by margin"],
];

/** Kept as a share of the price without tax; null where something is missing. */
const margin = (good: Good): number | null => {
  if (good.kept == null || good.unit_cost == null) return null;
  const net = good.kept + good.unit_cost;
  return net > 0 ? good.kept / net : null;
};

function sorted(goods: Good[], order: Order): Good[] {
  if (order === "product") return goods;
  const rank = (good: Good) => (order === "units" ? good.units : order === "kept" ? good.kept : margin(good)) ?? -Infinity;
  return goods.toSorted((a, b) => rank(b) - rank(a));
}

export function GoodsPlace() {
  const { data: frame } = useFrame();
  const { data } = useGoods();
  const [text, setText] = useState("");
  const [order, setOrder] = useState<Order>("product");
  const [onlyMissing, setOnlyMissing] = useState(false);
  const find = useRef<HTMLInputElement>(null);
  useKey("/", () => find.current?.focus());
  const wanted = useDeferredValue(text.trim().toLowerCase());
  if (!frame || !data) return null;
  const found = sorted(
    data.goods.filter(
      (good) =>
        (!onlyMissing || good.unit_cost == null || good.list_price == null) &&
        [good.sku, good.product, good.option, ...good.categories].some((one) => one.toLowerCase().includes(wanted)),
    ),
    order,
  );
  return (
    <BringIn kind="goods" what="goods">
      {(choose) =>
        data.goods.length === 0 ? (
          <NoGoods choose={choose} />
        ) : (
          <div className="px-7 pt-4 pb-10">
            <div className="flex items-center gap-x-5">
              <h1 className="text-answer">
                {count(data.goods.length)} products{" "}
                {frame.missing_goods.count > 0 && (
                  <span className="text-title font-semibold text-loss-ink">
                    {count(frame.missing_goods.count)} {frame.missing_goods.says}
                  </span>
                )}
              </h1>
              <label className="ms-auto flex items-center gap-2 text-small">
                Find{" "}
                <kbd className="rounded-slip border border-soft px-1 text-tiny" aria-hidden>
                  /
                </kbd>
                <input ref={find} type="search" value={text} onChange={(event) => setText(event.target.value)} className="w-40" />
              </label>
              <label className="text-small">
                Sort{" "}
                <select value={order} onChange={(event) => setOrder(event.target.value as Order)}>
                  {ORDERS.map(([key, words]) => (
                    <option key={key} value={key}>
                      {words}
                    </option>
                  ))}
                </select>
              </label>
              <label className="flex items-center gap-1.5 text-small">
                <input type="checkbox" checked={onlyMissing} onChange={(event) => setOnlyMissing(event.target.checked)} />
                Only incomplete
              </label>
              {choose}
            </div>
            <GoodsTable goods={found} frame={frame} />
            {found.length === 0 && <p className="mt-4 text-soft">No product matches.</p>}
          </div>
        )
      }
    </BringIn>
  );
}

function NoGoods({ choose }: { choose: React.ReactNode }) {
  return (
    <div className="mx-auto max-w-2xl px-7 py-14">
      <h1 className="text-answer">Bring in what you sell</h1>
      <p className="mt-3">
        A CSV file with one row for each SKU: its price and what it costs you, and if you have them its product name, option,
        reduced price, weight, categories and stock. Column names can be your own; you see how they are read before anything is
        saved. Drop the file anywhere on this page, or choose it.
      </p>
      <p className="mt-5 flex items-center gap-5">
        {choose}
        <a className="quiet" href="/examples/goods.csv" download>
          Example file
        </a>
      </p>
    </div>
  );
}

function GoodsTable({ goods, frame }: { goods: Good[]; frame: Frame }) {
  return (
    <table className="figures mt-4 w-full text-small">
      <thead>
        <tr>
          <th scope="col">Product</th>
          <th scope="col">SKU</th>
          <th scope="col">Category, tags</th>
          <th scope="col" className="n">
            List
          </th>
          <th scope="col" className="n">
            Reduced
          </th>
          <th scope="col" className="n">
            Unit cost
          </th>
          <th scope="col" className="ps-5!">
            Of each price: <Key kind="goods">cost</Key> <Key kind="tax">tax</Key> <Key kind="kept">kept</Key>
          </th>
          <th scope="col" className="n">
            Kept
          </th>
          <th scope="col" className="n">
            Margin
          </th>
          <th scope="col" className="n">
            Ordered
          </th>
        </tr>
      </thead>
      <tbody>
        {goods.map((good) => {
          const part = margin(good);
          return (
            <tr key={good.sku}>
              <th scope="row" className="text-ink!">
                {good.product || good.sku} <span className="font-normal text-soft">{good.option}</span>
                {good.never_discounted && <span className="block font-normal text-soft">never discounted</span>}
              </th>
              <td className="text-soft">{good.sku}</td>
              <td className="text-soft">{[...good.categories, ...good.tags].join(", ")}</td>
              <td className="n">{good.list_price == null ? <Missing /> : money(good.list_price, frame)}</td>
              <td className="n">{good.reduced_price == null ? "" : money(good.reduced_price, frame)}</td>
              <td className="n">{good.unit_cost == null ? <Missing /> : money(good.unit_cost, frame)}</td>
              <td className="ps-5!">
                <PriceRod good={good} frame={frame} />
              </td>
              <td className="n font-semibold">{good.kept == null ? "" : money(good.kept, frame)}</td>
              <td className="n">{part === null ? "" : share(part)}</td>
              <td className="n">{count(good.units)}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

const Missing = () => <span className="font-semibold text-loss-ink">missing</span>;

function Key({ kind, children }: { kind: "goods" | "tax" | "kept"; children: string }) {
  return (
    <span className="ms-1.5 inline-flex items-center gap-1 font-normal">
      <svg width={12} height={12} viewBox="-6 -6 12 12" aria-hidden>
        <Bead kind={kind} x={0} y={0} r={4.8} />
      </svg>
      {children}
    </span>
  );
}

/** A unit's price as one rod: cost, then tax, then what is kept; below cost the loss is notched. */
function PriceRod({ good, frame }: { good: Good; frame: Frame }) {
  const width = 210;
  if (good.standing == null || good.tax == null || good.unit_cost == null || good.kept == null) return null;
  const whole = good.kept < 0 ? width - 18 : width - 4;
  const all = Math.max(good.unit_cost + good.tax + Math.max(good.kept, 0), 1);
  const parts = [
    { key: "cost", value: good.unit_cost, fill: "var(--color-goods)" },
    { key: "tax", value: good.tax, fill: "var(--color-tax)" },
    { key: "kept", value: Math.max(good.kept, 0), fill: "var(--color-yellow)" },
  ];
  let x = 2;
  return (
    <svg width={width} height={16} role="img" aria-label={`cost ${money(good.unit_cost, frame)}, tax ${money(good.tax, frame)}, kept ${money(good.kept, frame)}`}>
      <line x1={0} x2={width} y1={8} y2={8} stroke="var(--color-line)" strokeWidth={2} />
      {parts.map(({ key, value, fill }) => {
        const size = (whole * value) / all;
        const at = x;
        x += size;
        return <rect key={key} x={at} y={2.5} width={Math.max(size - 1, 0)} height={11} rx={Math.min(5, size / 2)} fill={fill} stroke="var(--color-ink)" />;
      })}
      {good.kept < 0 && <path d={`M${x - 1} 2.5h14l-5 5.5l5 5.5h-14z`} fill="var(--color-loss)" stroke="var(--color-ink)" />}
    </svg>
  );
}
