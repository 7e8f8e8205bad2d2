/** Changing the offers of a plan without altering the ones there are. */
import type { OfferDoc, Plan, Reward, Terms } from "../api/types";
import { moved as movedTo } from "../pieces/lists";
import { newId, NO_LIMITS } from "../pieces/new-parts";

export const isDelivery = (reward: Reward): boolean => reward.kind.startsWith("delivery");
/** Rewards that use units up. */
export const usesUnits = (reward: Reward): boolean => reward.kind === "buy_get" || reward.kind === "goods_set";
/** Rewards that work on all units picked of the goods the offer is on. */
export const picks = (reward: Reward): boolean => ["percent_off", "amount_off", "amount_off_each", "unit_price"].includes(reward.kind);
const isGoods = (reward: Reward): boolean => picks(reward) || usesUnits(reward);

export const allRewards = (terms: Terms): Reward[] => [...terms.gives, ...terms.steps.flatMap((step) => step.gives)];

/** Whether an offer may put a SKU in the cart. */
export const putsIn = (terms: Terms, sku: string): boolean =>
  allRewards(terms).some((one) => one.kind === "put_in" && (one.skus.includes(sku) || one.substitute === sku || one.categories.length > 0));

export const withOffer = (plan: Plan, id: string, change: (offer: OfferDoc) => OfferDoc): Plan => ({
  ...plan,
  offers: plan.offers.map((offer) => (offer.id === id ? change(offer) : offer)),
});

export const withTerms = (plan: Plan, id: string, change: (terms: Terms) => Terms): Plan =>
  withOffer(plan, id, (offer) => ({ ...offer, terms: sound(change(offer.terms)) }));

const counts = (terms: Terms): boolean => terms.earned.conditions.some((one) => one.kind !== "only" && one.bound !== "at_most");

/** Whether "each time" makes sense: something to count, and something to multiply. */
export const canRepeat = (terms: Terms): boolean => {
  if (terms.steps.length > 0) return false;
  if (terms.earned.conditions.length === 0) return terms.gives.every(usesUnits);
  return counts(terms) && terms.gives.some((one) => one.kind === "amount_off" || one.kind === "put_in" || usesUnits(one));
};

/** Whether units can be counted product by product. */
export const canCountApart = (terms: Terms): boolean =>
  terms.earned.conditions.some((one) => one.kind === "units") || terms.gives.some(usesUnits);

/** Whether the offer can have steps: one thing that rises. */
export const canStep = (terms: Terms): boolean => {
  const first = terms.earned.conditions[0];
  return first !== undefined && first.kind !== "only" && first.bound !== "at_most" && terms.earned.need === "all" && terms.earned.repeat === "once";
};

/** Clauses that lost what they stood for are taken off with it. */
function sound(terms: Terms): Terms {
  const steps = canStep(terms) ? terms.steps : [];
  const stepped = { ...terms, steps };
  const repeats = terms.earned.repeat === "each_time" && canRepeat(stepped);
  const rewards = allRewards(stepped);
  const { limits } = terms;
  return {
    ...stepped,
    every_step: terms.every_step && steps.length > 0 && rewards.every((one) => one.kind === "put_in"),
    earned: { ...terms.earned, repeat: repeats ? "each_time" : "once", counted: canCountApart(stepped) ? terms.earned.counted : "pooled" },
    limits: {
      ...limits,
      units: rewards.some(picks) ? limits.units : NO_LIMITS.units,
      amount: rewards.some(isGoods) ? limits.amount : NO_LIMITS.amount,
      times: repeats ? limits.times : NO_LIMITS.times,
    },
  };
}

/** What a plan says of an offer that runs already and that it drops; null where it does not. */
export const droppedIn = (plan: Plan, id: string) => plan.dropped.find((one) => one.offer === id) ?? null;

export const withDropped = (plan: Plan, id: string, part: Partial<Plan["dropped"][number]>): Plan => ({
  ...plan,
  dropped: droppedIn(plan, id)
    ? plan.dropped.map((one) => (one.offer === id ? { ...one, ...part } : one))
    : [...plan.dropped, { offer: id, extra_bp: null, extra_first_bp: null, ...part }],
});

export const withKept = (plan: Plan, id: string): Plan => ({ ...plan, dropped: plan.dropped.filter((one) => one.offer !== id) });

export function moved(plan: Plan, id: string, to: number): Plan {
  const from = plan.offers.findIndex((offer) => offer.id === id);
  if (from < 0) return plan;
  return { ...plan, offers: movedTo(plan.offers, from, Math.max(0, to)) };
}

export function copied(plan: Plan, id: string): Plan {
  const at = plan.offers.findIndex((offer) => offer.id === id);
  const offer = plan.offers[at];
  if (!offer) return plan;
  const copy = { ...structuredClone(offer), id: newId(), name: offer.name && `${offer.name} (copy)`.slice(0, 80) };
  return { ...plan, offers: plan.offers.toSpliced(at + 1, 0, copy) };
}

/** The offer as it goes into another plan: by a new id, and naming no offer of the plan it came from. */
export function forAnotherPlan(offer: OfferDoc): OfferDoc {
  const alone = { ...offer.terms.alongside, never_with: [], yields_to: [] };
  return { ...structuredClone(offer), id: newId(), terms: { ...structuredClone(offer.terms), alongside: alone } };
}

/** Taken off the plan, and off the sentences that name it. */
export const without = (plan: Plan, id: string): Plan => ({
  ...plan,
  offers: plan.offers.filter((offer) => offer.id !== id).map((offer) => ({ ...offer, terms: unnamed(offer.terms, id) })),
});

const unnamed = (terms: Terms, id: string): Terms => {
  const { never_with, yields_to } = terms.alongside;
  const rest = (ids: string[]) => ids.filter((one) => one !== id);
  return { ...terms, alongside: { ...terms.alongside, never_with: rest(never_with), yields_to: rest(yields_to) } };
};
