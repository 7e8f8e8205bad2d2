import { describe, expect, test } from "vitest";

import cases from "./figures.cases.json";
import { count, days, listed, money, roundUp, share, soMany } from "./figures";

describe("figures as the server writes them too", () => {
  test.each(cases)("$says $amount$share is $text", (one) => {
    const text = one.says === "money" ? money(one.amount!, { currency: one.currency!, minor_digits: one.minor_digits! }, { whole: one.whole }) : share(one.share!);
    expect(text).toBe(one.text);
  });
});

test("a plus sign stands in front of gains where it is asked for, and never of nothing", () => {
  const euros = { currency: "EUR", minor_digits: 2 };
  expect([250, -250, 0, 0.2].map((amount) => money(amount, euros, { signed: true }))).toEqual(["+€2.50", "−€2.50", "€0.00", "€0.00"]);
});

test("what is shown as nothing has no sign", () => {
  expect([count(-1e-13, 1), count(-0, 1), count(-0.04, 1), count(-0.06, 1), share(-1e-9)]).toEqual(["0", "0", "0", "−0.1", "0\u00a0%"]);
});

test.each([
  ["2027-03-01", "2027-03-14", "1 to 14 March 2027"],
  ["2027-03-01", "2027-03-01", "1 March 2027"],
  ["2027-03-30", "2027-04-02", "30 March to 2 April 2027"],
  ["2027-12-30", "2028-01-02", "30 December 2027 to 2 January 2028"],
  ["", "2028-01-02", "days not set"],
])("the days from %s to %s", (first, last, words) => expect(days(first, last)).toBe(words));

test("so many of something", () => {
  expect([soMany(1, "order"), soMany(0, "order"), soMany(1200, "day"), soMany(1.2, "order", 1), soMany(1.04, "unit", 1)]).toEqual(["1 order", "0 orders", "1,200 days", "1.2 orders", "1 unit"]);
});

test("names in a row", () => expect([[], ["a"], ["a", "b"], ["a", "b", "c"]].map((names) => listed(names))).toEqual(["", "a", "a and b", "a, b and c"]));

test("a bead is a round amount that is not less than asked for", () => {
  for (const least of [0.3, 1, 1.2, 2.2, 3, 7, 26, 240, 999]) expect(roundUp(least)).toBeGreaterThanOrEqual(least * 0.999999);
  expect([0.3, 1.2, 2.2, 3, 7].map(roundUp)).toEqual([0.5, 2, 2.5, 5, 10]);
});
