/** Figures as they are written in sentences, read back: amounts, percentages, counts, weights, days and hours. */
import { NotUnderstood, type Cursor } from "./cursor";

/** Digits with commas between thousands and a point before decimals, as figures are written here. */
const NUMBER = "(\\d{1,3}(?:,\\d{3})+(?:\\.\\d+)?|\\d+(?:\\.\\d+)?)";
const value = (text: string): number => Number(text.replace(/,/g, ""));

/** A whole number in so many parts, such as minor units. */
function inParts(text: string, parts: number): number {
  const found = Math.round(value(text) * parts);
  if (!Number.isSafeInteger(found)) throw new NotUnderstood(text);
  return found;
}

/** An amount with the sign of the currency, before it or behind. unit: minor units in one. */
export function amount(at: Cursor, unit: number): number {
  const found = at.must(new RegExp(`(?:\\p{Sc}|[A-Z]{1,3}\\$?)[ \\u00a0]?${NUMBER}|${NUMBER}[ \\u00a0]?(?:\\p{Sc}|[A-Z]{3}\\b)`, "u"));
  return inParts(found[1] ?? found[2]!, unit);
}

/** A percentage in basis points. */
export const percent = (at: Cursor): number => inParts(at.must(new RegExp(`${NUMBER}[ \\u00a0]?%`))[1]!, 100);

export const counted = (at: Cursor): number => inParts(at.must(new RegExp(NUMBER))[1]!, 1);

/** Grams. */
export const weight = (at: Cursor): number => inParts(at.must(new RegExp(`${NUMBER}[ \\u00a0]kg`))[1]!, 1000);

const MONTHS = ["january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november", "december"];
const MONTH = `(${MONTHS.join("|")}|${MONTHS.map((name) => `${name.slice(0, 3)}\\b`).join("|")})`;

const iso = (day: string, month: string, year: number): string => {
  const at = MONTHS.findIndex((name) => name.startsWith(month.toLowerCase().slice(0, 3)));
  const found = new Date(Date.UTC(year, at, Number(day)));
  if (found.getUTCDate() !== Number(day) || found.getUTCMonth() !== at) throw new NotUnderstood(`${day} ${month}`);
  return found.toISOString().slice(0, 10);
};

/** A day in words, of the year it names or else of `year`. */
export function day(at: Cursor, year: number): string {
  const found = at.must(new RegExp(`(\\d{1,2}) ${MONTH}(?: (\\d{4}))?`, "i"));
  return iso(found[1]!, found[2]!, found[3] ? Number(found[3]) : year);
}

/** A first and a last day, as they are written between one and the other. */
export function dayToDay(at: Cursor, year: number): [string, string] {
  const short = at.take(new RegExp(`(\\d{1,2}) to (\\d{1,2}) ${MONTH}(?: (\\d{4}))?`, "i"));
  if (short) {
    const then = short[4] ? Number(short[4]) : year;
    return [iso(short[1]!, short[3]!, then), iso(short[2]!, short[3]!, then)];
  }
  const long = at.must(new RegExp(`(\\d{1,2}) ${MONTH}(?: (\\d{4}))? to (\\d{1,2}) ${MONTH}(?: (\\d{4}))?`, "i"));
  const last = long[6] ? Number(long[6]) : year;
  const first = long[3] ? Number(long[3]) : last;
  return [iso(long[1]!, long[2]!, first), iso(long[4]!, long[5]!, last)];
}

/** Minutes of the day. */
export function clock(at: Cursor): number {
  const found = at.must(/(\d{1,2}):(\d{2})/);
  return Number(found[1]) * 60 + Number(found[2]);
}
