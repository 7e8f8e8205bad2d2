/** From which value of a number on, or up to which, a plan keeps no less than today: the nearest to the value it has. */

export type Points = readonly (readonly [value: number, impact: number])[];

export interface Even {
  /** The last value known to keep less than today, and the next known not to. */
  less: number;
  even: number;
}

/** Where the impact crosses 0, nearest to `value`; "always" or "never" where it does not. points: by rising value. */
export function crossing(points: Points, value: number): Even | "always" | "never" {
  const crossings: Even[] = [];
  for (let at = 1; at < points.length; at += 1) {
    const [[a, before], [b, after]] = [points[at - 1]!, points[at]!];
    if (before < 0 !== after < 0) crossings.push(before < 0 ? { less: a, even: b } : { less: b, even: a });
  }
  if (crossings.length === 0) return (points[0]?.[1] ?? 0) < 0 ? "never" : "always";
  const far = ({ less, even }: Even) => Math.min(Math.abs(less - value), Math.abs(even - value));
  return crossings.reduce((best, one) => (far(one) < far(best) ? one : best));
}

const ASKED = 12;

/** Values between the two ends, whole steps, to be tried next; none where the ends are a step apart. */
export function between({ less, even }: Even, step: number): number[] {
  const [low, high] = [Math.min(less, even), Math.max(less, even)];
  const steps = Math.round((high - low) / step) - 1;
  const count = Math.min(steps, ASKED);
  const values = Array.from({ length: Math.max(count, 0) }, (_, at) => low + Math.round(((at + 1) * (steps + 1)) / (count + 1)) * step);
  return values.filter((value) => value > low && value < high);
}

/** In words, as they follow "Breaks even". */
export const evenInWords = (found: Even | "always" | "never", tell: (value: number) => string): string =>
  found === "always" ? "Keeps no less than today at any of these" : found === "never" ? "Breaks even at none of these" : found.even > found.less ? `Breaks even from ${tell(found.even)} on` : `Breaks even up to ${tell(found.even)}`;
