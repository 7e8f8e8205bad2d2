/** What a sketched cart holds, as people write it: "2 pots, 1-3 soil, MISTER-1". */
import type { Frame, MixTerms, Named, Scope } from "../../api/types";
import { folded } from "../../pieces/lists";
import { nameOf } from "../../pieces/product-picker";
import { EVERYTHING, scopeInWords } from "../../pieces/scope-word";

export type Sketch = MixTerms["sketched"][number];
export type SketchedLine = Sketch["lines"][number];

const AMOUNT = /^(\d+)(?:\s*(?:-|–|to)\s*(\d+))?(?:\s*[x×])?\s+/i;
export const MOST_UNITS = 1_000;

/** The lines that a text names, or what in it is not known. */
export function linesIn(text: string, goods: Named[], frame: Pick<Frame, "categories" | "tags" | "brands">): { lines: SketchedLine[]; unknown: string[] } {
  const lines: SketchedLine[] = [];
  const unknown: string[] = [];
  for (const part of text.split(/[,;\n+]|\band\b/i)) {
    const written = `${part.trim()} `;
    const amount = AMOUNT.exec(written);
    const name = written.slice(amount?.[0].length ?? 0).trim().replace(/^(any\s+)?(of\s+)?/i, "");
    if (!name) continue;
    const of = goodsCalled(name, goods, frame);
    if (!of) {
      unknown.push(name);
      continue;
    }
    const [one, other] = [within(Number(amount?.[1] ?? 1)), within(Number(amount?.[2] ?? amount?.[1] ?? 1))];
    lines.push({ of, least: Math.min(one, other), most: Math.max(one, other) });
  }
  return { lines, unknown };
}

const within = (units: number) => Math.min(Math.max(units, 1), MOST_UNITS);

/** Goods somebody means who writes so: a SKU or a whole name first, then what begins with it, then what has it in it. */
function goodsCalled(name: string, goods: Named[], { categories, tags, brands }: Pick<Frame, "categories" | "tags" | "brands">): Scope | null {
  const wanted = folded(name);
  const products = [...new Set(goods.map((good) => good.product).filter(Boolean))];
  const kinds: [keyof Scope, string[]][] = [
    ["categories", categories],
    ["products", products],
    ["tags", tags],
    ["brands", brands],
  ];
  const sku = goods.find((good) => folded(good.sku) === wanted);
  if (sku) return { ...EVERYTHING, skus: [sku.sku] };
  for (const fits of [(text: string) => text === wanted, (text: string) => text.startsWith(wanted), (text: string) => text.includes(wanted)]) {
    for (const [kind, names] of kinds) {
      const found = names.find((one) => fits(folded(one)));
      if (found) return { ...EVERYTHING, [kind]: [found] };
    }
    const good = goods.find((one) => fits(folded(nameOf(one))));
    if (good) return { ...EVERYTHING, skus: [good.sku] };
  }
  // a plural, such as "soils" for Soil
  return wanted.length > 3 && wanted.endsWith("s") ? goodsCalled(wanted.slice(0, -1), goods, { categories, tags, brands }) : null;
}

/** What a new type is called: what it is mostly of, unlike the others. */
export function nameFor(lines: SketchedLine[], goods: Named[], taken: string[]): string {
  const words = lines.slice(0, 2).map((line) => scopeInWords(line.of, goods, "anything"));
  const plain = words.join(" with ");
  const name = plain.charAt(0).toUpperCase() + plain.slice(1, 70);
  const is = (one: string) => taken.some((other) => folded(other) === folded(one));
  for (let number = 2; ; number += 1) {
    const tried = number === 2 ? name : `${name} ${number - 1}`;
    if (!is(tried)) return tried;
  }
}

/** Shares of all orders after one of them was changed: what is left of 100 % goes to the history, or where there is none to
 * the other types as they stood to each other. */
export function sharesWith(shares: readonly number[], at: number, share: number, hasHistory: boolean): number[] {
  const others = shares.reduce((sum, one, number) => (number === at ? sum : sum + one), 0);
  const mine = Math.min(Math.max(Math.round(share), 0), 10_000);
  const room = 10_000 - mine;
  if (hasHistory && others <= room) return shares.map((one, number) => (number === at ? mine : one));
  if (shares.length === 1) return [hasHistory ? mine : 10_000];
  return footed(
    shares.map((one, number) => (number === at ? mine : others ? (one / others) * room : room / (shares.length - 1))),
    at,
  );
}

/** Whole basis points that add up to 10,000; the one that was set stays as it is. */
function footed(shares: number[], set: number): number[] {
  const whole = shares.map(Math.floor);
  let missing = 10_000 - whole.reduce((sum, one) => sum + one, 0);
  for (let at = 0; missing > 0; at = (at + 1) % whole.length) {
    if (at === set && whole.length > 1) continue;
    whole[at]! += 1;
    missing -= 1;
  }
  return whole;
}

/** The shares with one more type: a tenth of all where there is a history, else an even part. */
export function sharesWithOneMore(shares: readonly number[], hasHistory: boolean): number[] {
  const mine = hasHistory ? 1_000 : Math.round(10_000 / (shares.length + 1));
  return sharesWith([...shares, 0], shares.length, mine, hasHistory);
}

/** The shares without one; where there is no history the others take its part. */
export function sharesWithout(shares: readonly number[], at: number, hasHistory: boolean): number[] {
  const rest = shares.toSpliced(at, 1);
  if (hasHistory || rest.length === 0) return rest;
  const whole = rest.reduce((sum, one) => sum + one, 0);
  return footed(rest.map((one) => (whole ? (one / whole) * 10_000 : 10_000 / rest.length)), -1);
}
