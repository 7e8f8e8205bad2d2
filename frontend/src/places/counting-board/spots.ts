/** Which word of a sentence stands for a place in an offer: the one whose path goes along with it furthest. */

/** How many steps two paths go together; 0 where they part at once. */
export function together(one: string, other: string): number {
  const [a, b] = [one.split("/").slice(1), other.split("/").slice(1)];
  const parts = a.findIndex((step, at) => step !== b[at]);
  return parts < 0 ? a.length : parts;
}

/** The first of the paths that goes furthest along with `wanted`; null where none does at all. */
export function nearest(paths: string[], wanted: string): string | null {
  const best = paths.reduce<string | null>((found, one) => (found !== null && together(found, wanted) >= together(one, wanted) ? found : one), null);
  return best !== null && together(best, wanted) > 0 ? best : null;
}
