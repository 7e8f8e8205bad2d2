import { expect, test } from "vitest";

import { daysAfter, daysBetween } from "../../pieces/iso-days";
import { monthsOf, overlaps } from "./year-scale";

const span = (first_day: string, last_day: string) => ({ first_day, last_day });

test("days are counted over months, years and leap days", () => {
  expect(daysAfter("2028-02-28", 1)).toBe("2028-02-29");
  expect(daysAfter("2027-12-31", 1)).toBe("2028-01-01");
  expect(daysAfter("2027-03-01", -1)).toBe("2027-02-28");
  expect(daysBetween("2027-03-28", "2027-04-02")).toBe(5);
});

test("a year at least is shown, and more where plans end later", () => {
  expect(monthsOf([span("2027-03-10", "2027-03-12")], "2027-01-01")).toHaveLength(13);
  expect(monthsOf([span("2027-03-10", "2027-03-12")], "2027-01-01").at(0)).toBe("2027-03-01");
  expect(monthsOf([span("2027-03-10", "2028-06-02")], "2027-01-01").at(-1)).toBe("2028-07-01");
  expect(monthsOf([], "2027-05-20")[0]).toBe("2027-05-01");
});

test("days on which two run at once are marked, and only those", () => {
  expect(overlaps([span("2027-03-01", "2027-03-10"), span("2027-03-08", "2027-03-20")])).toEqual([span("2027-03-08", "2027-03-10")]);
  expect(overlaps([span("2027-03-01", "2027-03-10"), span("2027-03-11", "2027-03-20")])).toEqual([]);
  expect(overlaps([span("2027-03-01", "2027-03-30"), span("2027-03-05", "2027-03-06"), span("2027-03-06", "2027-03-09")])).toEqual([span("2027-03-05", "2027-03-09")]);
});
