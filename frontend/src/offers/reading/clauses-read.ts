/** Who, where, when, how far and beside what an offer holds, read back: the inverse of their tokens. */
import type { Alongside, Given, Limits, Terms, When, Where, Who } from "../../api/types";
import { NO_LIMITS } from "../../pieces/new-parts";
import { nameOfOffer, nameOfRunning } from "../../pieces/offer-names";
import { EVERYTHING } from "../../pieces/scope-word";
import { ANYBODY, ANYWHERE } from "../../pieces/who-where";
import { WEEKDAYS } from "../when-word";
import { NotUnderstood, type Cursor } from "./cursor";
import { amount, clock, counted, day, dayToDay, percent } from "./figures-read";
import { known, scope } from "./goods-read";
import { yearOf, type Known } from "./known";

export function limits(at: Cursor, { unit }: Known): Limits {
  const readers: (() => Partial<Limits>)[] = [
    () => {
      const [, units_from, many] = at.must(/, on the (cheapest|dearest) (?:([\d,]+) )?units?/);
      return { units: Number((many ?? "1").replace(/,/g, "")), units_from: units_from as Limits["units_from"] };
    },
    () => ({ times: figure(at, /, at most /, counted, / times?(?! per| in)/) }),
    () => ({ amount: figure(at, /, at most /, () => amount(at, unit), / an order/) }),
    () => (at.has(", once per shopper") ? { uses_per_shopper: 1 } : { uses_per_shopper: figure(at, /, /, counted, / times per shopper/) }),
    () => ({ uses: figure(at, /, /, counted, / times in all/) }),
    () => ({ spending: figure(at, /, until /, () => amount(at, unit), / is given away/) }),
  ];
  return readers.reduce<Limits>((found, read) => ({ ...found, ...at.maybe(read) }), NO_LIMITS);
}

function figure(at: Cursor, before: RegExp, read: (at: Cursor) => number, after: RegExp): number {
  at.must(before);
  const found = read(at);
  at.must(after);
  return found;
}

export function given(at: Cursor): Given {
  at.must(/, /);
  if (at.has("without a code")) return { by: "itself", code: "", codes: [] };
  const link = at.take(/by a link with the code ([^\s,]+)/i)?.[1];
  if (link) return { by: "link", code: link, codes: [] };
  const many = at.take(/with one of the single-use codes? ([^\s,]+(?: \/ [^\s,]+)*)/i)?.[1];
  if (many) return { by: "codes", code: "", codes: many.split(" / ") };
  return { by: "code", code: at.must(/with the code ([^\s,]+)/i)[1]!, codes: [] };
}

export function who(at: Cursor, { frame }: Known): Who {
  const found: Who = { ...ANYBODY };
  const { groups, tags } = frame.shoppers;
  if (at.has(", only for ")) {
    at.row(() => {
      if (at.has("first orders")) return (found.first_order = true);
      const nth = at.take(/shoppers from their (\d+)(?:st|nd|rd|th) order on/)?.[1];
      if (nth) return (found.nth_order = Number(nth));
      const since = at.take(/shoppers whose last order was ([\d,]+) or more days ago/)?.[1];
      if (since) return (found.days_since = Number(since.replace(/,/g, "")));
      if (at.has("the group ")) return (found.groups = at.row(() => known(at, groups), "or"));
      if (at.has("shoppers tagged ")) return (found.tags = at.row(() => known(at, tags), "or"));
      return (found.shoppers = ids(at, /the shoppers? ([^\s,]+(?: \/ [^\s,]+)*)/));
    }, "and");
  }
  if (at.has(", not for ")) {
    at.row(() => {
      if (at.has("the group ")) return (found.except_groups = [...found.except_groups, known(at, groups)]);
      if (at.has("those tagged ")) return (found.except_tags = [...found.except_tags, known(at, tags)]);
      return (found.except_shoppers = ids(at, /the shoppers? ([^\s,]+(?: \/ [^\s,]+)*)/));
    }, "and");
  }
  return found;
}

const ids = (at: Cursor, pattern: RegExp): string[] => at.must(pattern)[1]!.split(" / ");

export function where(at: Cursor, { frame }: Known): Where {
  const one = (words: string, names: readonly string[]) => (at.has(words) ? at.row(() => known(at, names), "or") : []);
  return {
    ...ANYWHERE,
    zones: one(", only to ", frame.zones),
    except_zones: one(", not to ", frame.zones),
    channels: one(", only through ", frame.shoppers.channels),
    payments: one(", only when paid by ", frame.shoppers.payments),
  };
}

const ALWAYS: When = { first_day: null, last_day: null, first_minute: null, last_minute: null, weekdays: [], from_minute: null, to_minute: null };

export function when(at: Cursor, from: Known): When {
  at.must(/, /);
  const days = days_(at, yearOf(from));
  const found = { ...ALWAYS, ...days };
  const weekdays = at.has(", on ") ? at.row(() => WEEKDAYS.indexOf(known(at, WEEKDAYS)), "and") : [];
  const hours = at.maybe(() => {
    at.must(weekdays.length ? / from / : /, every day from /);
    const from_minute = clock(at);
    at.must(/ to /);
    return { from_minute, to_minute: clock(at) };
  });
  return { ...found, weekdays, ...hours };
}

function days_(at: Cursor, year: number): Partial<When> {
  if (at.has("while the plan runs") || at.has("until further notice")) return {};
  const both = at.maybe(() => dayToDay(at, year));
  if (both) return { first_day: both[0], last_day: both[1] };
  const moment = (words: RegExp) =>
    at.maybe(() => {
      at.must(words);
      return { day: day(at, year), minute: at.maybe(() => (at.must(/ /), clock(at))) };
    });
  const first = moment(/from /);
  const last = moment(first ? / until / : /until /);
  if (first || last) return { first_day: first?.day ?? null, first_minute: first?.minute ?? null, last_day: last?.day ?? null, last_minute: last?.minute ?? null };
  const single = day(at, year);
  return { first_day: single, last_day: single };
}

export function alongside(at: Cursor, from: Known): Alongside {
  const others = [...from.plan.offers.map((one) => [nameOfOffer(from.plan, one), one.id] as const), ...from.running.map((one) => [nameOfRunning(from.running, one), one.id] as const)];
  const named = (words: string): ["named" | "all", string[]] => {
    if (!at.has(words)) return ["named", []];
    if (at.has("any other offer")) return ["all", []];
    const names = at.row(() => known(at, others.map(([name]) => name)), "or");
    return ["named", names.map((name) => others.find(([one]) => one === name)![1])];
  };
  const [never, never_with] = named(", not with ");
  const [yields, yields_to] = named(", yielding to ");
  return { never, never_with, yields, yields_to };
}

export function funded(at: Cursor, from: Known): Terms["funded"] {
  const found = { share_bp: 0, each: 0, of: EVERYTHING };
  if (!at.has(", a supplier pays ")) return found;
  const share = at.maybe(() => {
    const part = percent(at);
    at.must(/ of it/);
    return part;
  });
  if (share !== null) found.share_bp = share;
  if (share === null || at.has(" and ")) {
    found.each = amount(at, from.unit);
    at.must(/ for each unit/);
  }
  if (!found.share_bp && !found.each) throw new NotUnderstood(at.rest);
  if (at.has(" on ")) found.of = scope(at, from);
  return found;
}
