/** What mixes of carts to expect are called. */

/** The one that is always there. */
export const USUAL = "Usual";

export const mixInWords = (name: string): string => (name === USUAL ? "the usual carts" : `“${name}”`);
