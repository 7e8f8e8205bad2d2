/** Days as places on a strip: whole days from the first month shown to the last. */

import { DAY_MS } from "../../pieces/iso-days";

const at = (day: string): number => Date.parse(`${day}T00:00:00Z`);
export const isoOf = (time: number): string => new Date(time).toISOString().slice(0, 10);

export interface Span {
  first_day: string;
  last_day: string;
}

/** The first day of each month shown, and the day after the last: a year at least, from the month the first span begins in. */
export function monthsOf(spans: Span[], today: string): string[] {
  const begins = [...spans.map((one) => one.first_day), ...(spans.length ? [] : [today])].toSorted()[0]!;
  const ends = spans.map((one) => one.last_day).toSorted().at(-1) ?? begins;
  const first = new Date(at(`${begins.slice(0, 7)}-01`));
  const months: string[] = [];
  for (let n = 0; n <= 12 || months.at(-1)! <= ends; n += 1) months.push(isoOf(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + n, 1)));
  return months.slice(0, MOST_MONTHS);
}

const MOST_MONTHS = 37;

/** Days on which two spans or more run at once, as spans. */
export function overlaps(spans: Span[]): Span[] {
  const edges = spans.flatMap((one): [number, number][] => [
    [at(one.first_day), 1],
    [at(one.last_day) + DAY_MS, -1],
  ]);
  edges.sort(([a, up], [b, down]) => a - b || up - down);
  const found: Span[] = [];
  let [open, from] = [0, 0];
  for (const [time, way] of edges) {
    if (open < 2 && open + way >= 2) from = time;
    if (open >= 2 && open + way < 2 && time > from) found.push({ first_day: isoOf(from), last_day: isoOf(time - DAY_MS) });
    open += way;
  }
  return found;
}
