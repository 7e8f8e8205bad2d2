/** Making and changing offers without altering the ones there are. */
import type { Condition, ConditionKind, Limits, OfferDoc, Plan, Reward, RewardKind, Scope, Terms } from "../../api/types";

export const EVERYTHING: Scope = { categories: [], except_categories: [], skus: [], except_skus: [], reduced: "in" };

export const NO_LIMITS: Limits = { times: null, units: null, units_from: "cheapest", amount: null };

export const isGoods = (reward: Reward): boolean => !reward.kind.startsWith("delivery");

const newId = () => crypto.randomUUID?.() ?? `${Date.now()}-${Math.random().toString(36).slice(2)}`;

export function newTerms(gives: Reward[], part: Partial<Terms> = {}): Terms {
  return {
    earned: { conditions: [], repeat: "once", need: "all" },
    gives,
    on: EVERYTHING,
    limits: NO_LIMITS,
    given: { by: "itself", code: "" },
    when: { first_day: null, last_day: null },
    response: { uptake_bp: 10_000, extra_bp: 0 },
    ...part,
  };
}

/** A condition with a first figure that makes sense for its kind. */
export function newCondition(kind: ConditionKind, unit: number, of: Scope = EVERYTHING): Condition {
  const n = { spend: 60 * unit, units: 3, weight: 2_000, products: 3 }[kind];
  return { kind, n, bound: "at_least", of };
}

export interface Opening {
  words: string;
  make: (unit: number, categories: string[]) => Terms;
}

/** How a new offer can begin; all that follows is ordinary editable text. */
export const OPENINGS: Opening[] = [
  {
    words: "Carts of €… or more get a percentage off",
    make: (unit) =>
      newTerms([newReward("percent_off", unit)], { earned: { conditions: [newCondition("spend", unit)], repeat: "once", need: "all" } }),
  },
  {
    words: "Carts of €… or more get free delivery",
    make: (unit) =>
      newTerms([newReward("delivery_lowered_to", unit)], { earned: { conditions: [newCondition("spend", unit)], repeat: "once", need: "all" } }),
  },
  {
    words: "For every €… of some goods, an amount off them",
    make: (unit, categories) => {
      const some: Scope = { ...EVERYTHING, categories: categories.slice(0, 1) };
      return newTerms([newReward("amount_off", unit)], {
        on: some,
        earned: { conditions: [newCondition("spend", unit, some)], repeat: "each_time", need: "all" },
      });
    },
  },
  {
    words: "Carts with … units of some goods get a percentage off them",
    make: (unit, categories) => {
      const some: Scope = { ...EVERYTHING, categories: categories.slice(0, 1) };
      return newTerms([newReward("percent_off", unit)], {
        on: some,
        earned: { conditions: [newCondition("units", unit, some)], repeat: "once", need: "all" },
      });
    },
  },
  {
    words: "Shoppers with a code get a percentage off",
    make: (unit) =>
      newTerms([newReward("percent_off", unit)], {
        given: { by: "code", code: makeUpCode() },
        response: { uptake_bp: 2_500, extra_bp: 0 },
      }),
  },
];

export function newReward(kind: RewardKind, unit: number): Reward {
  switch (kind) {
    case "percent_off":
      return { kind, percent_bp: 1_000 };
    case "amount_off":
      return { kind, amount: 5 * unit };
    case "amount_off_each":
      return { kind, amount: unit };
    case "unit_price":
      return { kind, amount: 9 * unit };
    case "delivery_percent_off":
      return { kind, percent_bp: 3_300, zones: [] };
    case "delivery_amount_off":
      return { kind, amount: 2 * unit, zones: [] };
    case "delivery_lowered_to":
      return { kind, amount: 0, zones: [] };
  }
}

export const newOffer = (terms: Terms): OfferDoc => ({ id: newId(), name: "", note: "", in_plan: true, terms });

const FRONT = ["LEAF", "FERN", "MOSS", "ROOT", "BLOOM", "SPROUT", "CLAY", "DEW", "SUN", "TWIG"];
const BACK = ["DAY", "GLOW", "PATH", "SONG", "LANE", "TIDE", "RISE", "NEST", "WISH", "NOTE"];

/** A memorable code. */
export function makeUpCode(): string {
  const pick = (words: string[]) => words[Math.floor(Math.random() * words.length)];
  return `${pick(FRONT)}${pick(BACK)}`;
}

// --- changing a plan

export const withOffer = (plan: Plan, id: string, change: (offer: OfferDoc) => OfferDoc): Plan => ({
  ...plan,
  offers: plan.offers.map((offer) => (offer.id === id ? change(offer) : offer)),
});

export const withTerms = (plan: Plan, id: string, change: (terms: Terms) => Terms): Plan =>
  withOffer(plan, id, (offer) => ({ ...offer, terms: sound(change(offer.terms)) }));

/** Whether "each time" makes sense: something to count, and an amount to multiply. */
export const canRepeat = (terms: Terms): boolean =>
  terms.earned.conditions.some((one) => one.bound !== "at_most") && terms.gives.some((one) => one.kind === "amount_off");

/** Clauses that lost what they stood for are taken off with it. */
function sound(terms: Terms): Terms {
  const repeats = terms.earned.repeat === "each_time" && canRepeat(terms);
  const limits = terms.gives.some(isGoods) ? terms.limits : NO_LIMITS;
  return {
    ...terms,
    earned: { ...terms.earned, repeat: repeats ? "each_time" : "once" },
    limits: repeats ? limits : { ...limits, times: null },
  };
}

export function moved(plan: Plan, id: string, to: number): Plan {
  const from = plan.offers.findIndex((offer) => offer.id === id);
  const offers = [...plan.offers];
  const [offer] = offers.splice(from, 1);
  if (!offer) return plan;
  offers.splice(Math.max(0, Math.min(to, offers.length)), 0, offer);
  return { ...plan, offers };
}

export function copied(plan: Plan, id: string): Plan {
  const at = plan.offers.findIndex((offer) => offer.id === id);
  const offer = plan.offers[at];
  if (!offer) return plan;
  const copy = { ...structuredClone(offer), id: newId(), name: offer.name && `${offer.name} (copy)`.slice(0, 80) };
  return { ...plan, offers: plan.offers.toSpliced(at + 1, 0, copy) };
}

export const without = (plan: Plan, id: string): Plan => ({
  ...plan,
  offers: plan.offers.filter((offer) => offer.id !== id),
});

export const replaced = <Item>(items: Item[], at: number, item: Item): Item[] => items.with(at, item);
