/** Which goods a sentence means, read back: the inverse of `scopeInWords`. */
import type { Named, Scope } from "../../api/types";
import { EVERYTHING } from "../../pieces/scope-word";
import { nameOf } from "../../pieces/product-picker";
import type { Known } from "./known";
import { NotUnderstood, type Cursor } from "./cursor";

type Lists = Pick<Scope, "categories" | "tags" | "brands" | "products" | "skus">;
type Kind = keyof Lists;

/** One name of goods: of a category, a tag, a brand, a product or a SKU. */
function goodsName(at: Cursor, { frame, goods }: Known): [Kind, string] {
  if (at.has("goods tagged ")) return ["tags", known(at, frame.tags)];
  if (at.has("goods by ")) return ["brands", known(at, frame.brands)];
  const sku = at.maybe(() => skuName(at, goods));
  if (sku !== null) return ["skus", sku];
  const category = at.name(frame.categories);
  if (category !== null) return ["categories", category];
  return ["products", known(at, [...new Set(goods.map((one) => one.product))])];
}

export function known(at: Cursor, names: readonly string[]): string {
  const found = at.name(names);
  if (found === null) throw new NotUnderstood(at.rest);
  return found;
}

/** A product and its option by name, with the SKU behind it. */
export function skuName(at: Cursor, goods: Named[]): string {
  const name = known(at, [...new Set(goods.map(nameOf))]);
  const named = at.take(/ \(([^()]+)\)/)?.[1];
  const found = named === undefined ? goods.filter((one) => nameOf(one) === name && one.option !== "") : goods.filter((one) => one.sku === named);
  if (found.length !== 1) throw new NotUnderstood(name);
  return found[0]!.sku;
}

function lists(found: [Kind, string][]): Lists {
  const all: Lists = { categories: [], tags: [], brands: [], products: [], skus: [] };
  for (const [kind, name] of found) all[kind] = [...all[kind], name];
  return all;
}

export function scope(at: Cursor, from: Known): Scope {
  const whole = at.take(/(everything|anything|all goods)\b/i) !== null;
  const inside = lists(whole ? [] : at.row(() => goodsName(at, from), "and"));
  const out = lists(at.has(" except ") ? at.row(() => goodsName(at, from), "and") : []);
  const reduced = at.has(", reduced goods left out") ? "out" : "in";
  return {
    ...EVERYTHING,
    ...inside,
    except_categories: out.categories,
    except_tags: out.tags,
    except_brands: out.brands,
    except_products: out.products,
    except_skus: out.skus,
    reduced,
  };
}
