import { expect, test } from "vitest";

import type { Plan } from "../../api/types";
import { emptyCart, setUnits, typedGood, withUnits } from "./carts";

const PLAN = { first_day: "2027-03-01" } as Plan;

test("goods are put in, added to, and gone at none", () => {
  const one = withUnits(emptyCart(PLAN, "Home"), "A", 2);
  expect(withUnits(one, "A", 1).lines).toEqual([{ sku: "A", quantity: 3, unit_price: null }]);
  expect(setUnits(one, "A", 0).lines).toEqual([]);
  expect(withUnits(one, "B", -1)).toBe(one);
});

test("a number before the words is how many", () => {
  expect(typedGood("3 tall fern")).toEqual({ units: 3, words: ["tall", "fern"] });
  expect(typedGood("12x pot")).toEqual({ units: 12, words: ["pot"] });
  expect(typedGood("HF-3")).toEqual({ units: 1, words: ["hf-3"] });
});
