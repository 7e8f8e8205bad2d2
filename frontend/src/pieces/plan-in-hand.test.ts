import { expect, test } from "vitest";

import type { SavedPlan } from "../api/types";
import { inHand } from "./plan-in-hand";

const plans = [4, 7, 9].map((id) => ({ id }) as SavedPlan);

test("the plan the address names, or the one in hand, or the first", () => {
  expect(inHand(plans, "9", "7")?.id).toBe(9);
  expect(inHand(plans, null, "7")?.id).toBe(7);
  expect(inHand(plans, null, null)?.id).toBe(4);
});

test("a plan that is gone counts as none", () => {
  expect(inHand(plans, "5", "7")?.id).toBe(7);
  expect(inHand(plans, "5", "5")?.id).toBe(4);
  expect(inHand([], "5", null)).toBeUndefined();
});
