/** What whoever keys a plan in has to know, put together from its offers and what they are expected to do. */
import type { Cart, Frame, Named, OfferDoc, OverTime, Plan, Terms, Trial } from "../../api/types";
import { capital, cash, count, soMany, days, listed, money } from "../../pieces/figures";
import { nameOfOffer } from "../../pieces/offer-names";
import { nameOfSku } from "../../pieces/product-picker";
import { shoppersInWords } from "../../pieces/whose";
import { putsIn } from "../../offers/offers";
import { plain } from "../../offers/part";
import { clausesOf, offerInWords, say, type Clause } from "../../offers/sentence";

export interface KeyIn {
  what: string;
  is: string;
}

/** What shoppers are told of an offer, and when. */
export interface ToldShoppers {
  before: string;
  near: string;
  earned: string;
  refused: string;
}

export interface HandedOffer {
  id: string;
  name: string;
  note: string;
  sentence: string;
  key_in: KeyIn[];
  codes: string[];
  told: ToldShoppers;
}

export interface TriedCart {
  of: string;
  what: string;
  cart: string;
  where: string;
  pays: number;
  says: string;
}

export interface Handover {
  plan: string;
  shop: string;
  first_day: string;
  last_day: string;
  time_zone: string;
  answer: string;
  offers: HandedOffer[];
  apart: string[];
  tries: TriedCart[];
  checks: string[];
  stock: { name: string; sku: string; set_aside: number; in_stock: number; lasts_until: string | null }[];
  busiest: { day: string; orders: number; orders_today: number } | null;
  tell: KeyIn[];
}

interface From {
  plan: Plan;
  frame: Frame;
  goods: Named[];
  running: OfferDoc[];
  answer: string;
  trials: Trial[];
  overTime: OverTime | null;
  timeZone: string;
}

const CALLED: Record<Clause, string> = {
  earned: "Which carts",
  gives: "What they get",
  steps: "From higher steps on",
  counted: "How it counts",
  limits: "How far it goes",
  given: "How it is given",
  who: "For whom",
  where: "Where",
  when: "When",
  alongside: "With other offers",
  funded: "Who pays with you",
};

/** What is keyed in where the sentence says nothing. */
const UNSAID: Partial<Record<Clause, string>> = {
  limits: "no limit",
  who: "every shopper",
  where: "everywhere, any way of paying",
  alongside: "goes with all others",
};

const bare = (text: string): string => text.trim().replace(/^[,;]\s*/, "");

export function handover({ plan, frame, goods, running, answer, trials, overTime, timeZone }: From): Handover {
  const own = plan.offers.filter((one) => one.in_plan);
  const clauses = new Map(own.map((offer) => [offer.id, new Map(clausesOf(offer, say(offer, plan, frame, goods, running)).map(([clause, tokens]) => [clause, bare(plain(tokens))]))]));
  const offers = own.map((offer): HandedOffer => {
    const said = clauses.get(offer.id)!;
    return {
      id: offer.id,
      name: nameOfOffer(plan, offer),
      note: offer.note,
      sentence: offerInWords(offer, plan, frame, goods, running),
      key_in: keyIn(offer, said, plan),
      codes: codesOf(offer.terms),
      told: toldShoppers(offer, said, plan, frame),
    };
  });
  const nameOf = (id: string) => offers.find((one) => one.id === id)?.name ?? "";
  const tries = [
    ...plan.cases.map((one): TriedCart => ({ of: listed(one.applies.map(nameOf).filter(Boolean)) || "no offer", what: one.name, ...inWords(one.cart, goods), pays: one.pays, says: "" })),
    ...trials.map((one): TriedCart => ({ of: nameOf(one.offer), what: one.label, ...inWords(one.cart, goods), pays: one.pays, says: one.applies ? "" : one.text })),
  ];
  const busy = overTime?.days.reduce<OverTime["days"][number] | null>((most, one) => (most && most.orders >= one.orders ? most : one), null);
  const stock = (overTime?.needs ?? [])
    .filter((need) => own.some((offer) => putsIn(offer.terms, need.sku)))
    .map((need) => ({ name: nameOfSku(need.sku, goods), sku: need.sku, set_aside: Math.ceil(Math.max(need.plan - need.today, 0)), in_stock: need.stock, lasts_until: need.ends }))
    .filter((one) => one.set_aside > 0);
  const apart = offers.flatMap((one) => {
    const rule = clauses.get(one.id)!.get("alongside");
    return rule ? [`${one.name}: ${rule}.`] : [];
  });
  const found: Handover = {
    plan: plan.name,
    shop: frame.name,
    first_day: plan.first_day,
    last_day: plan.last_day,
    time_zone: timeZone,
    answer,
    offers,
    apart: [...apart, `Where not all go together, ${plan.apply === "best" ? "those are kept that cost the shopper least together" : "the first in this order is kept"}.`],
    tries,
    checks: checks(offers, frame),
    stock,
    busiest: busy ? { day: busy.day, orders: Math.round(busy.orders), orders_today: Math.round(busy.orders_today) } : null,
    tell: [],
  };
  return { ...found, tell: whomToTell(found, own, frame) };
}

function keyIn(offer: OfferDoc, said: Map<Clause, string>, plan: Plan): KeyIn[] {
  const rows: KeyIn[] = [];
  for (const [clause, text] of said) {
    const is = clause === "when" ? moments(offer.terms, plan, text) : clause === "earned" ? capital(text.replace(/,? (a cart )?gets?$/i, "")) : text || UNSAID[clause];
    if (is) rows.push({ what: CALLED[clause], is });
  }
  return rows;
}

const DAY = new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long", year: "numeric", timeZone: "UTC" });
const dayInWords = (day: string): string => DAY.format(new Date(day));
const clock = (minute: number): string => `${String(Math.floor(minute / 60)).padStart(2, "0")}:${String(minute % 60).padStart(2, "0")}`;

/** From which moment until which, and what more is said of hours. */
function moments({ when }: Terms, plan: Plan, said: string): string {
  const [first, last] = [when.first_day ?? plan.first_day, when.last_day ?? plan.last_day];
  const hours = /, (on |every day).*$/.exec(said)?.[0] ?? "";
  return `from ${dayInWords(first)}, ${clock(when.first_minute ?? 0)}, until ${dayInWords(last)}, ${when.last_minute == null ? "24:00" : clock(when.last_minute)}${hours}`;
}

export const codesOf = ({ given }: Terms): string[] => (given.by === "itself" ? [] : given.by === "codes" ? given.codes : [given.code]);

/** What the first condition still lacks, as shoppers are told while they are short of it. */
function lacking({ earned }: Terms): string {
  const first = earned.conditions[0];
  if (!first || first.kind === "only" || first.bound === "at_most") return "";
  return { spend: "Only … more to spend", units: "Only … more to put in", weight: "Only … kg more to put in", products: "Only … more different products to put in" }[first.kind];
}

function toldShoppers({ terms }: OfferDoc, said: Map<Clause, string>, plan: Plan, frame: Frame): ToldShoppers {
  const gets = said.get("gives")!;
  const carts = said.get("earned")!.replace(/,? (a cart )?gets?$/i, "");
  const everybody = terms.earned.conditions.length === 0;
  const code = terms.given.by === "itself" ? "" : terms.given.by === "codes" ? " with your own code" : ` with the code ${terms.given.code}`;
  const when = said.get("when")!.replace(/^while the plan runs/, days(plan.first_day, plan.last_day, false));
  const who = said.get("who");
  const rules = [everybody ? "" : carts.replace(/^(Carts|For) /, (word) => (word === "For " ? "for " : "for carts ")), who, said.get("where"), when, said.get("limits"), said.get("alongside")].filter((one): one is string => Boolean(one));
  const short = lacking(terms);
  const most = terms.limits.amount;
  return {
    before: `${capital(everybody ? gets : `${carts} get ${gets}`)}${code}${most ? `, at most ${cash(most, frame)} an order` : ""}, ${when}.`,
    near: short ? `${short}, and you get ${gets}.` : "",
    earned: `You get ${gets}.`,
    refused: `${code ? "This code holds" : "This offer holds"} ${rules.join(", ")}.`,
  };
}

/** What a cart is, and where and how it goes. */
export function inWords(cart: Cart, goods: Named[]): { cart: string; where: string } {
  const lines = cart.lines.map((line) => `${count(line.quantity)} × ${nameOfSku(line.sku, goods)}`);
  const time = cart.time ? `${days(cart.time.slice(0, 10), cart.time.slice(0, 10), false)}, ${cart.time.slice(11, 16)}` : "";
  const who = [cart.shopper.group && `group ${cart.shopper.group}`, ...cart.shopper.tags.map((tag) => `tagged ${tag}`), cart.shopper.orders_before === 0 && "first order"];
  const where = [cart.zone && `to ${cart.zone}`, cart.option, cart.codes.length > 0 && `code ${listed(cart.codes)}`, ...who, time].filter(Boolean);
  return { cart: lines.join(", ") || "an empty cart", where: where.join(", ") };
}

function checks(offers: HandedOffer[], frame: Frame): string[] {
  return [
    ...offers.flatMap((one) => [
      `${one.name} is shown as told above, and not before its first day.`,
      `${one.name} applies on a cart of the table that gets it, and the total is the table’s to the cent.`,
      `With one thing taken out again, so that the cart no longer earns it, ${one.name} is gone from the cart.`,
    ]),
    ...(frame.zones.length > 1 ? [`A cart sent to each of ${listed(frame.zones)} comes to what the table says.`] : []),
    ...(offers.some((one) => one.codes.length) ? ["Each code is taken in capitals and in small letters, and another one on top is refused where the rules above say so."] : []),
    "On the day after the last one nothing of it applies any more.",
  ];
}

function whomToTell({ offers, stock, busiest }: Handover, own: OfferDoc[], frame: Frame): KeyIn[] {
  const rows: KeyIn[] = [];
  const add = (what: string, is: string) => rows.push({ what, is });
  add("Whoever answers shoppers", `what each offer asks for, and what to say where it is refused${offers.some((one) => one.codes.length) ? `; the codes ${listed([...new Set(offers.flatMap((one) => one.codes))].slice(0, 5))}` : ""}`);
  if (busiest) add("The warehouse", `${count(busiest.orders)} parcels on the busiest day, ${dayInWords(busiest.day)} (${count(busiest.orders_today)} without the plan)${stock.length ? `; set aside ${listed(stock.map((one) => `${count(one.set_aside)} × ${one.name}`))}` : ""}`);
  for (const { terms } of own) {
    const { sends, partner_bp } = terms.response;
    if (sends) add("Whoever sends messages", `${count(sends.size)} messages ${sends.daily ? "a day " : ""}${sends.among ? `to shoppers ${shoppersInWords(sends.among)} ` : ""}with ${listed(codesOf(terms).slice(0, 3))}, answered over ${soMany(sends.days, "day")}`);
    if (partner_bp > 0) add("The partner", `${count(partner_bp / 100, 2)} % of the goods of orders that used ${listed(codesOf(terms).slice(0, 3))}`);
  }
  const funded = own.filter(({ terms }) => terms.funded.share_bp > 0 || terms.funded.each > 0);
  if (funded.length) add("Bookkeeping and the supplier", `what the supplier pays of ${listed(offers.filter((one) => funded.some(({ id }) => id === one.id)).map((one) => one.name))}`);
  const once = own.reduce((all, { terms }) => all + terms.response.fixed_cost, 0);
  if (once > 0) add("Whoever holds the budget", `${money(once, frame)} that the plan costs once`);
  return rows;
}
