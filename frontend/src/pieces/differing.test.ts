import { expect, test } from "vitest";

import { differences, stretches } from "./differing";
import { newOffer, newPlan, newReward, newTerms } from "./new-parts";

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

test("what is expected otherwise is told, as a figure or as what it is about", () => {
  const offer = newOffer(newTerms([newReward("percent_off", 100)]));
  const sends = { size: 100, response_bp: 200, anyway_bp: 0, cost: 5, days: 3, to: "any" as const, daily: false, among: null };
  const plan = (response: Partial<typeof offer.terms.response>) =>
    newPlan("Spring", "2027-03-01", "2027-03-14", [{ ...offer, terms: { ...offer.terms, response: { ...offer.terms.response, ...response } } }]);
  const told = (first: Parameters<typeof plan>[0], second: Parameters<typeof plan>[0]) =>
    differences(plan(first), plan(second), () => ["the same"], ["send_response_bp"], []).map(({ response, besides }) => [response.length, besides]);
  expect(told({ sends }, { sends })).toEqual([]);
  expect(told({ sends }, { sends: { ...sends, response_bp: 300 } })).toEqual([[1, []]]);
  expect(told({ sends }, { sends: { ...sends, among: { of: "zone", name: "Home", days: null } } })).toEqual([[0, ["sends"]]]);
  expect(told({ fixed_cost: 0 }, { fixed_cost: 5_000, shown: "to_few" })).toEqual([[0, ["fixed_cost", "shown"]]]);
  const comesBack = newPlan("Spring", "2027-03-01", "2027-03-14", [{ ...offer, terms: { ...offer.terms, returned_bp: 12_000 } }]);
  expect(differences(plan({}), comesBack, () => ["the same"], [], []).map((one) => one.besides)).toEqual([["returned_bp"]]);
});
