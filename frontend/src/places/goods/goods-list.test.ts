import { expect, test } from "vitest";

import type { Good } from "../../api/types";
import { margin, missing, shownBy } from "./goods-list";

const good = (part: Partial<Good>): Good => ({ unit_cost: 100, all_weight: 20, list_price: 500, gift_only: false, kit: [], margin: null, ...part }) as Good;

test("what the server is asked to show", () => {
  expect(shownBy("pot", "all")).toEqual({ text: "pot", show: "all", category: "" });
  expect(shownBy("", "short")).toEqual({ text: "", show: "short", category: "" });
  expect(shownBy("", "category House plants")).toEqual({ text: "", show: "all", category: "House plants" });
});

test("the first figure a SKU lacks", () => {
  expect(missing(good({}))).toBeNull();
  expect(missing(good({ unit_cost: null, list_price: null }))).toBe("purchase_cost");
  expect(missing(good({ all_weight: null }))).toBe("weight");
  expect(missing(good({ list_price: null }))).toBe("list_price");
  expect(missing(good({ list_price: null, gift_only: true }))).toBeNull();
  expect(missing(good({ unit_cost: null, kit: [{ sku: "A", units: 1 }] }))).toBeNull();
});

test("a margin is what is kept of the price without tax", () => {
  expect(margin(good({ margin: { price: 1200, tax: 200, cost: 500, fees: 100, kept: 400 } }))).toBeCloseTo(0.4);
  expect(margin(good({ margin: { price: 0, tax: 0, cost: 5, fees: 0, kept: -5 } }))).toBeNull();
});
