import { expect, test } from "vitest";

import type { Response } from "../api/types";
import { newReward, newTerms } from "../pieces/new-parts";
import { NO_RESPONSE } from "../pieces/no-response";
import { firstRange, followed, MORE_TO_SAY, rangeOf, saidAt, withRange } from "./responses";

test("a range holds what is likely, within the bounds of its figure", () => {
  const told = withRange(NO_RESPONSE, "uptake_bp", 3_000, [4_000, 12_000]);
  expect(rangeOf(told, "uptake_bp")).toEqual([3_000, 10_000]);
  expect(withRange(told, "uptake_bp", 3_000, null).ranges).toEqual([]);
  expect(withRange(told, "uptake_bp", null, [1, 2]).ranges).toEqual([]);
});

test("a first range is half as much to half as much again", () => {
  expect(firstRange(2_000, "extra_bp")).toEqual([1_000, 3_000]);
  expect(firstRange(9_000, "uptake_bp")).toEqual([4_500, 10_000]);
});

test("shares follow what an offer gives, up to twice", () => {
  expect(followed({ ...NO_RESPONSE, depth_bp: 1_000 }, "extra_bp", 1_500)).toBe(1.5);
  expect(followed({ ...NO_RESPONSE, depth_bp: 1_000 }, "extra_bp", 9_000)).toBe(2);
  expect(followed(NO_RESPONSE, "extra_bp", 9_000)).toBe(1);
  const twice: Response = { ...NO_RESPONSE, extra_bp: 1_000, depth_bp: 1_000, also_at: [{ of: "extra_bp", depth_bp: 2_000, value_bp: 1_200 }] };
  expect(followed(twice, "extra_bp", 500)).toBeCloseTo(0.5);
  expect(followed(twice, "extra_bp", 1_500)).toBeCloseTo(1.1);
  expect(followed(twice, "extra_bp", 9_000)).toBeCloseTo(1.2);
  expect(followed({ ...twice, top_up_bp: 500 }, "top_up_bp", 1_500)).toBe(1.5);
  expect(saidAt(twice, 2_000).also_at).toEqual([]);
});

test("who chooses another option is asked only where some of them are freed", () => {
  const shift = MORE_TO_SAY.find((one) => one.key === "shift")!;
  const freed = (options: string[], percent_bp: number) => shift.fits(newTerms([{ kind: "delivery_percent_off", percent_bp, options, zones: [], below_weight: null }]));
  expect(freed(["Post"], 10_000)).toBe(true);
  expect(freed([], 10_000)).toBe(false);
  expect(freed(["Post"], 3_300)).toBe(false);
  expect(shift.fits(newTerms([newReward("percent_off", 100)]))).toBe(false);
});
