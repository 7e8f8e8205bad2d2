/** Every offer's sentence, copied out and pasted in, is the same offer: over generated offers of every kind. */
import * as fc from "fast-check";
import { expect, test } from "vitest";

import type { Condition, Frame, Limits, Named, OfferDoc, Plan, Reward, Scope, Terms } from "../../api/types";
import { newOffer, newPlan, newTerms, NO_LIMITS } from "../../pieces/new-parts";
import { EVERYTHING } from "../../pieces/scope-word";
import { ANYBODY, ANYWHERE } from "../../pieces/who-where";
import { canCountApart, canRepeat } from "../offers";
import { offerInFull } from "../sentence";
import { knownOf } from "./known";
import { readSentence } from "./read-sentence";

/** Names that are as hard to tell apart as any: one within another, with "and" in them, with numbers. */
const frame = {
  currency: "EUR",
  minor_digits: 2,
  categories: ["Seeds", "Seeds and soils", "House plants", "Planters"],
  tags: ["heavy", "heavy and wide"],
  brands: ["Moss", "Moss & Sons"],
  zones: ["Home", "Near abroad", "Islands and far"],
  options: ["Parcel", "Parcel to a shelf"],
  shoppers: { groups: ["trade", "trade or resale"], tags: ["newsletter", "press"], channels: ["web", "app"], payments: ["card", "invoice"] },
} as unknown as Frame;

const goods = [
  { sku: "S-1", product: "Basil", option: "" },
  { sku: "S-2", product: "Basil packet", option: "small" },
  { sku: "S-3", product: "Basil packet", option: "large" },
  { sku: "P 4", product: "Trough 45 cm, glazed", option: "" },
] as Named[];

const others = ["Free post", "Seeds by newsletter"].map((name) => ({ ...newOffer(newTerms([])), id: name, name }));
const plan: Plan = newPlan("Spring", "2027-03-01", "2027-03-14", others);
const running: OfferDoc[] = [{ ...newOffer(newTerms([])), id: "runs", name: "Post from 90" }];
const ids = [...others, ...running].map((one) => one.id);

const some = <Item>(from: readonly Item[], least = 0) => fc.subarray([...from], { minLength: least });
const maybe = <Value>(value: fc.Arbitrary<Value>) => fc.option(value, { nil: null });
const share = fc.integer({ min: 1, max: 10_000 });
const amount = fc.integer({ min: 1, max: 2_000_000 });
const units = fc.integer({ min: 1, max: 1_500 });

const lists = (least: number) =>
  fc
    .record({ categories: some(frame.categories), products: some(["Basil", "Basil packet"]), skus: some(goods.map((one) => one.sku)), tags: some(frame.tags), brands: some(frame.brands) })
    .filter((all) => Object.values(all).flat().length >= least);

const scope: fc.Arbitrary<Scope> = fc
  .tuple(fc.oneof(fc.constant({}), lists(1)), fc.oneof({ weight: 3, arbitrary: fc.constant(null) }, { weight: 1, arbitrary: lists(1) }), fc.constantFrom("in" as const, "out" as const))
  .map(([inside, out, reduced]) => ({
    ...EVERYTHING,
    ...inside,
    reduced,
    ...(out && { except_categories: out.categories, except_products: out.products, except_skus: out.skus, except_tags: out.tags, except_brands: out.brands }),
  }));

const measured = (bound: fc.Arbitrary<"at_least" | "over" | "at_most">): fc.Arbitrary<Condition> =>
  fc.oneof(
    fc.record({ kind: fc.constant("spend" as const), n: amount, bound, at: fc.constantFrom("net" as const, "standing" as const), of: scope }),
    fc.record({ kind: fc.constantFrom("units" as const, "products" as const, "weight" as const), n: units, bound, of: scope }),
  );
const condition: fc.Arbitrary<Condition> = fc.oneof(measured(fc.constantFrom("at_least", "over", "at_most")), fc.record({ kind: fc.constant("only" as const), of: scope }));

const onDelivery = { zones: some(frame.zones), options: some(frame.options), below_weight: maybe(units) };
const picked: fc.Arbitrary<Reward> = fc.oneof(
  fc.record({ kind: fc.constant("percent_off" as const), percent_bp: share, with_delivery: fc.boolean() }),
  fc.record({ kind: fc.constantFrom("amount_off" as const, "amount_off_each" as const, "unit_price" as const), amount }),
);
const delivered: fc.Arbitrary<Reward> = fc.oneof(
  fc.record({ kind: fc.constant("delivery_percent_off" as const), percent_bp: share, ...onDelivery }),
  fc.record({ kind: fc.constantFrom("delivery_amount_off" as const, "delivery_lowered_to" as const), amount, ...onDelivery }),
  fc.record({ kind: fc.constant("delivery_lowered_to" as const), amount: fc.constant(0), ...onDelivery }),
);
const putIn: fc.Arbitrary<Reward> = fc
  .record({ categories: some(frame.categories), skus: some(goods.map((one) => one.sku)), quantity: units, amount: fc.oneof(fc.constant(0), amount) })
  .filter(({ categories, skus }) => categories.length + skus.length > 0)
  .map((one) => ({ kind: "put_in", shares_bp: [], substitute: "", ...one }));
const off = fc.record({ kind: fc.constant("percent_off" as const), percent_bp: share, with_delivery: fc.constant(false) });
const buyGet: fc.Arbitrary<Reward> = fc
  .record({
    kind: fc.constant("buy_get" as const),
    buy: fc.integer({ min: 0, max: 100 }),
    get: fc.integer({ min: 1, max: 100 }),
    of: scope,
    price: fc.oneof(off, fc.record({ kind: fc.constantFrom("amount_off_each" as const, "unit_price" as const), amount })),
    units_from: fc.constantFrom("cheapest" as const, "dearest" as const),
  })
  .map((one) => (one.buy ? one : { ...one, of: EVERYTHING }));
const goodsSet: fc.Arbitrary<Reward> = fc.record({
  kind: fc.constant("goods_set" as const),
  parts: fc.array(fc.record({ count: fc.integer({ min: 1, max: 100 }), of: scope }), { minLength: 1, maxLength: 3 }),
  price: fc.oneof(off, fc.record({ kind: fc.constantFrom("amount_off" as const, "set_price" as const), amount })),
  units_from: fc.constant("dearest" as const),
});
const inStep = fc.array(fc.oneof(picked, delivered, putIn), { minLength: 1, maxLength: 2 });

const none = fc.constant([]).map((): string[] => []);
const code = fc.stringMatching(/^[A-Z0-9][A-Z0-9_-]{2,14}$/);
const given: fc.Arbitrary<Terms["given"]> = fc.oneof(
  fc.record({ by: fc.constant("itself" as const), code: fc.constant(""), codes: none }),
  fc.record({ by: fc.constantFrom("code" as const, "link" as const), code, codes: none }),
  fc.record({ by: fc.constant("codes" as const), code: fc.constant(""), codes: fc.uniqueArray(code, { minLength: 1, maxLength: 4 }) }),
);

const day = fc.date({ min: new Date("2026-01-01"), max: new Date("2029-12-31"), noInvalidDate: true }).map((one) => one.toISOString().slice(0, 10));
const minute = fc.integer({ min: 0, max: 1439 });
const when: fc.Arbitrary<Terms["when"]> = fc
  .record({ first_day: maybe(day), last_day: maybe(day), first_minute: maybe(minute), last_minute: maybe(minute), weekdays: some([0, 1, 2, 3, 4, 5, 6]), hours: maybe(fc.tuple(minute, minute)) })
  .map(({ hours, ...one }) => ({
    ...one,
    first_minute: one.first_day ? one.first_minute : null,
    last_minute: one.last_day ? one.last_minute : null,
    from_minute: hours?.[0] ?? null,
    to_minute: hours?.[1] ?? null,
  }));

const shopper = fc.stringMatching(/^[a-z0-9@.]{3,12}$/);
const who: fc.Arbitrary<Terms["who"]> = fc
  .record({
    first_order: fc.boolean(),
    nth_order: maybe(fc.integer({ min: 2, max: 120 })),
    days_since: maybe(fc.integer({ min: 1, max: 3_000 })),
    groups: some(frame.shoppers.groups),
    tags: some(frame.shoppers.tags),
    shoppers: fc.uniqueArray(shopper, { maxLength: 3 }),
    except_groups: some(frame.shoppers.groups),
    except_tags: some(frame.shoppers.tags),
    except_shoppers: fc.uniqueArray(shopper, { maxLength: 3 }),
  })
  .map((one) => ({ ...ANYBODY, ...one }));
const where: fc.Arbitrary<Terms["where"]> = fc
  .record({ zones: some(frame.zones), except_zones: some(frame.zones), channels: some(frame.shoppers.channels), payments: some(frame.shoppers.payments) })
  .map((one) => ({ ...ANYWHERE, ...one }));
const others_ = fc.oneof(
  fc.constant(["named", []] as ["named", string[]]),
  some(ids, 1).map((names): ["named", string[]] => ["named", names]),
  fc.constant(["all", []] as ["all", string[]]),
);
const limits: fc.Arbitrary<Limits> = fc
  .record({ units: maybe(units), units_from: fc.constantFrom("cheapest" as const, "dearest" as const), times: maybe(units), amount: maybe(amount), uses_per_shopper: maybe(units), uses: maybe(units), spending: maybe(amount) })
  .map((one) => ({ ...NO_LIMITS, ...one, units_from: one.units === null ? "cheapest" : one.units_from }));

/** What no sentence says of an offer is left as it begins. */
function sayable(terms: Terms): Terms {
  const repeats = terms.earned.conditions.length ? true : canRepeat({ ...terms, steps: terms.steps });
  const onGoods = terms.gives.some((one) => ["percent_off", "amount_off", "amount_off_each", "unit_price", "buy_get"].includes(one.kind));
  return {
    ...terms,
    on: onGoods ? terms.on : EVERYTHING,
    funded: terms.funded.share_bp || terms.funded.each ? terms.funded : { ...terms.funded, of: EVERYTHING },
    earned: { ...terms.earned, repeat: repeats ? terms.earned.repeat : "once", counted: canCountApart(terms) ? terms.earned.counted : "pooled", need: terms.earned.conditions.length > 1 ? terms.earned.need : "all" },
    every_step: terms.every_step && terms.steps.length > 0 && [...terms.gives, ...terms.steps.flatMap((one) => one.gives)].every((one) => one.kind === "put_in"),
  };
}

const withSteps = fc.record({
  conditions: measured(fc.constantFrom("at_least", "over")).map((one) => [one]),
  repeat: fc.constant("once" as const),
  steps: fc.array(fc.record({ n: amount, gives: inStep }), { minLength: 1, maxLength: 3 }),
});
const without = fc.record({ conditions: fc.array(condition, { maxLength: 3 }), repeat: fc.constantFrom("once" as const, "each_time" as const), steps: fc.constant(null).map((): Terms["steps"] => []) });

const terms: fc.Arbitrary<Terms> = fc
  .record({
    part: fc.oneof(without, withSteps),
    need: fc.constantFrom("all" as const, "any" as const),
    counted: fc.constantFrom("pooled" as const, "by_product" as const, "by_sku" as const),
    gives: fc.array(fc.oneof(picked, delivered, putIn, buyGet, goodsSet), { minLength: 1, maxLength: 3 }),
    every_step: fc.boolean(),
    on: scope,
    limits,
    given,
    when,
    who,
    where,
    never: others_,
    yields: others_,
    funded: fc.record({ share_bp: fc.oneof(fc.constant(0), share), each: fc.oneof(fc.constant(0), amount), of: fc.oneof(fc.constant(EVERYTHING), scope) }),
  })
  .map(({ part, need, counted, never, yields, ...rest }) =>
    sayable(
      newTerms(rest.gives, {
        ...rest,
        earned: { conditions: part.conditions, repeat: part.repeat, need, counted },
        steps: part.steps,
        alongside: { never: never[0], never_with: never[1], yields: yields[0], yields_to: yields[1] },
      }),
    ),
  )
  // Goods named once for two rewards are told for the first that picks units; a reward of units names its own.
  .filter(({ gives }) => gives.filter((one) => one.kind === "buy_get").length === 0 || gives.length === 1);

const readBack = (told: Terms) => readSentence(offerInFull({ ...newOffer(told), name: "Mine" }, plan, frame, goods, running), knownOf(frame, goods, plan, running));

test("a sentence copied out and pasted in is the same offer", () => {
  fc.assert(
    fc.property(terms, (told) => {
      expect(readBack(told)).toEqual(told);
    }),
    { numRuns: 600 },
  );
}, 120_000);

test("what is no sentence of an offer is not taken for one", () => {
  const from = knownOf(frame, goods, plan, running);
  for (const text of ["", "Carts with", "Every cart gets 10 % off everything", "Every cart gets 10 % off everything, without a code, while the plan runs. And more", "x".repeat(100_000), "Every cart gets 10 % off rockets, without a code, while the plan runs."]) expect(readSentence(text, from)).toBeNull();
});
