/** What an offer gives, read back: the inverse of `rewardsTokens` and `stepTokens`. */
import type { Reward, Scope, SetPriceOf, Step, UnitPriceOf } from "../../api/types";
import { EVERYTHING } from "../../pieces/scope-word";
import { NotUnderstood, type Cursor } from "./cursor";
import { size } from "./earned-read";
import { amount, counted, percent, weight } from "./figures-read";
import { known, scope, skuName } from "./goods-read";
import type { Known } from "./known";

type OnDelivery = Extract<Reward, { zones: string[] }>;
type PutIn = Extract<Reward, { kind: "put_in" }>;

/** Rewards, and the goods they are on, where they say it. */
export interface Given {
  gives: Reward[];
  on: Scope | null;
}

/** inStep: goods are not named there again. */
export function rewards(at: Cursor, from: Known, inStep: boolean): Given {
  const found: Given = { gives: [], on: null };
  const one = () => {
    const { reward, on } = rewardOf(at, from, inStep, found.on !== null);
    found.gives.push(reward);
    if (on) found.on = on;
    return reward;
  };
  one();
  const more = () => {
    at.must(/ and /);
    return one();
  };
  while (at.maybe(more));
  return found;
}

interface Read {
  reward: Reward;
  on?: Scope | null;
}

function rewardOf(at: Cursor, from: Known, inStep: boolean, named: boolean): Read {
  const tries: (() => Read)[] = [
    () => ({ reward: delivery(at, from) }),
    () => buyGet(at, from),
    () => ({ reward: goodsSet(at, from) }),
    () => ({ reward: putIn(at, from) }),
    () => offGoods(at, from, inStep, named),
  ];
  for (const read of tries) {
    const found = at.maybe(read);
    if (found) return found;
  }
  throw new NotUnderstood(at.rest);
}

function delivery(at: Cursor, from: Known): Reward {
  const asked = howDelivered(at, from);
  let zones: string[] = [];
  if (!at.has(" everywhere")) {
    at.must(/ to /);
    zones = at.row(() => known(at, from.frame.zones), "and");
  }
  const options = at.has(", sent as ") ? at.row(() => known(at, from.frame.options), "or") : [];
  const below_weight = at.has(", for parcels below ") ? weight(at) : null;
  return { ...asked, zones, options, below_weight } as OnDelivery;
}

function howDelivered(at: Cursor, { unit }: Known): Record<string, unknown> {
  if (at.has("free delivery")) return { kind: "delivery_lowered_to", amount: 0 };
  if (at.has("delivery for ")) return { kind: "delivery_lowered_to", amount: amount(at, unit) };
  const off = at.maybe(() => ({ kind: "delivery_percent_off", percent_bp: percent(at) })) ?? { kind: "delivery_amount_off", amount: amount(at, unit) };
  at.must(/ off delivery/);
  return off;
}

function buyGet(at: Cursor, from: Known): Read {
  const [, end, many] = at.must(/the (cheapest|dearest) (?:(\d+) )?units? of /);
  const on = scope(at, from);
  at.must(/ /);
  const price = unitPrice(at, from);
  at.must(/ for /);
  const shared = { kind: "buy_get", get: Number(many ?? 1), price, units_from: end as "cheapest" | "dearest" } as const;
  if (at.has("nothing else bought")) return { reward: { ...shared, buy: 0, of: EVERYTHING }, on };
  const buy = counted(at);
  at.must(/ units? of /);
  const of = scope(at, from);
  at.must(/ bought/);
  return { reward: { ...shared, buy, of }, on };
}

function unitPrice(at: Cursor, { unit }: Known): UnitPriceOf {
  const off = percentOrFree(at);
  if (off !== null) return { kind: "percent_off", percent_bp: off, with_delivery: false };
  if (at.has("for ")) {
    const price = amount(at, unit);
    at.must(/ each/);
    return { kind: "unit_price", amount: price };
  }
  const less = amount(at, unit);
  at.must(/ off each/);
  return { kind: "amount_off_each", amount: less };
}

/** A percentage off in basis points, all of it where it is free; null where neither stands here. */
const percentOrFree = (at: Cursor): number | null =>
  at.has("free")
    ? 10_000
    : at.maybe(() => {
        const off = percent(at);
        at.must(/ off/);
        return off;
      });

function goodsSet(at: Cursor, from: Known): Reward {
  const part = () => {
    const count = counted(at);
    at.must(/ units? of /);
    return { count, of: scope(at, from) };
  };
  const parts = [part()];
  const more = () => {
    at.must(/ and /);
    return part();
  };
  for (let next = at.maybe(more); next !== null; next = at.maybe(more)) parts.push(next);
  at.must(/ together /);
  return { kind: "goods_set", parts, price: setPrice(at, from), units_from: "dearest" };
}

function setPrice(at: Cursor, { unit }: Known): SetPriceOf {
  const off = percentOrFree(at);
  if (off !== null) return { kind: "percent_off", percent_bp: off, with_delivery: false };
  if (at.has("for ")) return { kind: "set_price", amount: amount(at, unit) };
  const less = amount(at, unit);
  at.must(/ off/);
  return { kind: "amount_off", amount: less };
}

function putIn(at: Cursor, from: Known): PutIn {
  const quantity = counted(at);
  at.must(/ units? of /);
  const names = at.row(
    () => (at.has("any of ") ? (["categories", known(at, from.frame.categories)] as const) : (["skus", skuName(at, from.goods)] as const)),
    "or",
  );
  at.must(/ put in /);
  let asked = 0;
  if (!at.has("free")) {
    at.must(/for /);
    asked = amount(at, from.unit);
    at.must(/ each/);
  }
  const of = (kind: "categories" | "skus") => names.filter(([one]) => one === kind).map(([, name]) => name);
  return { kind: "put_in", skus: of("skus"), categories: of("categories"), quantity, amount: asked, shares_bp: [], substitute: "" };
}

/** A reward on units picked of the goods the offer is on. */
function offGoods(at: Cursor, from: Known, inStep: boolean, named: boolean): Read {
  const { unit } = from;
  const [reward, link] = howMuchOff(at, unit);
  let on: Scope | null = null;
  if (!inStep) {
    at.must(new RegExp(link));
    if (named || !at.maybe(() => (on = scope(at, from)))) at.must(/the same goods/);
  }
  if (reward.kind === "percent_off" && at.take(/ and delivery(?! (?:for|everywhere|to)\b)/)) return { reward: { ...reward, with_delivery: true }, on };
  return { reward, on };
}

function howMuchOff(at: Cursor, unit: number): [Reward, string] {
  if (at.has("a price of ")) {
    const price = amount(at, unit);
    at.must(/ each/);
    return [{ kind: "unit_price", amount: price }, " for "];
  }
  const share = at.maybe(() => {
    const off = percent(at);
    at.must(/ off/);
    return off;
  });
  if (share !== null) return [{ kind: "percent_off", percent_bp: share, with_delivery: false }, " "];
  const less = amount(at, unit);
  at.must(/ off/);
  return at.has(" each") ? [{ kind: "amount_off_each", amount: less }, " of "] : [{ kind: "amount_off", amount: less }, " "];
}

/** Steps, and whether every one reached counts. */
export function steps(at: Cursor, from: Known): { steps: Step[]; every_step: boolean } {
  const found: Step[] = [];
  while (at.has("; from ")) {
    const { n } = size(at, from);
    at.must(/ on /);
    found.push({ n, gives: rewards(at, from, true).gives });
  }
  const every_step = at.has(", every step reached counts");
  if (!every_step) at.has(", the highest step alone counts");
  return { steps: found, every_step };
}
