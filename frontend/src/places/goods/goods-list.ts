/** Which goods are shown, and in what order: found by the server, which has them all. */
import type { paths } from "../../api/schema";
import type { Frame, Good, Shown } from "../../api/types";

export type Order = NonNullable<NonNullable<paths["/api/goods"]["get"]["parameters"]["query"]>["by"]>;

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

export type Filter = Shown["show"] | `category ${string}`;

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

/** What the server is asked to show. */
export const shownBy = (text: string, filter: Filter): Shown =>
  filter.startsWith("category ") ? { text, show: "all", category: filter.slice("category ".length) } : { text, show: filter as Shown["show"], category: "" };
