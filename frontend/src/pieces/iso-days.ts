/** Days as ISO text. */

const DAY_MS = 86_400_000;

export const today = (): string => new Date().toISOString().slice(0, 10);

/** The day so many days after another; before it where they are below zero. */
export const daysAfter = (day: string, count: number): string => new Date(new Date(day).getTime() + count * DAY_MS).toISOString().slice(0, 10);
