/** The one formatter of figures in the browser; its twin for text is `yellow_abacus/files/words.py`. */

export interface Currency {
  currency: string;
  minor_digits: number;
}

const formats = new Map<string, Intl.NumberFormat>();

function format(key: string, options: Intl.NumberFormatOptions): Intl.NumberFormat {
  let found = formats.get(key);
  if (!found) {
    found = new Intl.NumberFormat("en", options);
    formats.set(key, found);
  }
  return found;
}

/** Whether a figure, as it is shown, is nothing: then it has no sign. */
export const isNothing = (text: string): boolean => !/[1-9]/.test(text);

const withMinus = (text: string): string => text.replace("-", isNothing(text) ? "" : "−");

/** Minor units as money; losses with a minus sign, and a plus sign in front of gains where `signed`. */
export function money(amount: number, of: Currency, { whole = false, signed = false } = {}): string {
  const digits = whole ? 0 : of.minor_digits;
  const text = format(`money ${of.currency} ${digits}`, {
    style: "currency",
    currency: of.currency,
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
  }).format(Math.abs(amount) / 10 ** of.minor_digits);
  if (isNothing(text)) return text;
  return amount < 0 ? `−${text}` : signed ? `+${text}` : text;
}

/** What stands before amounts. */
export const sign = (of: Currency): string => money(0, of, { whole: true }).replace("0", "");

/** Money as sentences say it: without decimals where there are none. */
export const cash = (amount: number, of: Currency): string => money(amount, of, { whole: amount % 10 ** of.minor_digits === 0 });

/** A share as a percentage: one decimal below 10 %, none from there on. */
export function share(value: number): string {
  const percent = value * 100;
  const text = format(Math.abs(percent) < 9.95 ? "fine" : "coarse", {
    maximumFractionDigits: Math.abs(percent) < 9.95 ? 1 : 0,
  }).format(percent);
  return `${withMinus(text)}\u00a0%`;
}

/** Basis points as a percentage, as exactly as they are set. */
export const rate = (bp: number): string => `${count(bp / 100, 2)}\u00a0%`;

export function count(value: number, decimals = 0): string {
  return withMinus(format(`count ${decimals}`, { maximumFractionDigits: decimals }).format(value));
}

/** So many of something: `1 order`, `2 orders`. */
export function soMany(value: number, one: string, decimals = 0): string {
  const many = count(value, decimals);
  return `${many} ${one}${many === "1" ? "" : "s"}`;
}

/** How often something happens, as a share of draws. */
export function inAHundred(chance: number): string {
  const times = Math.round(chance * 100);
  if (chance <= 0) return "in no draw of 10,000";
  if (chance >= 1) return "in every draw";
  return times === 0 ? "in fewer than 1 of 100" : times === 100 ? "in more than 99 of 100" : `in ${count(times)} of 100`;
}

export const kilograms = (grams: number): string => `${count(grams / 1000, 3)} kg`;

const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", timeZone: "UTC" });
const DAY_AND_YEAR = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", year: "numeric", timeZone: "UTC" });

/** Two ISO days in words: `3 to 16 March 2027`. */
export function days(first: string, last: string, withYear = true): string {
  const [a, b] = [new Date(first), new Date(last)];
  if (Number.isNaN(a.getTime()) || Number.isNaN(b.getTime())) return "days not set";
  const end = (withYear ? DAY_AND_YEAR : DAY).format(b);
  if (first === last) return end;
  if (a.getUTCFullYear() !== b.getUTCFullYear()) return `${DAY_AND_YEAR.format(a)} to ${DAY_AND_YEAR.format(b)}`;
  if (a.getUTCMonth() !== b.getUTCMonth()) return `${DAY.format(a)} to ${end}`;
  return `${a.getUTCDate()} to ${end}`;
}

/** Names in a row: `a`, `a and b`, `a, b and c`. */
export const listed = (names: readonly string[], word = "and"): string =>
  names.length < 2 ? (names[0] ?? "") : `${names.slice(0, -1).join(", ")} ${word} ${names.at(-1)}`;

/** The smallest of 1, 2, 2.5, 5 times a power of ten that is at least this. */
export function roundUp(least: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(least, 1e-9)));
  return ([1, 2, 2.5, 5, 10].find((step) => step * power >= least * 0.999999) ?? 10) * power;
}

/** As the beginning of a sentence. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
