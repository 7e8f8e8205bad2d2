import { describe, expect, it } from "vitest";

import type { LearnedOffer, NextOfKind, OfferDoc, Said } from "../api/types";
import { newOffer, newReward, newTerms } from "../pieces/new-parts";
import { fits, isOfKind, takenFromKind, takenOver } from "./taking-over";

const said = (part: Partial<Said>): Said => ({ of: "uptake_bp", name: "", likely: 500, low: 300, high: 800, orders: 90, days: 14, says: "", reach: null, falls: true, ...part });
const LEARNED = { given_away: 1_200, goods: 10_000 } as LearnedOffer;
const open = newOffer(newTerms([newReward("percent_off", 100)]));
const coded: OfferDoc = { ...open, terms: { ...open.terms, given: { by: "code", code: "LEAF", codes: [] } } };

describe("taking a figure over", () => {
  it("puts it in with its range", () => {
    const { response } = takenOver(said({}), LEARNED, coded).terms;
    expect(response.uptake_bp).toBe(500);
    expect(response.ranges).toEqual([{ of: "uptake_bp", low: 300, high: 800 }]);
  });
  it("keeps the depth it was seen at for what follows depth, unless one is said", () => {
    expect(takenOver(said({ of: "extra_bp" }), LEARNED, open).terms.response.depth_bp).toBe(1_200);
    expect(takenOver(said({}), LEARNED, coded).terms.response.depth_bp).toBeNull();
    const deep = { ...open, terms: { ...open.terms, response: { ...open.terms.response, depth_bp: 900 } } };
    expect(takenOver(said({ of: "extra_bp" }), LEARNED, deep).terms.response.depth_bp).toBe(900);
  });
  it("brings the reach with those who top up", () => {
    const { response } = takenOver(said({ of: "top_up_bp", reach: { likely: 1_100, low: 700, high: 1_500 }, falls: false }), LEARNED, open).terms;
    expect([response.top_up_reach, response.top_up_falls]).toEqual([1_100, false]);
  });
  it("knows which next one is of the offer's kind, and takes it over with its range", () => {
    const next = { kind: "to_few", of: "uptake_bp", likely: 700, low: 200, high: 1_500, offers: 3 } as NextOfKind;
    const few = { ...coded, terms: { ...coded.terms, response: { ...coded.terms.response, shown: "to_few" } } } as OfferDoc;
    expect([isOfKind(next, few), isOfKind(next, coded), isOfKind(next, open)]).toEqual([true, false, false]);
    expect(isOfKind({ ...next, kind: "code" }, coded)).toBe(true);
    const { response } = takenFromKind("uptake_bp", next, few).terms;
    expect([response.uptake_bp, response.ranges]).toEqual([700, [{ of: "uptake_bp", low: 200, high: 1_500 }]]);
  });
  it("asks whether the figure can matter", () => {
    expect(fits(said({}), open)).toBe(false);
    expect(fits(said({}), coded)).toBe(true);
    expect(fits(said({ of: "send_response_bp" }), coded)).toBe(false);
    expect(fits(said({ of: "extra_bp" }), open)).toBe(true);
    expect(fits(said({ of: "borrowed_bp" }), open)).toBe(false);
    expect(fits(said({ of: "top_up_bp" }), open)).toBe(false);
  });
});
