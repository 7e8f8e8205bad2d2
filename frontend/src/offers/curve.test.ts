import { expect, test } from "vitest";

import { differences } from "./curve";

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
