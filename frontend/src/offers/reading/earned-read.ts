/** What earns an offer, read back: the inverse of `earnedTokens` and `countedTokens`. */
import type { Bound, Condition, Terms } from "../../api/types";
import { NOTHING_NEEDED } from "../../pieces/measures";
import { NotUnderstood, type Cursor } from "./cursor";
import { amount, counted, weight } from "./figures-read";
import { scope } from "./goods-read";
import type { Known } from "./known";

type Earned = Terms["earned"];
type Size = { kind: "spend" | "units" | "weight" | "products"; n: number };

export function earned(at: Cursor, from: Known): Earned {
  if (at.has("Every cart gets ")) return NOTHING_NEEDED;
  const each = at.has("For ");
  if (!each) at.must(/Carts with /i);
  const conditions = [condition(at, from, each)];
  let need: Earned["need"] = "all";
  for (let more = next(at, from, each); more !== null; more = next(at, from, each)) {
    conditions.push(more[0]);
    need = more[1];
  }
  at.must(each ? /, a cart gets / : / get /);
  return { conditions, repeat: each ? "each_time" : "once", need, counted: "pooled" };
}

const next = (at: Cursor, from: Known, each: boolean): [Condition, Earned["need"]] | null =>
  at.maybe(() => {
    const word = at.must(/ (and|or) /)[1];
    return [condition(at, from, each), word === "or" ? "any" : "all"];
  });

function condition(at: Cursor, from: Known, each: boolean): Condition {
  if (at.has("nothing but ")) return { kind: "only", of: scope(at, from) };
  const [{ kind, n }, bound] = bounded(at, from, each);
  const standing = kind === "spend" && at.has(" before offers");
  at.must(/ of /);
  const of = scope(at, from);
  return kind === "spend" ? { kind, n, bound, at: standing ? "standing" : "net", of } : { kind, n, bound, of };
}

function bounded(at: Cursor, from: Known, each: boolean): [Size, Bound] {
  if (at.has("at most ")) return [size(at, from), "at_most"];
  if (each) {
    at.must(/every /);
    const found = size(at, from);
    return [found, at.has(" once over that") ? "over" : "at_least"];
  }
  if (at.has("over ")) return [size(at, from), "over"];
  const many = at.maybe((): Size => {
    const n = counted(at);
    return { n, kind: at.must(/ or more (unit|different product)s?/)[1] === "unit" ? "units" : "products" };
  });
  if (many) return [many, "at_least"];
  const found = size(at, from);
  at.must(/ or more/);
  return [found, "at_least"];
}

/** How much, in whatever it is measured. */
export function size(at: Cursor, from: Known): Size {
  const found =
    at.maybe((): Size => ({ kind: "weight", n: weight(at) })) ??
    at.maybe((): Size => {
      const n = counted(at);
      return { n, kind: at.must(/ (unit|different product)s?/)[1] === "unit" ? "units" : "products" };
    }) ??
    at.maybe((): Size => ({ kind: "spend", n: amount(at, from.unit) }));
  if (!found) throw new NotUnderstood(at.rest);
  return found;
}

/** How often units come about, and whether they are counted product by product. */
export function howCounted(at: Cursor, before: Earned): Earned {
  let found = before;
  if (before.conditions.length === 0) {
    if (at.has(", each time")) found = { ...found, repeat: "each_time" };
    else if (at.has(", once an order")) found = { ...found, repeat: "once" };
  }
  const apart = at.take(/, each (product|option) counted by itself/)?.[1];
  return apart ? { ...found, counted: apart === "product" ? "by_product" : "by_sku" } : found;
}
