/** A small curve of profit over the values a number could have, with today's value and the best one marked. */
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useEffect, useRef, useState, type ReactNode } from "react";

import { ask } from "../api/client";
import type { Curve, Plan } from "../api/types";
import { money, type Currency } from "../pieces/figures";
import { between, crossing, evenInWords } from "./even-at";

const POINTS = 17;
/** Every so manieth value is worked out first: a curve stands at once, and what is best on it a moment later. */
const FIRST_EVERY = 4;
/** While the number is being changed; as it is opened nothing is waited for. */
const WAIT_MS = 120;
const [WIDTH, HEIGHT, PAD] = [286, 92, 12];

export interface CurveProps {
  value: number;
  least: number;
  most: number;
  /** Values are whole multiples of this. */
  step: number;
  withValue: (value: number) => Plan;
  tell: (value: number) => string;
  take: (value: number) => void;
  currency: Currency;
}

/** Those of a curve's values that are worked out first: the set one, the ends and some between. */
export const firstOf = (values: number[], value: number): number[] => values.filter((one, at) => at % FIRST_EVERY === 0 || at === values.length - 1 || one === value);

/** So many values, evenly spread around the one that is set. */
export function valuesAround({ value, least, most, step }: Pick<CurveProps, "value" | "least" | "most" | "step">, points = POINTS): number[] {
  const top = Math.min(most, Math.max(value * 2, least + step * (points - 1)));
  const bottom = Math.max(least, Math.min(value, top) > top / 2 ? top / 4 : least);
  const values = new Set([value]);
  for (let at = 0; at < points; at += 1) {
    const near = Math.round((bottom + ((top - bottom) * at) / (points - 1)) / step) * step;
    values.add(Math.max(least, Math.min(most, near)));
  }
  return [...values].sort((a, b) => a - b);
}

interface Drawn {
  /** The plan it was worked out for, without the figure itself. */
  about: string;
  points: [number, number][];
  /** Whether all of them are there. */
  whole: boolean;
  /** The same where response stays as it is said, whatever the offers give; none where it does not follow. */
  staying: [number, number][];
  /** Where it breaks even, which is found a moment later. */
  even: ReturnType<typeof crossing> | null;
}

const follows = (plan: Plan): boolean => plan.offers.some((one) => one.terms.response.depth_bp !== null);

/** The plan with response that stays as it was said. */
const stays = (plan: Plan): Plan => ({
  ...plan,
  offers: plan.offers.map((one) => ({ ...one, terms: { ...one.terms, response: { ...one.terms.response, depth_bp: null, also_at: [] } } })),
});

/** JSON pointers to where two plans differ: the places of the figure. */
export function differences(one: unknown, other: unknown, at = ""): string[] {
  if (one === other) return [];
  if (typeof one !== "object" || typeof other !== "object" || one === null || other === null) return [at];
  const names = [...new Set([...Object.keys(one), ...Object.keys(other)])];
  return names.flatMap((name) => differences((one as Record<string, unknown>)[name], (other as Record<string, unknown>)[name], `${at}/${name}`));
}

export function NumberCurve(props: CurveProps) {
  const { value, withValue, tell, take, currency } = props;
  const [drawn, setDrawn] = useState<Drawn | null>(null);
  const [failed, setFailed] = useState(false);
  const wait = useRef(0);
  // Everything the curve depends on, so that it is worked out anew when any part of the plan changes.
  const about = JSON.stringify(withValue(props.least));

  useEffect(() => {
    const asked = new AbortController();
    const values = valuesAround(props);
    const pointers = differences(withValue(values[0]!), withValue(values.at(-1)!));
    const timer = setTimeout(() => {
      if (pointers.length === 0) return setDrawn({ about, points: [], whole: true, staying: [], even: null });
      const plan = withValue(value);
      const found = async (some: number[], of = plan): Promise<[number, number][]> => {
        const { impacts } = await ask<Curve>("POST", "/curve", { plan: of, pointers, values: some }, asked.signal);
        return some.flatMap((at, n): [number, number][] => (impacts[n] == null ? [] : [[at, impacts[n]]]));
      };
      const draw = async () => {
        const few = firstOf(values, value);
        if (few.length < values.length) {
          const first = await found(few);
          setDrawn((now) => (now?.about === about && now.whole ? now : { about, points: first, whole: false, staying: [], even: null }));
        }
        const points = await found(values);
        setFailed(false);
        setDrawn({ about, points, whole: true, staying: [], even: null });
        if (follows(plan) && pointers.some((one) => !one.includes("/response/"))) {
          const staying = await found(values, stays(plan));
          setDrawn((now) => now && { ...now, staying });
        }
        let [known, even] = [points, crossing(points, value)];
        while (typeof even !== "string") {
          const { less, even: from } = even;
          const finer = between(even, props.step);
          const told = finer.length ? await found(finer) : [];
          if (told.length === 0) break;
          known = [...known.filter(([at]) => at === less || at === from), ...told].sort(([one], [other]) => one - other);
          even = crossing(known, value);
        }
        setDrawn((now) => now && { ...now, even });
      };
      draw().catch(() => asked.signal.aborted || setFailed(true)); // a help beside the figure; the figure itself reports errors
    }, wait.current);
    wait.current = WAIT_MS;
    return () => {
      clearTimeout(timer);
      asked.abort();
    };
    // eslint-disable-next-line -- asked anew when the figure moves or the rest of the plan changes
  }, [value, about]);

  const mayStay = follows(withValue(value));
  const { points, whole } = drawn?.about === about ? drawn : { points: [], whole: false };
  if (points.length < 3) {
    const says = failed ? "The curve could not be worked out." : whole ? "There is no curve for so few values." : "Working out the curve…";
    return (
      <Room mayStay={mayStay} best={null} staying={null} even={null}>
        <div role="status" style={{ height: HEIGHT }} className="text-small text-soft">
          {says}
        </div>
      </Room>
    );
  }
  const staying = (drawn?.staying ?? []).some(([, impact], at) => Math.abs(impact - (points[at]?.[1] ?? impact)) > 1) ? drawn!.staying : [];
  const impacts = [...points, ...staying].map(([, impact]) => impact);
  const best = points.reduce((a, b) => (b[1] > a[1] ? b : a));
  const matters = Math.max(...impacts) - Math.min(...impacts) >= 1;
  const x = scaleLinear([points[0]![0], points.at(-1)![0]], [PAD, WIDTH - PAD]);
  const y = scaleLinear([Math.min(0, ...impacts), Math.max(0, ...impacts)], [HEIGHT - PAD, PAD]);
  const now = points.find(([at]) => at === value);
  const drawLine = line<[number, number]>((p) => x(p[0]), (p) => y(p[1]));
  const more = (impact: number) => `${money(Math.abs(impact), currency, { whole: Math.abs(impact) >= 10_000 })} ${impact < 0 ? "less" : "more"}`;
  const found = matters ? `Best here: ${tell(best[0])}, ${more(best[1])} than today` : "It makes no difference.";
  return (
    <Room
      mayStay={mayStay}
      best={
        <>
          <span>{whole ? found : "Looking for the best…"}</span>
          {whole && matters && best[0] !== value && (
            <button type="button" className="quiet shrink-0" onClick={() => take(best[0])}>
              Take it
            </button>
          )}
        </>
      }
      staying={staying.length > 2 && "Dashes: if response stays as it is, however much is given."}
      even={drawn?.even && matters && `${evenInWords(drawn.even, tell)}.`}
    >
      <svg
        width={WIDTH}
        height={HEIGHT}
        role="img"
        aria-label={`Kept against today: ${matters || !whole ? `best at ${tell(best[0])}` : "no difference"}`}
        className="block cursor-pointer"
        onClick={(event) => {
          const at = x.invert(event.clientX - event.currentTarget.getBoundingClientRect().left);
          take(points.reduce((a, b) => (Math.abs(b[0] - at) < Math.abs(a[0] - at) ? b : a))[0]);
        }}
      >
        <line x1={0} x2={WIDTH} y1={y(0)} y2={y(0)} stroke="var(--color-soft)" strokeDasharray="2 3" />
        <text x={0} y={y(0) > HEIGHT / 2 ? y(0) + 12 : y(0) - 3} fontSize={11} fill="var(--color-soft)">
          today
        </text>
        {staying.length > 2 && <path d={drawLine(staying) ?? undefined} fill="none" stroke="var(--color-soft)" strokeWidth={1.3} strokeDasharray="4 3" />}
        <path d={drawLine(points) ?? undefined} fill="none" stroke="var(--color-ink)" strokeWidth={1.6} />
        {whole && matters && <circle cx={x(best[0])} cy={y(best[1])} r={5.5} fill="var(--color-yellow)" stroke="var(--color-ink)" strokeWidth={1.3} />}
        {now && <circle cx={x(now[0])} cy={y(now[1])} r={4} fill="var(--color-ink)" />}
      </svg>
    </Room>
  );
}

interface RoomProps {
  /** Whether a second curve may come, and the line that tells of it. */
  mayStay: boolean;
  best: ReactNode;
  staying: ReactNode;
  even: ReactNode;
  children: ReactNode;
}

/** The curve and its lines. They have their room from the start, so that nothing below moves when they come. */
function Room({ mayStay, best, staying, even, children }: RoomProps) {
  return (
    <figure className="mt-2">
      {children}
      <figcaption className="flex min-h-[2.8em] items-baseline justify-between gap-2 text-small text-soft">{best}</figcaption>
      {mayStay && <p className="min-h-[2.8em] text-small text-soft">{staying}</p>}
      <p className="min-h-[1.4em] text-small text-soft" aria-live="polite">
        {even}
      </p>
    </figure>
  );
}
