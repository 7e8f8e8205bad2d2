import { expect, test } from "vitest";

import { areNamed, sharesNamed } from "./named-shares";

const told = [
  { name: "Card", orders: 62 },
  { name: "wallet", orders: 24 },
  { name: "Invoice", orders: 14 },
];

test("shares are those of the orders that name one of the ways, and come to the whole", () => {
  expect(sharesNamed(["card", "Wallet", "Invoice"], told)).toEqual([6200, 2400, 1400]);
  expect(sharesNamed(["Card", "Wallet"], told)).toEqual([7209, 2791]);
  expect(sharesNamed(["Cash", "Card"], told)).toEqual([0, 10_000]);
  expect(sharesNamed(["a", "b", "c"], ["a", "b", "c"].map((name) => ({ name, orders: 1 })))!.reduce((sum, one) => sum + one)).toBe(10_000);
});

test("where no order names one there are none", () => {
  expect(sharesNamed(["Cash"], told)).toBeNull();
  expect(sharesNamed(["Card"], [])).toBeNull();
});

test("shares count as everybody together", () => {
  expect(areNamed([3100, 1200], [7209, 2791])).toBe(true);
  expect(areNamed([5000, 5000], [7209, 2791])).toBe(false);
  expect(areNamed([0, 0], [7209, 2791])).toBe(false);
});
