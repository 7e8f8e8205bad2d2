/** The offers that ran before, and what history says of them. */
import { useQuery } from "@tanstack/react-query";

import { ask } from "../../api/client";
import { Saves, useShown } from "../../api/saving";
import type { Condition, FoundCode, FoundFree, FoundGift, FoundSpell, OfferDoc, Past, Plan, Terms } from "../../api/types";
import { newOffer, newPlan, newReward, newTerms } from "../../pieces/new-parts";
import { useNotice } from "../../pieces/notice";

const saves = new Saves<Past>("past");

const NOTHING: Past = { offers: [], version: 0 };

export interface PastOffers {
  offers: OfferDoc[];
  /** `make` is asked more than once: for what is shown, and for what is sent. */
  put: (make: (offers: OfferDoc[]) => OfferDoc[]) => void;
  add: (offer: OfferDoc) => void;
}

export function usePast(): PastOffers | null {
  const { data } = useQuery({ queryKey: ["past"], queryFn: () => ask<Past>("GET", "/past") });
  const shown = useShown(saves, data ?? NOTHING);
  const { fail } = useNotice();
  const put = (make: (offers: OfferDoc[]) => OfferDoc[]) => {
    const change = { path: "/past", body: (kept: Past) => ({ offers: make(kept.offers) }), shows: (before: Past) => ({ ...before, offers: make(before.offers) }) };
    saves.save(change).catch(fail);
  };
  const add = (offer: OfferDoc) => put((offers) => [...offers, offer]);
  return data ? { offers: shown.offers, put, add } : null;
}

/** An offer as its sentence needs it: in a plan of its own days. */
export const asPlan = (offer: OfferDoc, first: string, last: string): Plan => newPlan("Before", offer.terms.when.first_day ?? first, offer.terms.when.last_day ?? last, [offer]);

/** An offer of a plan, as it ran on the plan's days. */
export function asRan(offer: OfferDoc, plan: Plan): OfferDoc {
  const { when } = offer.terms;
  const ran = { ...when, first_day: when.first_day ?? plan.first_day, last_day: when.last_day ?? plan.last_day };
  return { ...structuredClone(offer), terms: { ...structuredClone(offer.terms), when: ran } };
}

/** What a code in the orders tells of its offer: what came off where they tell that, else a first guess to correct. */
export function offerOf(found: FoundCode, unit: number): OfferDoc {
  const reward = newReward("percent_off", unit);
  const percent_bp = found.off_bp === null ? null : Math.max(100, Math.round(found.off_bp / 100) * 100);
  const gives = reward.kind === "percent_off" && percent_bp !== null ? { ...reward, percent_bp } : reward;
  const terms = newTerms([gives]);
  const when = { ...terms.when, first_day: found.first_day, last_day: found.last_day };
  return { ...newOffer({ ...terms, given: { by: "code", code: found.code, codes: [] }, when }), name: found.code };
}

/** Delivery that was free from a lower value as the offer it comes to. all: whether those are all zones there are. */
export function offerOfFree({ zones, free_from, first_day, last_day }: FoundFree, all: boolean): OfferDoc {
  const terms = newTerms([{ kind: "delivery_lowered_to", amount: 0, zones: all ? [] : zones, options: [], below_weight: null }]);
  const from = { kind: "spend" as const, n: free_from, bound: "at_least" as const, at: "net" as const, of: terms.on };
  return newOffer({ ...terms, earned: { ...terms.earned, conditions: [from] }, when: { ...terms.when, first_day, last_day } });
}

/** Goods that orders got for nothing as the offer that puts them in; what earned it is told where orders tell it. */
export function offerOfGift({ skus, units, code, from_value, with_sku, first_day, last_day }: FoundGift): OfferDoc {
  const terms = newTerms([{ kind: "put_in", skus, categories: [], quantity: units, amount: 0, shares_bp: [], substitute: "" }]);
  const conditions: Condition[] = [];
  if (from_value !== null) conditions.push({ kind: "spend", n: from_value, bound: "at_least", at: "net", of: terms.on });
  if (with_sku !== null) conditions.push({ kind: "units", n: 1, bound: "at_least", of: { ...terms.on, skus: [with_sku] } });
  const given: Terms["given"] = { ...terms.given, ...(code && { by: "code", code }) };
  const offer = newOffer({ ...terms, given, earned: { ...terms.earned, conditions }, when: { ...terms.when, first_day, last_day } });
  return { ...offer, name: code };
}

/** Lower prices as the offer they come to: so much off those goods, on those days. */
export function offerOfSpell({ skus, category, everything, first_day, last_day, off_bp }: FoundSpell): OfferDoc {
  const terms = newTerms([{ kind: "percent_off", percent_bp: Math.round(off_bp / 100) * 100, with_delivery: false }]);
  const on = everything ? terms.on : category ? { ...terms.on, categories: [category] } : { ...terms.on, skus };
  return newOffer({ ...terms, on, when: { ...terms.when, first_day, last_day } });
}
