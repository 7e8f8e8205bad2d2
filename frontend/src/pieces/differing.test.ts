import { expect, test } from "vitest";

import { stretches } from "./differing";

test("words that both have stand as they are, others with what the first says", () => {
  expect(stretches(["get ", "18 %", " off", "."], ["get ", "20 %", " off", "."])).toEqual([
    { text: "get ", not: null },
    { text: "20 %", not: "18 %" },
    { text: " off.", not: null },
  ]);
});

test("what only one of them says is told too", () => {
  expect(stretches(["a ", "gift", "."], ["a ", "gift", ", with a code", "."])).toEqual([
    { text: "a gift", not: null },
    { text: ", with a code", not: "" },
    { text: ".", not: null },
  ]);
  expect(stretches(["a ", "gift", ", with a code", "."], ["a ", "gift", "."])).toEqual([
    { text: "a gift", not: null },
    { text: "", not: ", with a code" },
    { text: ".", not: null },
  ]);
  expect(stretches(["all of it"], ["all of it"])).toEqual([{ text: "all of it", not: null }]);
  expect(stretches([], ["new"])).toEqual([{ text: "new", not: "" }]);
});
