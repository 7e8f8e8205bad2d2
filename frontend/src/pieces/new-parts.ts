/** New offers, conditions, rewards and codes, with first figures that make sense. */
import type { Condition, ConditionKind, Limits, OfferDoc, Plan, Reward, RewardKind, Scope, Step, Terms } from "../api/types";
import { NOTHING_NEEDED } from "./measures";
import { NO_RESPONSE } from "./no-response";
import { EVERYTHING } from "./scope-word";
import { ANYBODY, ANYWHERE } from "./who-where";

export const NO_LIMITS: Limits = {
  times: null,
  units: null,
  units_from: "cheapest",
  amount: null,
  uses_per_shopper: null,
  uses: null,
  spending: null,
};

/** What is earned by the goods of the reward alone, as often as there are enough. */
export const EACH_TIME: Terms["earned"] = { conditions: [], repeat: "each_time", need: "all", counted: "pooled" };

export const newId = () => crypto.randomUUID?.() ?? `${Date.now()}-${Math.random().toString(36).slice(2)}`;

export const newOffer = (terms: Terms): OfferDoc => ({ id: newId(), name: "", note: "", in_plan: true, terms });

export function newTerms(gives: Reward[], part: Partial<Terms> = {}): Terms {
  return {
    earned: NOTHING_NEEDED,
    gives,
    steps: [],
    every_step: false,
    on: EVERYTHING,
    limits: NO_LIMITS,
    given: { by: "itself", code: "", codes: [] },
    when: { first_day: null, last_day: null, first_minute: null, last_minute: null, weekdays: [], from_minute: null, to_minute: null },
    who: ANYBODY,
    where: ANYWHERE,
    alongside: { never: "named", never_with: [], yields: "named", yields_to: [] },
    funded: { share_bp: 0, each: 0, of: EVERYTHING },
    returned_bp: 10_000,
    response: NO_RESPONSE,
    ...part,
  };
}

export function newCondition(kind: ConditionKind, round: number, of: Scope = EVERYTHING): Condition {
  if (kind === "only") return { kind, of };
  if (kind === "spend") return { kind, n: 60 * round, bound: "at_least", at: "net", of };
  const n = { units: 3, weight: 2_000, products: 3 }[kind];
  return { kind, n, bound: "at_least", of };
}

/** some: goods a reward on chosen goods begins with; sku: a product to put in. */
export function newReward(kind: RewardKind, round: number, some: Scope = EVERYTHING, sku = ""): Reward {
  switch (kind) {
    case "percent_off":
      return { kind, percent_bp: 1_000, with_delivery: false };
    case "amount_off":
      return { kind, amount: 5 * round };
    case "amount_off_each":
      return { kind, amount: round };
    case "unit_price":
      return { kind, amount: 9 * round };
    case "buy_get":
      return { kind, buy: 2, get: 1, of: some, price: FREE, units_from: "cheapest" };
    case "goods_set":
      return { kind, parts: [{ count: 3, of: some }], price: { kind: "percent_off", percent_bp: 1_500, with_delivery: false }, units_from: "dearest" };
    case "put_in":
      return { kind, skus: sku ? [sku] : [], categories: [], quantity: 1, amount: 0, shares_bp: [], substitute: "" };
    case "delivery_percent_off":
      return { kind, percent_bp: 3_300, zones: [], options: [], below_weight: null };
    case "delivery_amount_off":
      return { kind, amount: 2 * round, zones: [], options: [], below_weight: null };
    case "delivery_lowered_to":
      return { kind, amount: 0, zones: [], options: [], below_weight: null };
  }
}

export const FREE = { kind: "percent_off", percent_bp: 10_000, with_delivery: false } as const;

/** The next step above those there are: half as much again is needed, and a little more is given. */
export function nextStep(terms: Terms, round: number): Step {
  const last = terms.steps.at(-1);
  const first = terms.earned.conditions[0];
  const from = last?.n ?? (first && "n" in first ? first.n : round);
  const gives = structuredClone(last?.gives ?? terms.gives).map((reward) => {
    if (reward.kind === "percent_off") return { ...reward, percent_bp: Math.min(10_000, reward.percent_bp + 500) };
    if (reward.kind === "amount_off" || reward.kind === "amount_off_each") return { ...reward, amount: Math.round(reward.amount * 1.5) };
    return reward;
  });
  return { n: Math.max(from + 1, Math.round(from * 1.5)), gives };
}

const FRONT = ["LEAF", "FERN", "MOSS", "ROOT", "BLOOM", "SPROUT", "CLAY", "DEW", "SUN", "TWIG"];
const BACK = ["DAY", "GLOW", "PATH", "SONG", "LANE", "TIDE", "RISE", "NEST", "WISH", "NOTE"];
/** Without the letters and digits that are taken for one another. */
const LETTERS = "ACDEFHJKLMNPQRTUVWXY3479";

const draw = (below: number) => crypto.getRandomValues(new Uint32Array(1))[0]! % below;

/** A code that is easy to say and remember. */
export const memorableCode = (): string => `${FRONT[draw(FRONT.length)]}${BACK[draw(BACK.length)]}`;

/** A code that cannot be guessed. */
export const randomCode = (): string => {
  const letters = Array.from({ length: 10 }, () => LETTERS[draw(LETTERS.length)]);
  return `${letters.slice(0, 5).join("")}-${letters.slice(5).join("")}`;
};

/** So many different codes that cannot be guessed. */
export function randomCodes(many: number): string[] {
  const codes = new Set<string>();
  while (codes.size < many) codes.add(randomCode());
  return [...codes];
}

export const newPlan = (name: string, first_day: string, last_day: string, offers: OfferDoc[] = []): Plan => ({
  name,
  note: "",
  first_day,
  last_day,
  apply: "best",
  mix: "",
  offers,
  cases: [],
  set_aside: [],
  dropped: [],
  sharp: null,
  lost_if_sold_out_bp: null,
});
