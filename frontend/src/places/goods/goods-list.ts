/** Which goods are shown, and in what order. */
import type { Frame, Good } from "../../api/types";

export type Order = "product" | "kept" | "margin" | "units" | "weeks" | "deepest";

export const ORDERS: [Order, string][] = [
  ["product", "name"],
  ["kept", "kept a unit, least first"],
  ["margin", "margin, least first"],
  ["deepest", "room for a discount, least first"],
  ["units", "units a month, most first"],
  ["weeks", "weeks of stock, least first"],
];

/** Kept as a share of the price without tax; null where something is missing. */
export const margin = (good: Good): number | null => {
  if (!good.margin) return null;
  const net = good.margin.price - good.margin.tax;
  return net > 0 ? good.margin.kept / net : null;
};

export type Missing = "purchase_cost" | "weight" | "list_price";

/** The first figure a SKU lacks; a kit's cost and weight are its parts' to give. */
export function missing(good: Good): Missing | null {
  if (good.unit_cost == null) return good.kit.length > 0 ? null : "purchase_cost";
  if (good.all_weight == null) return good.kit.length > 0 ? null : "weight";
  return good.list_price == null && !good.gift_only ? "list_price" : null;
}

export type Filter = "all" | "missing" | "losing" | "delivery" | "short" | "kits" | "gifts" | `category ${string}`;

export const filters = (frame: Frame): [Filter, string][] => [
  ["all", "all goods"],
  ["missing", "lacking a figure"],
  ["losing", "losing money as they stand"],
  ["delivery", "losing money once delivered"],
  ["short", "under 4 weeks of stock"],
  ["kits", "kits"],
  ["gifts", "gifts only"],
  ...frame.categories.map((name): [Filter, string] => [`category ${name}`, name]),
];

function passes(good: Good, filter: Filter): boolean {
  switch (filter) {
    case "all":
      return true;
    case "missing":
      return missing(good) !== null;
    case "losing":
      return (good.margin?.kept ?? 0) < 0;
    case "delivery":
      return (good.deepest_delivered ?? 0) < 0;
    case "short":
      return good.stock_weeks != null && good.stock_weeks < 4;
    case "kits":
      return good.kit.length > 0;
    case "gifts":
      return good.gift_only;
  }
  return good.categories.includes(filter.slice("category ".length));
}

const RANK: Record<Exclude<Order, "product">, (good: Good) => number | null | undefined> = {
  kept: (good) => good.margin?.kept,
  margin,
  deepest: (good) => good.deepest_delivered ?? good.deepest,
  units: (good) => -good.units_a_month,
  weeks: (good) => good.stock_weeks,
};

const NAMES = new Intl.Collator(undefined, { numeric: true, sensitivity: "base" });
/** By what people call it, then by SKU; goods without a name stand where their SKU does. */
const byName = (a: Good, b: Good): number =>
  NAMES.compare(a.product || a.sku, b.product || b.sku) || NAMES.compare(a.option, b.option) || NAMES.compare(a.sku, b.sku);

export function shownGoods(goods: Good[], text: string, filter: Filter, order: Order): Good[] {
  const wanted = text.trim().toLowerCase();
  const found = goods.filter(
    (good) =>
      passes(good, filter) &&
      (!wanted || `${good.sku} ${good.product} ${good.option} ${good.brand} ${good.categories.join(" ")} ${good.tags.join(" ")}`.toLowerCase().includes(wanted)),
  );
  if (order === "product") return found.toSorted(byName);
  const rank = RANK[order];
  return found.toSorted((a, b) => (rank(a) ?? Infinity) - (rank(b) ?? Infinity));
}
