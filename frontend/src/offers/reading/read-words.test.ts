/** Offers in somebody's own words: what is understood, in any order, and what is not. */
import * as fc from "fast-check";
import { expect, test } from "vitest";

import type { Frame, Named, OfferDoc, Plan } from "../../api/types";
import { newOffer, newPlan, newTerms } from "../../pieces/new-parts";
import { offerInWords } from "../sentence";
import { knownOf } from "./known";
import { readOffer } from "./read-words";

const frame = {
  currency: "EUR",
  minor_digits: 2,
  categories: ["Seeds", "House plants", "Planters"],
  tags: ["heavy"],
  brands: ["Moss"],
  zones: ["Home", "Islands and far"],
  options: [],
  shoppers: { groups: ["trade"], tags: ["newsletter"], channels: [], payments: [] },
} as unknown as Frame;
const goods = [
  { sku: "S-1", product: "Basil packet", option: "" },
  { sku: "P-1", product: "Stone trough", option: "" },
] as Named[];
const running: OfferDoc[] = [];
const plan: Plan = newPlan("Spring", "2027-03-01", "2027-03-14", [{ ...newOffer(newTerms([])), name: "Free post" }]);
const from = knownOf(frame, goods, plan, running);

/** The sentence that words become, and the words left out. */
function read(text: string): [string, string[]] | null {
  const found = readOffer(text, from);
  return found && [offerInWords({ ...newOffer(found.terms), name: "" }, plan, frame, goods, running).replace(/\u00a0/g, " "), found.missed];
}

test.each([
  ["15 % off seeds from 3, code FRONDLET, 3 to 17 March", "Carts with 3 or more units of seeds get 15 % off seeds, with the code FRONDLET, 3 to 17 March."],
  ["Free shipping to Home from €50, not with other offers", "Carts with €50 or more of anything get free delivery to Home, without a code, while the plan runs, not with any other offer."],
  ["buy two seeds, get one free, at most 3 times an order", "Every cart gets the cheapest unit of seeds free for 2 units of seeds bought, each time, at most 3 times, without a code, while the plan runs."],
  ["3 for 2 on house plants", "Every cart gets the cheapest unit of house plants free for 2 units of house plants bought, each time, without a code, while the plan runs."],
  ["€5 off planters over €40 for new customers, once per customer", "Carts with €40 or more of planters get €5 off planters, once per shopper, without a code, only for first orders, while the plan runs."],
  ["10% off everything except planters, no sale items, until 20 March", "Every cart gets 10 % off everything except planters, reduced goods left out, without a code, until 20 March."],
  ["free Basil packet from €30 or more, coupon basil", "Carts with €30 or more of anything get 1 unit of Basil packet put in free, with the code BASIL, while the plan runs."],
  ["20 % off on Fridays from 18:00 to 22:00, at most €9 an order", "Every cart gets 20 % off everything, at most €9 an order, without a code, while the plan runs, on Fridays from 18:00 to 22:00."],
  ["€2 off each stone trough, not with Free post, for trade", "Every cart gets €2 off each of Stone trough, without a code, only for the group trade, while the plan runs, not with Free post."],
])("%s", (text, sentence) => expect(read(text)).toEqual([sentence, []]));

test("what is not understood is told, and what is said twice is not taken twice", () => {
  expect(read("10 % off seeds, please be quick about it")?.[1]).toEqual(["please be quick about it"]);
  expect(read("10 % off 20 % off seeds")).toEqual(["Every cart gets 10 % off seeds, without a code, while the plan runs.", ["20 %"]]);
  expect(read("10 % off, code ONE, code TWO")?.[1]).toEqual(["code TWO"]);
  expect(read("5 % off rockets")?.[1]).toEqual(["rockets"]);
  expect(read("10 % off on 30 February")?.[1]).toEqual(["30 February"]);
});

test("words without a reward, and texts too long for an offer, are none", () => {
  for (const text of ["", "seeds from 3, code FRONDLET", "hello", "10 % off ".repeat(12_000)]) expect(readOffer(text, from)).toBeNull();
});

test("the order they are said in makes no difference", () => {
  const parts = ["15 % off", "seeds", "from 3", "code FRONDLET", "3 to 17 March", "once per shopper", "not with other offers", "only to Home", "for new customers"];
  const said = read(parts.join(", "))!;
  expect(said[1]).toEqual([]);
  fc.assert(
    fc.property(fc.shuffledSubarray(parts, { minLength: parts.length }), (shuffled) => {
      expect(read(shuffled.join(", "))).toEqual(said);
    }),
  );
}, 60_000);
