import { expect, test } from "vitest";

import { asMarkdown } from "./as-markdown";
import type { Handover } from "./handover";

const FRAME = { currency: "EUR", minor_digits: 2 } as Parameters<typeof asMarkdown>[1];

const TOLD: Handover = {
  plan: "Spring",
  shop: "A shop",
  first_day: "2027-03-01",
  last_day: "2027-03-14",
  time_zone: "Europe/Vienna",
  answer: "It keeps more.",
  offers: [
    {
      id: "a",
      name: "Seeds",
      note: "Only for\nthe spring",
      sentence: "Carts with 3 or more units of seeds get 10 % off.",
      key_in: [{ what: "How it is given", is: "with one of 2 single-use codes" }],
      codes: ["ONE", "TWO"],
      told: { before: "3 or more: 10 % off.", near: "", earned: "You get 10 % off.", refused: "This code holds for carts with 3 or more." },
    },
  ],
  apart: ["Seeds: not with any other offer."],
  tries: [{ of: "Seeds", what: "just below", cart: "2 × Basil | large", where: "to Home", pays: 1234, says: "1 unit short" }],
  checks: ["Seeds is shown."],
  stock: [{ name: "Packet", sku: "P-1", set_aside: 12, in_stock: 40, lasts_until: null }],
  busiest: null,
  tell: [{ what: "The warehouse", is: "12 parcels" }],
};

test("all parts are told in order, and cells hold no bar that would part them", () => {
  const text = asMarkdown(TOLD, FRAME);
  const heads = text.split("\n").filter((line) => line.startsWith("#"));
  expect(heads).toEqual(["# Spring", "## What to key in", "### 1. Seeds", "## What must not go together", "## What shoppers are told", "## Carts to try in the shop", "## After it went live", "## Stock to set aside", "## Who to tell"]);
  expect(text).toContain("| Seeds | just below (1 unit short) | 2 × Basil \\| large | to Home | €12.34 |");
  expect(text).toContain("- **Codes**: ONE, TWO");
  expect(text).toContain("> Only for\n> the spring");
  expect(text).not.toContain("near it");
});

test("what there is nothing of has no head", () => {
  expect(asMarkdown({ ...TOLD, stock: [] }, FRAME)).not.toContain("Stock");
});
