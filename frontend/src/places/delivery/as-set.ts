/** What orders cost beside what is set for them. */

/** How near the two come that needs no word. */
const NEAR_BP = 100;

/** How many basis points more orders cost than is set, to a tenth of a percent; null where nothing is. */
export const moreThanSet = (cost: number, set: number | null) => (set ? Math.round((cost / set - 1) * 1_000) * 10 : null);

export const isNear = (more: number | null) => more !== null && Math.abs(more) < NEAR_BP;

/** How many of those that told it cost just what follows. */
export const costJust = ({ exact, orders }: { exact: number | null; orders: number }, count: (many: number) => string) =>
  exact === null ? "On average" : exact === orders ? "All cost just" : `${count(exact)} cost just`;
