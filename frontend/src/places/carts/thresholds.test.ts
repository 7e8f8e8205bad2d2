import { expect, test } from "vitest";

import type { Carts, SavedPlan } from "../../api/types";
import cases from "./near-misses.cases.json";
import { nearMisses, nearReach, rowsOf, thresholdsOf, withThreshold } from "./thresholds";

const bands = { fine: [5, 4, 3, 10, 1, 8], beyond: 10 };

test.each(cases)("of a threshold of $threshold, near misses lack $reach at most, as the server counts them", ({ threshold, unit, reach }) =>
  expect(nearReach(threshold, unit)).toBe(reach));

test("near misses lie below the threshold by its reach at most, and lack so much on average", () => {
  expect(nearMisses(400, bands, 100, 100)).toEqual({ reach: 100, orders: 10, lack: 50, above: 1 + 8 + 10 });
});

test("all orders lie below, near or above", () => {
  for (const threshold of [0, 100, 350, 600, 5000]) {
    const { orders, above } = nearMisses(threshold, bands, 100, 100);
    expect(orders + above).toBeLessThanOrEqual(41);
    expect(nearMisses(0, bands, 100, 100).above).toBe(41);
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
        { id: "a", name: "Twelve", in_plan, terms: { where: { zones: [], except_zones: [] }, earned: { conditions: [{ kind: "spend", bound: "at_least", n: 6500, of: { categories: [], reduced: "in" } }] } } },
        { id: "b", name: "Seeds", in_plan, terms: { where: { zones: [], except_zones: [] }, earned: { conditions: [{ kind: "spend", bound: "at_least", n: 100, of: { categories: ["Seeds"], reduced: "in" } }] } } },
      ],
    },
  }) as unknown as SavedPlan;
const carts = { thresholds: [{ value: 9000, zones: ["Home"] }] } as Carts;
const days = { first_day: "2027-03-01", last_day: "2027-03-14" };

test("thresholds are those of today's delivery and of offers that run then, over the whole cart", () => {
  expect(thresholdsOf(carts, [plan("2027-03-05")], days).map(({ value, what }) => [value, what])).toEqual([
    [9000, "free delivery today"],
    [6500, "Twelve"],
  ]);
  const each = { thresholds: [{ value: 9000, zones: ["Home"] }, { value: 15_000, zones: ["Abroad", "Far"] }] } as Carts;
  expect(thresholdsOf(each, [], days).map(({ what, openTo }) => [what, openTo.where?.zones])).toEqual([
    ["free delivery to Home today", ["Home"]],
    ["free delivery to Abroad and Far today", ["Abroad", "Far"]],
  ]);
  expect(thresholdsOf(carts, [plan("2027-04-05"), plan("2027-03-05", false)], days)).toHaveLength(1);
});

test("a threshold is changed in its place, the plan before stays as it is", () => {
  const { plan: before } = plan("2027-03-05");
  const after = withThreshold(before, 0, 0, 7000);
  expect(after.offers[0]!.terms.earned.conditions[0]).toMatchObject({ n: 7000 });
  expect(before.offers[0]!.terms.earned.conditions[0]).toMatchObject({ n: 6500 });
});

test("labels that would lie on each other have rows of their own", () => {
  expect(rowsOf([[0, 100], [50, 150], [101, 200], [90, 140]])).toEqual([0, 1, 0, 2]);
});
