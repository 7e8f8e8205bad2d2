/** A figure that history says, put into an offer of a plan with its range. */
import type { Learned, NextOfKind, OfferDoc, Ranging, Response, Said } from "../api/types";
import { allRewards } from "./offers";
import { toppedUp, withRange } from "./responses";

/** Whether the figure can matter for the offer. */
export function fits(said: Said, { terms }: OfferDoc): boolean {
  switch (said.of) {
    case "uptake_bp":
    case "uptake_first_bp":
      return terms.given.by !== "itself";
    case "send_response_bp":
      return terms.response.sends !== null;
    case "take_up_bp":
      return allRewards(terms).some((one) => one.kind === "buy_get" || one.kind === "put_in");
    case "top_up_bp":
      return toppedUp(terms) !== null && (said.reach !== null || terms.response.top_up_reach > 0);
    case "borrowed_bp":
      return terms.response.extra_bp !== null;
    default:
      return true;
  }
}

/** Whether the offer is one of the kind that a next one was told of. */
export function isOfKind({ kind }: NextOfKind, { terms }: OfferDoc): boolean {
  if (terms.given.by === "itself") return false;
  return kind === (terms.response.sends !== null ? "sent" : terms.response.shown || "code");
}

/** One offer alone says little of the next. */
export const FEWEST_ALIKE = 2;

/** The offer with the figure as that of several of its kind, of so many messages where they were sent. */
export const takenFromKind = (of: Ranging, { likely, low, high }: Pick<NextOfKind, "likely" | "low" | "high">, offer: OfferDoc): OfferDoc => withFigure(offer, of, likely, [low, high]);

/** How many messages it sends in all; null where it sends none. */
export function sentInAll({ terms }: OfferDoc, days: number): number | null {
  const { sends } = terms.response;
  return sends && sends.size * (sends.daily ? days : 1);
}

/** The offer with a figure and its range, and what comes with it. */
function withFigure(offer: OfferDoc, of: Ranging, likely: number, range: [number, number], besides: Partial<Response> = {}): OfferDoc {
  const { response } = offer.terms;
  const part: Partial<Response> = of === "send_response_bp" ? { sends: response.sends && { ...response.sends, response_bp: likely } } : { [of]: likely };
  return { ...offer, terms: { ...offer.terms, response: withRange({ ...response, ...part, ...besides }, of, likely, range) } };
}

/** The offer with the figure as history says it. What follows depth was seen at the depth of the offer that ran. */
export function takenOver(said: Said, learned: Learned, offer: OfferDoc): OfferDoc {
  const { response } = offer.terms;
  const likely = said.likely ?? 0;
  const depth = "goods" in learned && learned.goods > 0 ? Math.round((learned.given_away / learned.goods) * 10_000) : null;
  const follows = said.of.startsWith("extra") || said.of === "top_up_bp";
  const near = said.of === "top_up_bp" && said.reach ? { top_up_reach: said.reach.likely, top_up_falls: said.falls } : {};
  const deep = follows && depth !== null && response.depth_bp === null ? { depth_bp: depth } : {};
  return withFigure(offer, said.of, likely, [said.low ?? likely, said.high ?? likely], { ...near, ...deep });
}
