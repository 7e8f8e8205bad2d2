/** Moments as the server keeps them, in UTC, told in the reader’s own time. */
const DATE = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", year: "numeric", hour: "2-digit", minute: "2-digit" });

export const moment = (utc: string): string => DATE.format(new Date(utc.endsWith("Z") ? utc : `${utc}Z`));
