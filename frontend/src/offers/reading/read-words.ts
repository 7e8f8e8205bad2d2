/** An offer in somebody's own words, in any order: what is understood becomes an offer, what is not is told. */
import type { Condition, Limits, Reward, Scope, Terms } from "../../api/types";
import { EACH_TIME, FREE, newTerms, NO_LIMITS } from "../../pieces/new-parts";
import { EVERYTHING } from "../../pieces/scope-word";
import { ANYBODY, ANYWHERE } from "../../pieces/who-where";
import { NUMBERS, stem } from "../openings";
import { WEEKDAYS } from "../when-word";
import { alongside } from "./clauses-read";
import { Cursor, NotUnderstood } from "./cursor";
import { amount, clock, day, dayToDay } from "./figures-read";
import { yearOf, type Known } from "./known";
import { LONGEST, readSentence } from "./read-sentence";

export interface ReadOffer {
  terms: Terms;
  /** Words that were left out, as they were written. */
  missed: string[];
}

/** Null where no reward is among the words, or the text is too long to be an offer. */
export function readOffer(text: string, from: Known): ReadOffer | null {
  const exact = readSentence(text, from);
  if (exact) return { terms: exact, missed: [] };
  const plain = text.replace(/\u00a0/g, " ").replace(/\s+/g, " ").trim();
  if (!plain || plain.length > LONGEST) return null;
  return new Words(plain, from).read();
}

/** Words that say nothing by themselves. */
const IDLE = /^(?:a|an|the|of|and|for|with|to|in|on|at|my|all|get|gets|give|shoppers?|customers?|who|carts?|orders?|put|everybody|only|is|are|per|or|more)$/i;
const COUNT = `(\\d{1,4}|${NUMBERS.slice(1).join("|")})`;
const counted = (text: string): number => (/^\d/.test(text) ? Number(text) : NUMBERS.indexOf(text.toLowerCase()));

interface Size {
  kind: "spend" | "units" | "weight";
  n: number;
}

type GoodsKind = "categories" | "tags" | "brands" | "products";

class Words {
  private readonly at: Cursor;
  private readonly missed: string[] = [];
  private readonly gives: Reward[] = [];
  private on: Scope = EVERYTHING;
  private readonly sizes: Size[] = [];
  private each = false;
  private readonly limits: Limits = { ...NO_LIMITS };
  private readonly part: Partial<Terms> = {};

  constructor(
    text: string,
    private readonly from: Known,
  ) {
    this.at = new Cursor(text);
  }

  read(): ReadOffer | null {
    let before = false;
    while (!this.at.ended) {
      if (this.at.take(/[\s,;.:!()–—-]+/)) continue;
      if (this.readers.some((read) => this.at.maybe(read) !== null)) before = false;
      else before = this.skip(before);
    }
    if (this.gives.length === 0) return null;
    return { terms: this.terms(), missed: this.missed };
  }

  /** One word that nobody understands, joined to the one before where that was none either. */
  private skip(before: boolean): boolean {
    const word = this.at.must(/[^\s,;]+/)[0].replace(/[.!:]+$/, "");
    if (!before && IDLE.test(word)) return false;
    this.missed.push(before ? `${this.missed.pop()} ${word}` : word);
    return true;
  }

  private terms(): Terms {
    const conditions = this.sizes.map(({ kind, n }): Condition => (kind === "spend" ? { kind, n, bound: "at_least", at: "net", of: this.on } : { kind, n, bound: "at_least", of: this.on }));
    const units = this.gives.some((one) => one.kind === "buy_get");
    const gives = this.gives.map((one) => (one.kind === "buy_get" ? { ...one, of: this.on } : one));
    const earned: Terms["earned"] = conditions.length ? { conditions, repeat: this.each ? "each_time" : "once", need: "all", counted: "pooled" } : units ? EACH_TIME : newTerms([]).earned;
    const goods = gives.some((one) => "percent_bp" in one && !("zones" in one)) || gives.some((one) => ["amount_off", "amount_off_each", "unit_price", "buy_get"].includes(one.kind));
    return newTerms(gives, { ...this.part, earned, on: goods ? this.on : EVERYTHING, limits: this.limits });
  }

  /** What may stand at any place; the first that understands takes it. */
  private readonly readers: (() => unknown)[] = [
    () => this.buyGet(),
    () => this.freeDelivery(),
    () => this.percent(),
    () => this.amountOff(),
    () => this.code(),
    () => this.days(),
    () => this.hours(),
    () => this.threshold(),
    () => this.limit(),
    () => this.alongside(),
    () => this.who(),
    () => this.where(),
    () => this.gift(),
    () => this.except(),
    () => this.goods(),
  ];

  private once<Key extends keyof Terms>(key: Key, value: Terms[Key]) {
    if (this.part[key] !== undefined) throw new NotUnderstood(); // said twice
    this.part[key] = value;
  }

  private give(reward: Reward) {
    if (this.gives.some((one) => one.kind === reward.kind)) throw new NotUnderstood();
    this.gives.push(reward);
  }

  // --- what is given

  private buyGet() {
    const deal = this.at.take(new RegExp(`${COUNT} for (?:the price of )?${COUNT}\\b(?! ?%)`, "i"));
    if (deal) {
      const [all, paid] = [counted(deal[1]!), counted(deal[2]!)];
      if (all <= paid) throw new NotUnderstood();
      return this.give({ kind: "buy_get", buy: paid, get: all - paid, of: EVERYTHING, price: FREE, units_from: "cheapest" });
    }
    const buy = counted(this.at.must(new RegExp(`buy ${COUNT}`, "i"))[1]!);
    this.at.maybe(() => {
      this.at.must(/ /);
      return this.goods();
    });
    const get = counted(this.at.must(new RegExp(`,? (?:and )?get (?:the )?(?:another )?${COUNT}`, "i"))[1]!);
    this.at.maybe(() => {
      this.at.must(/ /);
      return this.goods();
    });
    const price = this.at.take(/ (?:for )?free/i)
      ? FREE
      : this.at.take(/ (?:at )?half(?: the)? price/i)
        ? { ...FREE, percent_bp: 5_000 }
        : { ...FREE, percent_bp: Math.round(Number(this.at.must(/ (\d+(?:\.\d+)?) ?% off/i)[1]) * 100) };
    return this.give({ kind: "buy_get", buy, get, of: EVERYTHING, price, units_from: "cheapest" });
  }

  private freeDelivery() {
    const off = this.at.take(/(\d+(?:\.\d+)?) ?(?:%|percent) off (?:the )?(?:delivery|shipping|postage)/i)?.[1];
    if (off) return this.give({ kind: "delivery_percent_off", percent_bp: Math.round(Number(off) * 100), zones: [], options: [], below_weight: null });
    if (this.at.take(/(?:delivery|shipping|postage) for /i)) return this.give({ kind: "delivery_lowered_to", amount: amount(this.at, this.from.unit), zones: [], options: [], below_weight: null });
    this.at.must(/(?:free (?:delivery|shipping|postage|post)|(?:delivery|shipping|postage) (?:is )?free)\b/i);
    return this.give({ kind: "delivery_lowered_to", amount: 0, zones: [], options: [], below_weight: null });
  }

  private percent() {
    const half = this.at.take(/half(?: the)? price/i);
    const share = half ? 50 : Number(this.at.must(/(\d+(?:[.,]\d+)?) ?(?:%|percent\b|per cent\b)(?: (?:off|discount|less|reduction))?/i)[1]!.replace(",", "."));
    if (!(share > 0 && share <= 100)) throw new NotUnderstood();
    return this.give({ kind: "percent_off", percent_bp: Math.round(share * 100), with_delivery: false });
  }

  private amountOff() {
    const less = amount(this.at, this.from.unit);
    const each = this.at.must(/ (?:off|less|discount)( each| per unit| a unit)?(?! (?:delivery|shipping|postage))/i)[1];
    return this.give({ kind: each ? "amount_off_each" : "amount_off", amount: less });
  }

  private gift() {
    const many = this.at.take(new RegExp(`(?:a |one )?(?:free )(?:gift:? (?:of )?)?(?:${COUNT} )?`, "i"));
    if (!many) throw new NotUnderstood();
    const { frame, goods } = this.from;
    const found = this.named(
      goods.map((one) => [one.product, one.sku] as const),
    );
    const category = found === null ? this.named(frame.categories.map((name) => [name, name] as const)) : null;
    if (found === null && category === null) throw new NotUnderstood();
    return this.give({ kind: "put_in", skus: found === null ? [] : [found], categories: category === null ? [] : [category], quantity: many[1] ? counted(many[1]) : 1, amount: 0, shares_bp: [], substitute: "" });
  }

  // --- what it takes

  private threshold() {
    const every = this.at.take(/(?:for )?every /i) !== null;
    const started = this.at.take(/(?:from|over|above|at least|minimum|min\.?|spend(?:ing)?|for orders (?:of|over)|carts of|orders of) /i) !== null || every;
    const size =
      this.at.maybe((): Size => ({ kind: "spend", n: amount(this.at, this.from.unit) })) ??
      this.at.maybe((): Size => ({ kind: "weight", n: Math.round(Number(this.at.must(/(\d+(?:\.\d+)?) ?kg\b/i)[1]) * 1000) })) ?? { kind: "units", n: counted(this.at.must(new RegExp(`${COUNT}\\b(?! ?%)`, "i"))[1]!) };
    const ended = this.at.take(/ ?(?:units?|items?|packets?|pieces?)?,? (?:or more|and up|and over|upwards|minimum|on)\b| (?:units?|items?|packets?|pieces?)\b/i);
    if (!started && !ended) throw new NotUnderstood();
    if (size.n < 1 || this.sizes.some((one) => one.kind === size.kind)) throw new NotUnderstood();
    if (every) this.each = true;
    return this.sizes.push(size);
  }

  private limit() {
    const set = (key: Exclude<keyof Limits, "units_from">, value: number) => {
      if (this.limits[key] !== null || value < 1) throw new NotUnderstood();
      return (this.limits[key] = value);
    };
    if (this.at.take(/once (?:per|a|for each) (?:shopper|customer|person)/i)) return set("uses_per_shopper", 1);
    const times = this.at.take(new RegExp(`(?:at most |up to |max(?:imum|\\.)? )?${COUNT} (?:times?|uses?) (per (?:shopper|customer|person)|in all|in total|an order|per order)`, "i"));
    if (times) return set(/^per (?:s|c|pe)/i.test(times[2]!) ? "uses_per_shopper" : /in/i.test(times[2]!) ? "uses" : "times", counted(times[1]!));
    this.at.must(/(?:at most|up to|max(?:imum|\.)?|capped at) /i);
    const many = this.at.take(new RegExp(`${COUNT} times`, "i"))?.[1];
    if (many) return set("times", counted(many));
    const most = amount(this.at, this.from.unit);
    this.at.take(/ (?:off )?(?:an|per|each) order/i);
    return set("amount", most);
  }

  // --- how, when, who, where, beside what

  private code() {
    const found = this.at.must(/(?:(?:with|by) )?(?:a |the )?(link )?(?:with the )?(?:code|coupon|voucher)(?: code)?:? ["“]?([\p{L}\p{N}][\p{L}\p{N}_-]{2,})["”]?/iu);
    return this.once("given", { by: found[1] ? "link" : "code", code: found[2]!.toUpperCase() === found[2] ? found[2] : found[2]!.toUpperCase(), codes: [] });
  }

  private days() {
    const year = yearOf(this.from);
    const put = (first_day: string | null, last_day: string | null) => {
      const before = this.part.when ?? newTerms([]).when;
      if ((first_day && before.first_day) || (last_day && before.last_day)) throw new NotUnderstood();
      return (this.part.when = { ...before, ...(first_day && { first_day }), ...(last_day && { last_day }) });
    };
    this.at.take(/(?:between|from) (?=\d{1,2} \p{L}+ (?:to|until)|\d{1,2} to \d)/iu);
    const both = this.at.maybe(() => dayToDay(this.at, year));
    if (both) return put(...both);
    if (this.at.take(/(?:from|starting|as of) (?=\d{1,2} \p{L})/iu)) return put(day(this.at, year), null);
    if (this.at.take(/(?:until|till|to|up to|through|ending) (?=\d{1,2} \p{L})/iu)) return put(null, day(this.at, year));
    this.at.take(/on /i);
    const single = day(this.at, year);
    return put(single, single);
  }

  private hours() {
    const before = this.part.when ?? newTerms([]).when;
    this.at.take(/(?:only )?on /i);
    const weekday = () => {
      const found = this.at.must(new RegExp(`(${WEEKDAYS.map((name) => `${name}?`).join("|")})\\b`, "i"))[1]!;
      return WEEKDAYS.findIndex((name) => name.toLowerCase().startsWith(found.toLowerCase()));
    };
    const weekdays = this.at.maybe(() => this.at.row(weekday, "and")) ?? [];
    const times = this.at.maybe(() => {
      this.at.take(/(?: |, )?(?:from |between )?/i);
      const from_minute = clock(this.at);
      this.at.must(/ ?(?:to|until|and|-|–) ?/i);
      return { from_minute, to_minute: clock(this.at) };
    });
    if ((weekdays.length === 0 && !times) || (weekdays.length && before.weekdays.length)) throw new NotUnderstood();
    return (this.part.when = { ...before, weekdays: weekdays.length ? weekdays.toSorted((one, other) => one - other) : before.weekdays, ...times });
  }

  private alongside() {
    if (this.at.take(/(?:not (?:together )?with|never with|not combined with|cannot be combined with) (?:any |all )?other (?:offers?|codes?|discounts?)|not combinable|alone/i)) return this.once("alongside", { never: "all", never_with: [], yields: "named", yields_to: [] });
    const words = /^not with /i.test(this.at.rest) ? `, ${this.at.rest}` : "";
    const apart = new Cursor(words);
    const found = alongside(apart, this.from);
    if (!words || found.never_with.length === 0) throw new NotUnderstood();
    this.at.must(new RegExp(`.{${words.length - apart.rest.length - 2}}`));
    return this.once("alongside", found);
  }

  private who() {
    const { groups, tags } = this.from.frame.shoppers;
    if (this.at.take(/(?:only )?(?:for )?(?:(?:a |their )?first orders?|new (?:shoppers|customers))\b/i)) return this.once("who", { ...ANYBODY, first_order: true });
    this.at.take(/(?:only )?for (?:the )?/i);
    if (this.at.take(/(?:shoppers )?tagged /i)) return this.once("who", { ...ANYBODY, tags: [this.mustName(tags)] });
    this.at.take(/group /i);
    return this.once("who", { ...ANYBODY, groups: [this.mustName(groups)] });
  }

  private where() {
    const { zones } = this.from.frame;
    const not = this.at.take(/not to /i) !== null;
    if (!not) this.at.must(/(?:only )?to /i);
    const names = this.at.row(() => this.mustName(zones), "and");
    const last = this.gives.findLastIndex((one) => "zones" in one);
    const reward = this.gives[last];
    if (!not && reward && "zones" in reward && reward.zones.length === 0) return (this.gives[last] = { ...reward, zones: names });
    return this.once("where", { ...ANYWHERE, ...(not ? { except_zones: names } : { zones: names }) });
  }

  private mustName(names: readonly string[]): string {
    const found = this.at.name(names);
    if (found === null) throw new NotUnderstood();
    return found;
  }

  // --- which goods

  private except() {
    if (this.at.take(/(?:not on |without |except |no )(?:goods )?(?:already )?(?:reduced|sale)(?: goods| items)?|reduced goods left out/i)) return (this.on = { ...this.on, reduced: "out" });
    this.at.must(/(?:except|but not|not on|without) /i);
    const found = this.at.row(() => this.oneOfGoods(), "and");
    for (const [kind, name] of found) this.on = { ...this.on, [`except_${kind}`]: [...this.on[`except_${kind}`], name] };
    return found;
  }

  private goods() {
    if (this.at.take(/(?:on |off )?everything\b|all goods\b|storewide\b/i)) return this.on;
    this.at.take(/(?:on |off |of )?(?:all |any |some )?/i);
    const [kind, name] = this.oneOfGoods();
    if (!this.on[kind].includes(name)) this.on = { ...this.on, [kind]: [...this.on[kind], name] };
    return this.on;
  }

  private oneOfGoods(): [GoodsKind, string] {
    const { frame, goods } = this.from;
    const of = (kind: GoodsKind, names: readonly string[]) => names.map((name) => [name, [kind, name] as [GoodsKind, string]] as const);
    const products = [...new Set(goods.map((one) => one.product))];
    const found = this.named([...of("categories", frame.categories), ...of("products", products), ...of("brands", frame.brands), ...of("tags", frame.tags)]);
    if (found === null) throw new NotUnderstood();
    return found;
  }

  /** What the longest of some names here stands for, word by word, in the singular or the plural. */
  private named<What>(names: readonly (readonly [name: string, what: What])[]): What | null {
    const here = this.at.rest.split(" ");
    let best: { words: number; what: What } | null = null;
    for (const [name, what] of names) {
      const words = name.split(/\s+/).filter(Boolean);
      const fits = words.every((word, n) => stem((here[n] ?? "").replace(/[,;.:!]+$/, "")) === stem(word));
      if (words.length && fits && words.length > (best?.words ?? 0)) best = { words: words.length, what };
    }
    if (!best) return null;
    this.at.must(new RegExp(`(?:[^ ]+ ){${best.words - 1}}[^ ,;.:!]+`));
    return best.what;
  }
}
