/** What conditions measure, in words; offers and surcharges are earned by the same. */
import type { ConditionKind, Terms } from "../api/types";
import { count, kilograms } from "./figures";

export const NOTHING_NEEDED: Terms["earned"] = { conditions: [], repeat: "once", need: "all", counted: "pooled" };

export const MEASURES: readonly (readonly [ConditionKind, string])[] = [
  ["spend", "money spent"],
  ["units", "units"],
  ["weight", "weight"],
  ["products", "different products"],
];

export function sizeInWords(kind: ConditionKind, n: number, cash: (amount: number) => string): string {
  return {
    spend: () => cash(n),
    units: () => `${count(n)} ${n === 1 ? "unit" : "units"}`,
    weight: () => kilograms(n),
    products: () => `${count(n)} different ${n === 1 ? "product" : "products"}`,
    only: () => "nothing but",
  }[kind]();
}
