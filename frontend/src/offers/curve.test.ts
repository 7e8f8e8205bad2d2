import { expect, test } from "vitest";

import { differences, firstOf, valuesAround } from "./curve";

const plan = (bp: number, name = "Spring") => ({ name, offers: [{ id: "a", gives: [{ kind: "percent_off", percent_bp: bp }], note: null }] });

test("where two plans differ, as JSON pointers", () => {
  expect(differences(plan(500), plan(900))).toEqual(["/offers/0/gives/0/percent_bp"]);
  expect(differences(plan(500), plan(900, "Autumn"))).toEqual(["/name", "/offers/0/gives/0/percent_bp"]);
  expect(differences(plan(500), plan(500))).toEqual([]);
});

test("what is there in one of them alone, or nothing in one, differs", () => {
  expect(differences({ a: 1 }, {})).toEqual(["/a"]);
  expect(differences({ a: null }, { a: { b: 1 } })).toEqual(["/a"]);
});

test("a curve stands by a few of its values first: the set one, both ends and some between", () => {
  const values = valuesAround({ value: 6500, least: 0, most: 20_000, step: 100 });
  const first = firstOf(values, 6500);
  expect(first.length).toBeLessThan(values.length / 2);
  expect(first).toContain(6500);
  expect([first[0], first.at(-1)]).toEqual([values[0], values.at(-1)]);
  expect(firstOf([1, 2], 1)).toEqual([1, 2]);
});
