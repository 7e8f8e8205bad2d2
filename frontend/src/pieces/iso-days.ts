/** Days as ISO text. */

export const DAY_MS = 86_400_000;

export const today = (): string => new Date().toISOString().slice(0, 10);

/** The day so many days after another; before it where they are below zero. */
export const daysAfter = (day: string, count: number): string => new Date(new Date(day).getTime() + count * DAY_MS).toISOString().slice(0, 10);

/** How many days the second is after the first. */
export const daysBetween = (first: string, last: string): number => Math.round((Date.parse(last) - Date.parse(first)) / DAY_MS);
