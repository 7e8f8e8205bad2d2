/** Making and changing offers without altering the ones there are. */
import type { OfferDoc, Plan, Reward, RewardKind, Scope, Spend, Terms } from "../../api/types";

export const EVERYTHING: Scope = { categories: [], except_categories: [] };

export const isGoods = (reward: Reward): boolean => !reward.kind.startsWith("delivery");

const newId = () => crypto.randomUUID?.() ?? `${Date.now()}-${Math.random().toString(36).slice(2)}`;

export function newTerms(gives: Reward[], part: Partial<Terms> = {}): Terms {
  return {
    earned: { conditions: [], repeat: "once" },
    gives,
    on: EVERYTHING,
    given: { by: "itself", code: "" },
    when: { first_day: null, last_day: null },
    response: { uptake_bp: 10_000, extra_bp: 0 },
    ...part,
  };
}

const spend = (at_least: number, over: Scope = EVERYTHING): Spend => ({ kind: "spend", at_least, over });

export const newSpend = spend;

export interface Opening {
  words: string;
  make: (unit: number, categories: string[]) => Terms;
}

/** How a new offer can begin; all that follows is ordinary editable text. */
export const OPENINGS: Opening[] = [
  {
    words: "Carts of €… or more get a percentage off",
    make: (unit) =>
      newTerms([newReward("percent_off", unit)], { earned: { conditions: [spend(60 * unit)], repeat: "once" } }),
  },
  {
    words: "Carts of €… or more get free delivery",
    make: (unit) =>
      newTerms([newReward("delivery_lowered_to", unit)], { earned: { conditions: [spend(60 * unit)], repeat: "once" } }),
  },
  {
    words: "For every €… of some goods, an amount off them",
    make: (unit, categories) => {
      const some: Scope = { categories: categories.slice(0, 1), except_categories: [] };
      return newTerms([newReward("amount_off", unit)], {
        on: some,
        earned: { conditions: [spend(40 * unit, some)], repeat: "each_time" },
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

/** "Each time" only makes sense with something to count and an amount to multiply. */
function sound(terms: Terms): Terms {
  const counts = terms.earned.conditions.length > 0 && terms.gives.some((reward) => reward.kind === "amount_off");
  return terms.earned.repeat === "each_time" && !counts
    ? { ...terms, earned: { ...terms.earned, repeat: "once" } }
    : terms;
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
