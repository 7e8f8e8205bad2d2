import { expect, test } from "vitest";

import type { Carts, SavedPlan } from "../../api/types";
import cases from "./near-misses.cases.json";
import { nearMisses, nearReach, thresholdsOf, withThreshold } from "./thresholds";

const fine = [5, 4, 3, 2, 1, 6];

test.each(cases)("of a threshold of $threshold, near misses lack $reach at most, as the server counts them", ({ threshold, unit, reach }) =>
  expect(nearReach(threshold, unit)).toBe(reach));

test("near misses lie below the threshold by its reach at most, and lack so much on average", () => {
  const found = nearMisses(400, fine, 100, 9, 100);
  expect(found.reach).toBe(100);
  expect(found.orders).toBe(2);
  expect(found.lack).toBe(50);
  expect(found.above).toBe(1 + 6 + 9);
});

test("all orders lie below, near or above", () => {
  for (const threshold of [0, 100, 350, 600, 5000]) {
    const { orders, above } = nearMisses(threshold, fine, 100, 9, 100);
    expect(orders + above).toBeLessThanOrEqual(30);
    expect(nearMisses(0, fine, 100, 9, 100).above).toBe(30);
  }
});

const plan = (first_day: string, in_plan = true) =>
  ({
    id: 1,
    revision: 1,
    plan: {
      name: "Spring",
      first_day,
      last_day: first_day,
      offers: [
        { id: "a", name: "Twelve", in_plan, terms: { earned: { conditions: [{ kind: "spend", bound: "at_least", n: 6500, of: { categories: [], reduced: "in" } }] } } },
        { id: "b", name: "Seeds", in_plan, terms: { earned: { conditions: [{ kind: "spend", bound: "at_least", n: 100, of: { categories: ["Seeds"], reduced: "in" } }] } } },
      ],
    },
  }) as unknown as SavedPlan;
const carts = { thresholds: [9000] } as Carts;
const days = { first_day: "2027-03-01", last_day: "2027-03-14" };

test("thresholds are those of today's delivery and of offers that run then, over the whole cart", () => {
  expect(thresholdsOf(carts, [plan("2027-03-05")], days).map(({ value, what }) => [value, what])).toEqual([
    [9000, "free delivery today"],
    [6500, "Twelve"],
  ]);
  expect(thresholdsOf(carts, [plan("2027-04-05"), plan("2027-03-05", false)], days)).toHaveLength(1);
});

test("a threshold is changed in its place, the plan before stays as it is", () => {
  const { plan: before } = plan("2027-03-05");
  const after = withThreshold(before, 0, 0, 7000);
  expect(after.offers[0]!.terms.earned.conditions[0]).toMatchObject({ n: 7000 });
  expect(before.offers[0]!.terms.earned.conditions[0]).toMatchObject({ n: 6500 });
});
