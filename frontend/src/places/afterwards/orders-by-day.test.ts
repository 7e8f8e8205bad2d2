import { describe, expect, it } from "vitest";

import { stretches } from "./orders-by-day";

const days = (count: number) => Array.from({ length: count }, (_, at) => ({ day: `d${at}`, orders: at, usual: 2, runs: at >= 10 && at < 17 }));

describe("days of a picture", () => {
  it("stay days where there are few", () => {
    expect(stretches(days(70))).toEqual(days(70));
  });
  it("are put together by seven where there are many, what is left over left out", () => {
    const weeks = stretches(days(80));
    expect(weeks.length).toBe(11);
    expect(weeks[0]).toEqual({ day: "d0", orders: 21, usual: 14, runs: false });
    expect(weeks.map((one) => one.runs).filter(Boolean).length).toBe(1);
  });
});
