/** A figure that history says, put into an offer of a plan with its range. */
import type { LearnedOffer, NextOfKind, OfferDoc, Response, Said } from "../api/types";
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

/** The offer with the figure as that of several of its kind. */
export function takenFromKind(next: NextOfKind, offer: OfferDoc): OfferDoc {
  const { response } = offer.terms;
  const part: Partial<Response> = next.of === "send_response_bp" ? { sends: response.sends && { ...response.sends, response_bp: next.likely } } : { [next.of]: next.likely };
  return { ...offer, terms: { ...offer.terms, response: withRange({ ...response, ...part }, next.of, next.likely, [next.low, next.high]) } };
}

/** The offer with the figure as history says it. What follows depth was seen at the depth of the offer that ran. */
export function takenOver(said: Said, learned: LearnedOffer, offer: OfferDoc): OfferDoc {
  const { response } = offer.terms;
  const likely = said.likely ?? 0;
  const depth = learned.goods > 0 ? Math.round((learned.given_away / learned.goods) * 10_000) : null;
  const follows = said.of.startsWith("extra") || said.of === "top_up_bp";
  const part: Partial<Response> = said.of === "send_response_bp" ? { sends: response.sends && { ...response.sends, response_bp: likely } } : { [said.of]: likely };
  const near = said.of === "top_up_bp" && said.reach ? { top_up_reach: said.reach.likely, top_up_falls: said.falls } : {};
  const deep = follows && depth !== null && response.depth_bp === null ? { depth_bp: depth } : {};
  const next = withRange({ ...response, ...part, ...near, ...deep }, said.of, likely, [said.low ?? likely, said.high ?? likely]);
  return { ...offer, terms: { ...offer.terms, response: next } };
}
