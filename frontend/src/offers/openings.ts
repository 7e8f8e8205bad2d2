/** How a new offer can begin. What follows is ordinary editable text. */
import type { Frame, Named, Scope, Terms } from "../api/types";
import { EACH_TIME, FREE, memorableCode, newCondition, newReward, newTerms, randomCodes } from "../pieces/new-parts";
import { EVERYTHING } from "../pieces/scope-word";

export interface Opening {
  words: string;
  /** Other words it is found by. */
  also?: string;
  make: (from: Beginning) => Terms;
}

export interface Beginning {
  /** Minor units in one unit of the currency, in which amounts are typed. */
  unit: number;
  /** As `Frame.round_amount`: what first figures are some of. */
  round: number;
  /** Goods that were typed, else the first category, or everything in a shop without any. */
  some: Scope;
  other: Scope;
  /** The cheapest product that is known to be in stock, for a gift. */
  gift: string;
  zones: string[];
  /** Numbers that were typed, where there were any. */
  typed: Figures;
}

export function beginning(frame: Frame, goods: Named[], typed: Typed): Beginning {
  const [first, second] = [...typed.goods, ...frame.categories.map((name) => ({ ...EVERYTHING, categories: [name] }))];
  const cheapest = goods
    .filter((good) => good.list_price != null && good.stock !== 0)
    .sort((a, b) => (a.standing ?? 0) - (b.standing ?? 0))[0];
  return {
    unit: 10 ** frame.minor_digits,
    round: frame.round_amount,
    some: first ?? EVERYTHING,
    other: second ?? EVERYTHING,
    gift: cheapest?.sku ?? "",
    zones: frame.zones,
    typed: typed.figures,
  };
}

const once = (condition: ReturnType<typeof newCondition>) =>
  ({ conditions: [condition], repeat: "once", need: "all", counted: "pooled" }) as const satisfies Terms["earned"];
const spend = ({ unit, round, typed }: Beginning) => {
  const condition = newCondition("spend", round);
  return { earned: once(typed.amount !== undefined && condition.kind === "spend" ? { ...condition, n: Math.round(typed.amount * unit) } : condition) };
};
/** A percentage off: the one typed, else the usual first one. */
const percentOff = ({ round, typed }: Beginning, otherwise?: number) => {
  const reward = newReward("percent_off", round);
  const bp = typed.percent === undefined ? otherwise : Math.round(typed.percent * 100);
  return reward.kind === "percent_off" && bp !== undefined ? { ...reward, percent_bp: bp } : reward;
};
/** An amount off: the one typed where nothing else takes it. */
const amountOff = (kind: "amount_off" | "amount_off_each" | "unit_price", { unit, round, typed }: Beginning) => {
  const reward = newReward(kind, round);
  return typed.amount !== undefined && "amount" in reward ? { ...reward, amount: Math.round(typed.amount * unit) } : reward;
};
/** Units to buy, and to get for them. */
const buys = ({ typed: { counts } }: Beginning, buy: number, get: number): [number, number] =>
  [counts[0] ?? buy, counts[1] ?? get];

export const OPENINGS: Opening[] = [
  { words: "Carts of €… or more get a percentage off", also: "from spend discount", make: (b) => newTerms([percentOff(b)], spend(b)) },
  { words: "Carts of €… or more get free delivery", also: "shipping from", make: (b) => newTerms([newReward("delivery_lowered_to", b.round)], spend(b)) },
  { words: "Carts of €… or more get an amount off", also: "from spend discount", make: (b) => newTerms([newReward("amount_off", b.round)], spend(b)) },
  { words: "Carts of €… or more get a gift put in", also: "free from", make: (b) => newTerms([newReward("put_in", b.round, b.some, b.gift)], spend(b)) },
  {
    words: "A percentage off some goods",
    also: "category discount sale",
    make: (b) => newTerms([percentOff(b)], { on: { ...b.some, reduced: "out" } }),
  },
  { words: "An amount off each unit of some goods", make: (b) => newTerms([amountOff("amount_off_each", b)], { on: b.some }) },
  { words: "A fixed price for some goods while it lasts", also: "special", make: (b) => newTerms([amountOff("unit_price", b)], { on: b.some }) },
  {
    words: "The more units of some goods, the more off them",
    also: "steps quantity tiers",
    make: (b) =>
      newTerms([{ kind: "percent_off", percent_bp: 400, with_delivery: false }], {
        on: b.some,
        earned: once({ kind: "units", n: b.typed.counts[0] ?? 6, bound: "at_least", of: b.some }),
        steps: [{ n: Math.max(b.typed.counts[1] ?? 15, (b.typed.counts[0] ?? 6) + 1), gives: [{ kind: "percent_off", percent_bp: 900, with_delivery: false }] }],
      }),
  },
  {
    words: "The more is spent, the more comes off",
    also: "steps tiers",
    make: (b) =>
      newTerms([{ kind: "amount_off", amount: 5 * b.round }], {
        earned: once({ kind: "spend", n: 50 * b.round, bound: "at_least", at: "net", of: EVERYTHING }),
        steps: [{ n: 90 * b.round, gives: [{ kind: "amount_off", amount: 12 * b.round }] }],
      }),
  },
  {
    words: "Buy two of some goods, get one free",
    also: "3 for 2 three bogo bundle",
    make: (b) => {
      const [buy, get] = buys(b, 2, 1);
      return newTerms([{ kind: "buy_get", buy, get, of: b.some, price: FREE, units_from: "cheapest" }], { on: b.some, earned: EACH_TIME });
    },
  },
  {
    words: "Buy one, get the second at half price",
    also: "two 1 2 bundle",
    make: (b) =>
      newTerms([{ kind: "buy_get", buy: 1, get: 1, of: b.some, price: { ...FREE, percent_bp: 5_000 }, units_from: "cheapest" }], {
        on: b.some,
        earned: EACH_TIME,
      }),
  },
  {
    words: "Buy some goods, get others for less",
    also: "across categories",
    make: (b) =>
      newTerms([{ kind: "buy_get", buy: 1, get: 1, of: b.some, price: { ...FREE, percent_bp: 2_000 }, units_from: "cheapest" }], {
        on: b.other,
        earned: EACH_TIME,
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
        { earned: EACH_TIME },
      ),
  },
  {
    words: "Any three of some goods for a price",
    also: "bundle set mix match",
    make: (b) =>
      newTerms([{ kind: "goods_set", parts: [{ count: Math.max(b.typed.counts[0] ?? 3, 2), of: b.some }], price: { kind: "set_price", amount: Math.round(b.typed.amount === undefined ? 30 * b.round : b.typed.amount * b.unit) }, units_from: "dearest" }], {
        earned: EACH_TIME,
      }),
  },
  {
    words: "For every €… of some goods, an amount off them",
    make: (b) =>
      newTerms([newReward("amount_off", b.round)], {
        on: b.some,
        earned: { ...once(newCondition("spend", b.round, b.some)), repeat: "each_time" },
      }),
  },
  {
    words: "Free delivery to some zones, for light parcels",
    also: "shipping weight below",
    make: (b) => newTerms([{ kind: "delivery_lowered_to", amount: 0, zones: b.zones.slice(0, 1), options: [], below_weight: 5_000 }], spend(b)),
  },
  { words: "A third off delivery", also: "shipping percentage", make: (b) => newTerms([newReward("delivery_percent_off", b.round)]) },
  {
    words: "Shoppers with a code get a percentage off",
    also: "coupon voucher",
    make: (b) =>
      newTerms([percentOff(b)], {
        given: { by: "code", code: memorableCode(), codes: [] },
      }),
  },
  {
    words: "A link carries an amount off",
    also: "code newsletter letter",
    make: (b) =>
      newTerms([newReward("amount_off", b.round)], {
        ...spend(b),
        given: { by: "link", code: memorableCode(), codes: [] },
      }),
  },
  {
    words: "Single-use codes for an amount off",
    also: "coupon voucher list",
    make: (b) =>
      newTerms([newReward("amount_off", b.round)], {
        ...spend(b),
        given: { by: "codes", code: "", codes: randomCodes(50) },
      }),
  },
  {
    words: "First orders get a percentage off",
    also: "new shoppers welcome",
    make: (b) => newTerms([percentOff(b)], { who: { ...newTerms([]).who, first_order: true } }),
  },
  {
    words: "Shoppers who stayed away get an amount off",
    also: "last order days win back",
    make: (b) => newTerms([newReward("amount_off", b.round)], { ...spend(b), who: { ...newTerms([]).who, days_since: 90 } }),
  },
  {
    words: "On some weekdays and hours, a percentage off",
    also: "happy hour evening friday",
    make: (b) =>
      newTerms([percentOff(b)], {
        when: { ...newTerms([]).when, weekdays: [4], from_minute: 18 * 60, to_minute: 22 * 60 },
      }),
  },
];

/** What was typed: words, the goods among them, and the numbers. */
export interface Typed {
  words: string[];
  goods: Scope[];
  /** The words that named goods; an opening may have them too, as gifts. */
  goodsWords: string[];
  figures: Figures;
}

export interface Figures {
  counts: number[];
  percent?: number;
  /** In units of the currency. */
  amount?: number;
}

export const NUMBERS = ["zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"];
const PLACES: Record<string, number> = { first: 1, second: 2, third: 3, fourth: 4, fifth: 5, sixth: 6 };
/** Words that say nothing by themselves. */
const IDLE = new Set(["a", "an", "the", "of", "and", "for", "with", "to", "in", "on", "at", "my", "all"]);

const bare = (word: string) => word.toLowerCase().normalize("NFKC");
/** So that seed, seeds and Seeds are one word. */
export const stem = (word: string) => bare(word).replace(/(?<=..)(es|s)$/, "");

/** Take typed text apart: numbers with what they count, names of goods the shop has, and the other words. */
export function understood(typed: string, frame: Frame, goods: Named[]): Typed {
  const found: Typed = { words: [], goods: [], goodsWords: [], figures: { counts: [] } };
  let rest = bare(typed);
  for (const [names, key] of [[frame.categories, "categories"], [frame.tags, "tags"], [frame.brands, "brands"], [[...new Set(goods.map((good) => good.product))], "products"]] as const) {
    for (const name of names) {
      if (!name) continue;
      const words = name.split(/\s+/).map(stem);
      const there = rest.split(/\s+/);
      const at = there.findIndex((_, n) => words.every((word, m) => stem(there[n + m] ?? "") === word));
      if (at < 0) continue;
      found.goods.push({ ...EVERYTHING, [key]: [name] });
      found.goodsWords.push(...words);
      rest = there.toSpliced(at, words.length).join(" ");
    }
  }
  for (const word of rest.split(/\s+|[,.…-]+(?!\d)/).filter(Boolean)) {
    const number = /^(\p{Sc})?(\d+(?:[.,]\d+)?)(%|\p{Sc})?$/u.exec(word);
    const spelled = NUMBERS.indexOf(word);
    if (number) {
      const value = Number(number[2]!.replace(",", "."));
      if (number[3] === "%") found.figures.percent = value;
      else if (number[1] || number[3]) found.figures.amount = value;
      else found.figures.counts.push(value);
    } else if (word === "%" || word === "percent") {
      const value = found.figures.counts.pop();
      if (value !== undefined) found.figures.percent = value;
      else found.words.push("percentage");
    } else if (spelled > 0) found.figures.counts.push(spelled);
    else if (word in PLACES) found.words.push(word);
    else if (!IDLE.has(word)) found.words.push(word);
  }
  found.figures.counts = found.figures.counts.filter((count) => Number.isInteger(count) && count >= 1);
  return found;
}

/**
 * Openings that have any of the words typed, in any order; those with more of them come first, then those that begin just
 * so. Numbers and goods are filled in where they fit, and find openings that count units.
 */
export function openingsFor(typed: string, { words, goods, goodsWords, figures }: Typed): Opening[] {
  const start = bare(typed).trim();
  const ranked = OPENINGS.map((opening, at) => {
    const has = `${opening.words} ${opening.also ?? ""}`.toLowerCase().split(/[\s,.…-]+/);
    const hit = (some: string[]) => some.filter((word) => has.some((one) => one.startsWith(word))).length;
    const hits = hit(words);
    const begins = opening.words.toLowerCase().startsWith(start) ? 1 : 0;
    const counts = figures.counts.length > 0 && figures.counts.some((count) => has.includes(NUMBERS[count] ?? "")) ? 1 : 0;
    const about = goods.length > 0 && /goods|set/.test(opening.words) ? 1 : 0;
    return { opening, at, begins, hits, score: (hits + hit(goodsWords)) * 4 + begins * 8 + counts * 2 + about };
  });
  const asked = words.length > 0 || goods.length > 0 || figures.counts.length > 0 || figures.percent !== undefined || figures.amount !== undefined;
  const found = asked ? ranked.filter(({ hits, begins, score }) => (words.length ? hits > 0 || begins > 0 : score > 0 || !figures.counts.length)) : ranked;
  return found.sort((a, b) => b.score - a.score || a.at - b.at).map(({ opening }) => opening);
}
