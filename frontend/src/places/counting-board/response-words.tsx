/** Words of how shoppers respond to one offer: shares with a range, amounts and counts. They know the offer they are said of. */
import { createContext, useContext, useEffect, useRef, type ReactNode } from "react";

import type { FieldProblem, Forecast, Frame, OfferDoc, Plan, Ranging, Response } from "../../api/types";
import { cash, count, rate } from "../../pieces/figures";
import { daysBetween } from "../../pieces/iso-days";
import { RangeRod } from "../../pieces/range-rod";
import { spot } from "../../pieces/words";
import { NumberWord } from "../../offers/number-word";
import { withOffer, withTerms } from "../../offers/offers";
import { firstRange, isFollowing, MOST, rangeOf, saidAt, withRange } from "../../offers/responses";
import { Follows } from "./follows";
import { HistoryHint } from "./history-hint";

type Change = (make: (plan: Plan) => Plan) => void;
type ToResponse = (response: Response) => Response;

export interface ExpectedProps {
  offer: OfferDoc;
  plan: Plan;
  frame: Frame;
  figures: Forecast["offers"][number] | null;
  /** Whether the figures are of the plan as it is typed. */
  fresh: boolean;
  problems: FieldProblem[];
  change: Change;
}

interface Saying extends ExpectedProps {
  /** What the offer gives, where that is known of the plan as it is typed; null until then. */
  depth: number | null;
  /** Change a figure that follows what the offer gives, whose depth is noted as soon as it is known. */
  sayAtDepth: Change;
  put: (make: ToResponse) => (before: Plan) => Plan;
  set: (part: Partial<Response>) => void;
}

const OfOffer = createContext<Saying | null>(null);

export function useSaying(): Saying {
  const saying = useContext(OfOffer);
  if (!saying) throw new Error("A word of a response stands outside its offer.");
  return saying;
}

export function SayingOf({ children, ...props }: ExpectedProps & { children: ReactNode }) {
  const { offer, figures, fresh, change } = props;
  const put = (make: ToResponse) => (before: Plan) => withTerms(before, offer.id, (t) => ({ ...t, response: make(t.response) }));

  // What the offer gives while a figure is said is known once the answer is of the plan as it is typed: noted then.
  const depth = fresh && figures && figures.depth_bp > 0 ? figures.depth_bp : null;
  const owed = useRef(false);
  useEffect(() => {
    if (!owed.current || depth === null) return;
    owed.current = false;
    change((before) => withTerms(before, offer.id, (t) => ({ ...t, response: saidAt(t.response, depth) })));
  }, [depth, offer.id, change]);
  const sayAtDepth: Change = (make) => {
    owed.current ||= depth === null;
    change(make);
  };
  const set = (part: Partial<Response>) => change(put((r) => ({ ...r, ...part })));
  return <OfOffer value={{ ...props, depth, sayAtDepth, put, set }}>{children}</OfOffer>;
}

const LABELS: Partial<Record<Ranging, string>> = { uptake_bp: "Share of shoppers", extra_bp: "Extra orders", extra_first_bp: "Extra first orders" };

interface ShareProps {
  figure: Ranging;
  title: string;
  /** What it counts as while it is not said. */
  otherwise?: number;
  /** What takes it out again; null where it cannot be. */
  unsay?: Partial<Response> | null;
  children: string;
}

/** A share, with its range and the depth it was said at. */
export function Share({ figure, title, otherwise = 0, unsay = { [figure]: null }, children: text }: ShareProps) {
  const { offer, plan, frame, figures, problems, depth, sayAtDepth, change, put, set } = useSaying();
  const { response } = offer.terms;
  const value = figure === "send_response_bp" ? (response.sends?.response_bp ?? 0) : (response[figure] ?? otherwise);
  const follows = isFollowing(figure);
  const say = follows ? sayAtDepth : change;
  const make = (next: number) =>
    put((r) => {
      const told = figure === "send_response_bp" ? { ...r, sends: r.sends && { ...r.sends, response_bp: next } } : { ...r, [figure]: next };
      const said = follows && depth !== null ? saidAt(told, depth) : told;
      return withRange(said, figure, next, rangeOf(r, figure));
    });
  const isSaid = figure === "send_response_bp" || response[figure] !== null;
  const range = rangeOf(response, figure);
  return (
    <NumberWord
      title={title}
      currency={frame}
      unsound={spot(`/response/${figure}`, problems.filter((one) => one.pointer === `/response/${figure}`))}
      figure={{
        label: LABELS[figure] ?? "Share",
        value,
        scale: 100,
        step: 100,
        least: 0,
        most: MOST[figure],
        unit: "%",
        tell: rate,
        set: (next: number) => say(make(next)),
        withValue: (next: number) => make(next)(plan),
      }}
      more={
        (isSaid || frame.past > 0) && (
          <>
            {isSaid && range ? (
              <RangeRod
                label={title}
                values={[range[0], value, range[1]]}
                most={MOST[figure]}
                onChange={([low, likely, high]) => {
                  const ranged = put((r) => withRange(r, figure, likely, [low, high]));
                  if (likely === value) change(ranged);
                  else say((before) => ranged(make(likely)(before)));
                }}
              />
            ) : null}
            {isSaid && follows && figures && <Follows {...{ response, figure, figures, value, set }} />}
            {isSaid && (
              <span className="flex flex-wrap gap-x-4 gap-y-1 text-small">
                <button type="button" className="quiet" onClick={() => change(put((r) => withRange(r, figure, value, range ? null : firstRange(value, figure))))}>
                  {range ? "One figure, no range" : "Say how sure you are"}
                </button>
                {unsay && (
                  <button type="button" className="quiet" onClick={() => change(put((r) => withRange({ ...r, ...unsay, also_at: r.also_at.filter((one) => one.of !== figure) }, figure, null, null)))}>
                    Leave it unsaid again
                  </button>
                )}
              </span>
            )}
            <HistoryHint {...{ figure, offer, frame }} days={daysBetween(plan.first_day, plan.last_day) + 1} take={(one) => change((before) => withOffer(before, offer.id, one))} />
          </>
        )
      }
    >
      {range ? `${text}, ${rate(range[0])} to ${rate(range[1])}` : text}
    </NumberWord>
  );
}

/** How an amount or a count is typed and told. */
export interface As {
  unit: string;
  scale: number;
  step: number;
  least: number;
  most: number;
  tell: (value: number) => string;
  digits?: number;
}

export const cashIn = (frame: Frame) => (amount: number) => cash(amount, frame);

export function inMoney(frame: Frame): As {
  const unit = 10 ** frame.minor_digits;
  return { unit: frame.currency, scale: unit, step: frame.round_amount, least: 0, most: 100_000_000, tell: cashIn(frame), digits: frame.minor_digits };
}

export const inCount = (what: string): As => ({ unit: what, scale: 1, step: 1, least: 1, most: 10_000_000, tell: (n) => count(n) });

export const IN_PERCENT: As = { unit: "%", scale: 100, step: 100, least: 0, most: 10_000, tell: rate };

interface AmountProps {
  /** Within the response. */
  path: string;
  title: string;
  value: number;
  as: As;
  make: (next: number) => ToResponse;
  /** What takes it out again; without it, it stays. */
  unsay?: Partial<Response>;
  children?: string;
}

/** An amount or a count. */
export function Amount({ path, title, value, as, make, unsay, children: text = as.tell(value) }: AmountProps) {
  const { plan, frame, problems, change, put, set } = useSaying();
  return (
    <NumberWord
      title={title}
      currency={frame}
      unsound={spot(`/response/${path}`, problems.filter((one) => one.pointer === `/response/${path}`))}
      figure={{ ...as, label: title, value, set: (next: number) => change(put(make(next))), withValue: (next: number) => put(make(next))(plan) }}
      more={
        unsay && (
          <button type="button" className="quiet justify-self-start text-small" onClick={() => set(unsay)}>
            Take it out
          </button>
        )
      }
    >
      {text}
    </NumberWord>
  );
}

type Plain = "extra_cost" | "later" | "partner_bp" | "fixed_cost";

/** One figure that is 0 until it is said, and can be taken out. */
export function Besides({ of, title, as, children }: { of: Plain; title: string; as?: As; children?: string }) {
  const { offer, frame } = useSaying();
  return (
    <Amount path={of} title={title} value={offer.terms.response[of]} as={as ?? inMoney(frame)} make={(next) => (r) => ({ ...r, [of]: next })} unsay={{ [of]: 0 }}>
      {children}
    </Amount>
  );
}
