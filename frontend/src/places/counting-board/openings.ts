/** How a new offer can begin. What follows is ordinary editable text. */
import type { Frame, Good, Scope, Terms } from "../../api/types";
import { FREE, memorableCode, newCondition, newReward, newTerms, randomCodes } from "./new-parts";
import { EVERYTHING } from "../../pieces/scope-word";

export interface Opening {
  words: string;
  /** Other words it is found by. */
  also?: string;
  make: (from: Beginning) => Terms;
}

export interface Beginning {
  unit: number;
  /** The first category, or everything in a shop without any. */
  some: Scope;
  other: Scope;
  /** The cheapest product that is known to be in stock, for a gift. */
  gift: string;
  zones: string[];
}

export function beginning(frame: Frame, goods: Good[]): Beginning {
  const [first, second] = frame.categories;
  const cheapest = goods
    .filter((good) => good.list_price != null && good.stock !== 0)
    .sort((a, b) => (a.standing ?? 0) - (b.standing ?? 0))[0];
  return {
    unit: 10 ** frame.minor_digits,
    some: first ? { ...EVERYTHING, categories: [first] } : EVERYTHING,
    other: second ? { ...EVERYTHING, categories: [second] } : EVERYTHING,
    gift: cheapest?.sku ?? "",
    zones: frame.zones,
  };
}

const once = (condition: ReturnType<typeof newCondition>) =>
  ({ conditions: [condition], repeat: "once", need: "all", counted: "pooled" }) as const satisfies Terms["earned"];
const eachTime: Terms["earned"] = { conditions: [], repeat: "each_time", need: "all", counted: "pooled" };
const spend = ({ unit }: Beginning) => ({ earned: once(newCondition("spend", unit)) });

export const OPENINGS: Opening[] = [
  { words: "Carts of €… or more get a percentage off", also: "from spend discount", make: (b) => newTerms([newReward("percent_off", b.unit)], spend(b)) },
  { words: "Carts of €… or more get free delivery", also: "shipping from", make: (b) => newTerms([newReward("delivery_lowered_to", b.unit)], spend(b)) },
  { words: "Carts of €… or more get an amount off", also: "from spend discount", make: (b) => newTerms([newReward("amount_off", b.unit)], spend(b)) },
  { words: "Carts of €… or more get a gift put in", also: "free from", make: (b) => newTerms([newReward("put_in", b.unit, b.some, b.gift)], spend(b)) },
  {
    words: "A percentage off some goods",
    also: "category discount sale",
    make: (b) => newTerms([newReward("percent_off", b.unit)], { on: { ...b.some, reduced: "out" } }),
  },
  { words: "An amount off each unit of some goods", make: (b) => newTerms([newReward("amount_off_each", b.unit)], { on: b.some }) },
  { words: "A fixed price for some goods while it lasts", also: "special", make: (b) => newTerms([newReward("unit_price", b.unit)], { on: b.some }) },
  {
    words: "The more units of some goods, the more off them",
    also: "steps quantity tiers",
    make: (b) =>
      newTerms([{ kind: "percent_off", percent_bp: 400, with_delivery: false }], {
        on: b.some,
        earned: once({ kind: "units", n: 6, bound: "at_least", of: b.some }),
        steps: [{ n: 15, gives: [{ kind: "percent_off", percent_bp: 900, with_delivery: false }] }],
      }),
  },
  {
    words: "The more is spent, the more comes off",
    also: "steps tiers",
    make: (b) =>
      newTerms([{ kind: "amount_off", amount: 5 * b.unit }], {
        earned: once({ kind: "spend", n: 50 * b.unit, bound: "at_least", of: EVERYTHING }),
        steps: [{ n: 90 * b.unit, gives: [{ kind: "amount_off", amount: 12 * b.unit }] }],
      }),
  },
  {
    words: "Buy two of some goods, get one free",
    also: "3 for 2 three bogo bundle",
    make: (b) => newTerms([newReward("buy_get", b.unit, b.some)], { on: b.some, earned: eachTime }),
  },
  {
    words: "Buy one, get the second at half price",
    also: "two 1 2 bundle",
    make: (b) =>
      newTerms([{ kind: "buy_get", buy: 1, get: 1, of: b.some, price: { ...FREE, percent_bp: 5_000 }, units_from: "cheapest" }], {
        on: b.some,
        earned: eachTime,
      }),
  },
  {
    words: "Buy some goods, get others for less",
    also: "across categories",
    make: (b) =>
      newTerms([{ kind: "buy_get", buy: 1, get: 1, of: b.some, price: { ...FREE, percent_bp: 2_000 }, units_from: "cheapest" }], {
        on: b.other,
        earned: eachTime,
      }),
  },
  {
    words: "A set of goods together for less",
    also: "bundle pair",
    make: (b) =>
      newTerms(
        [
          {
            kind: "goods_set",
            parts: [
              { count: 1, of: b.some },
              { count: 1, of: b.other },
            ],
            price: { kind: "percent_off", percent_bp: 1_500, with_delivery: false },
            units_from: "dearest",
          },
        ],
        { earned: eachTime },
      ),
  },
  {
    words: "Any three of some goods for a price",
    also: "bundle set mix match",
    make: (b) =>
      newTerms([{ kind: "goods_set", parts: [{ count: 3, of: b.some }], price: { kind: "set_price", amount: 30 * b.unit }, units_from: "dearest" }], {
        earned: eachTime,
      }),
  },
  {
    words: "For every €… of some goods, an amount off them",
    make: (b) =>
      newTerms([newReward("amount_off", b.unit)], {
        on: b.some,
        earned: { ...once(newCondition("spend", b.unit, b.some)), repeat: "each_time" },
      }),
  },
  {
    words: "Free delivery to some zones, for light parcels",
    also: "shipping weight below",
    make: (b) => newTerms([{ kind: "delivery_lowered_to", amount: 0, zones: b.zones.slice(0, 1), options: [], below_weight: 5_000 }], spend(b)),
  },
  { words: "A third off delivery", also: "shipping percentage", make: (b) => newTerms([newReward("delivery_percent_off", b.unit)]) },
  {
    words: "Shoppers with a code get a percentage off",
    also: "coupon voucher",
    make: (b) =>
      newTerms([newReward("percent_off", b.unit)], {
        given: { by: "code", code: memorableCode(), codes: [] },
      }),
  },
  {
    words: "A link carries an amount off",
    also: "code newsletter letter",
    make: (b) =>
      newTerms([newReward("amount_off", b.unit)], {
        ...spend(b),
        given: { by: "link", code: memorableCode(), codes: [] },
      }),
  },
  {
    words: "Single-use codes for an amount off",
    also: "coupon voucher list",
    make: (b) =>
      newTerms([newReward("amount_off", b.unit)], {
        ...spend(b),
        given: { by: "codes", code: "", codes: randomCodes(50) },
      }),
  },
  {
    words: "First orders get a percentage off",
    also: "new shoppers welcome",
    make: (b) => newTerms([newReward("percent_off", b.unit)], { who: { ...newTerms([]).who, first_order: true } }),
  },
  {
    words: "Shoppers who stayed away get an amount off",
    also: "last order days win back",
    make: (b) => newTerms([newReward("amount_off", b.unit)], { ...spend(b), who: { ...newTerms([]).who, days_since: 90 } }),
  },
  {
    words: "On some weekdays and hours, a percentage off",
    also: "happy hour evening friday",
    make: (b) =>
      newTerms([newReward("percent_off", b.unit)], {
        when: { ...newTerms([]).when, weekdays: [4], from_minute: 18 * 60, to_minute: 22 * 60 },
      }),
  },
];

/** Openings in which every word typed begins a word of theirs; those that begin just so come first. */
export function openingsFor(typed: string): Opening[] {
  const wanted = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const begins = ({ words }: Opening) => (words.toLowerCase().startsWith(wanted.join(" ")) ? 0 : 1);
  const found = OPENINGS.filter(({ words, also = "" }) => {
    const has = `${words} ${also}`.toLowerCase().split(/[\s,.…-]+/);
    return wanted.every((start) => has.some((word) => word.startsWith(start)));
  });
  return found.sort((a, b) => begins(a) - begins(b));
}
