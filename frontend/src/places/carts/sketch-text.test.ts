import { describe, expect, it } from "vitest";

import type { Named } from "../../api/types";
import { linesIn, nameFor, sharesWith, sharesWithOneMore, sharesWithout } from "./sketch-text";

const good = (sku: string, product: string, option = "") => ({ sku, product, option, categories: [], tags: [], brand: "" }) as unknown as Named;
const GOODS = [good("FERN-S", "Boston fern", "small"), good("FERN-L", "Boston fern", "large"), good("MIST-1", "Mister")];
const SHOP = { categories: ["Soils", "Seeds", "House plants"], tags: ["alive"], brands: ["Oto"] };
const read = (text: string) => linesIn(text, GOODS, SHOP);

describe("what a cart holds, as it is written", () => {
  it("takes numbers of units, and one without any", () => {
    expect(read("2 soils, 1-3 seeds; mister").lines.map(({ least, most }) => [least, most])).toEqual([[2, 2], [1, 3], [1, 1]]);
    expect(read("3 to 1 x any of seeds").lines).toMatchObject([{ least: 1, most: 3, of: { categories: ["Seeds"] } }]);
  });
  it("finds SKUs, categories, products, options and tags by what begins with or has the words", () => {
    expect(read("mist-1, house, fern, boston fern small, alive").lines.map(({ of }) => [of.skus, of.categories, of.products, of.tags])).toEqual([
      [["MIST-1"], [], [], []],
      [[], ["House plants"], [], []],
      [[], [], ["Boston fern"], []],
      [["FERN-S"], [], [], []],
      [[], [], [], ["alive"]],
    ]);
  });
  it("tells what it does not know", () => {
    expect(read("2 soil, hovercrafts")).toMatchObject({ unknown: ["hovercrafts"] });
  });
  it("names a type by what is in it, each differently", () => {
    const { lines } = read("soil and mister");
    expect(nameFor(lines, GOODS, [])).toBe("Soils with Mister");
    expect(nameFor(lines, GOODS, ["soils with mister"])).toBe("Soils with Mister 2");
  });
});

describe("shares", () => {
  const sum = (shares: number[]) => shares.reduce((whole, one) => whole + one, 0);
  it("leave what they do not have to the history", () => {
    expect(sharesWith([1_000, 2_000], 0, 3_000, true)).toEqual([3_000, 2_000]);
    expect(sum(sharesWith([1_000, 8_000], 0, 4_000, true))).toBe(10_000);
  });
  it("always add up to all orders without one", () => {
    let shares: number[] = [];
    for (const _ of "abcdefg") shares = sharesWithOneMore(shares, false);
    expect(sum(shares)).toBe(10_000);
    expect(sum(sharesWith(shares, 2, 777, false))).toBe(10_000);
    expect(sharesWith(shares, 2, 777, false)[2]).toBe(777);
    expect(sum(sharesWithout(shares, 0, false))).toBe(10_000);
  });
});
