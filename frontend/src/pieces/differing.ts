/** What one plan says otherwise than another, offer by offer and word by word. */
import type { OfferDoc, Plan, Ranging, Response } from "../api/types";
import { keptBeside } from "./offer-names";

/** Words as they stand in the second; `not` is what the first says there, where it says otherwise. */
export interface Stretch {
  text: string;
  not: string | null;
}

export interface Difference {
  offer: OfferDoc;
  /** Where both have it: the second's sentence. */
  words: Stretch[] | null;
  /** Figures of the response that differ. */
  response: { figure: Ranging; here: number | null; there: number | null }[];
  /** What else of what is expected differs. */
  besides: Besides[];
  /** Whether it is in the second alone, the first alone, or in both and otherwise. */
  how: "added" | "left out" | "otherwise";
}

/** Parts of what is expected that are no figure of their own. */
export const BESIDES = {
  sends: "its messages",
  top_up_reach: "from how far shoppers top up",
  top_up_falls: "whether fewer do from further off",
  top_up_skus: "what they top up with",
  switched_of: "in place of which goods its own are bought",
  extra_cost: "what an extra order costs to win",
  partner_bp: "what goes to a partner",
  fixed_cost: "what it costs once",
  later: "what a new shopper keeps later",
  shown: "who is told of the code",
  ranges: "how sure its figures are",
  also_at: "what they are at other depths",
  returned_bp: "how much of it comes back",
} satisfies Partial<Record<keyof Response | "returned_bp", string>>;
export type Besides = keyof typeof BESIDES;

/** words: an offer of a plan as a row of words. figures: what may be set of a response. running: what is in force without a plan. */
export function differences(first: Plan, second: Plan, words: (offer: OfferDoc, plan: Plan) => string[], figures: readonly Ranging[], running: OfferDoc[]): Difference[] {
  const inForce = (plan: Plan): OfferDoc[] => [...keptBeside(running, plan), ...plan.offers.filter((one) => one.in_plan)];
  const [before, after] = [inForce(first), inForce(second)];
  const pair = (offer: OfferDoc, among: OfferDoc[]) => among.find((one) => one.id === offer.id) ?? among.find((one) => offer.name !== "" && one.name === offer.name);
  const found: Difference[] = [];
  for (const offer of after) {
    const other = pair(offer, before);
    if (!other) {
      found.push({ offer, words: null, response: [], besides: [], how: "added" });
      continue;
    }
    const told = stretches(words(other, first), words(offer, second));
    const response = figures.flatMap((figure) => {
      const [there, here] = [likely(other, figure), likely(offer, figure)];
      return there === here ? [] : [{ figure, here, there }];
    });
    const besides = otherwise(other.terms, offer.terms);
    const differs = told.some((one) => one.not !== null);
    if (differs || response.length || besides.length) found.push({ offer, words: differs ? told : null, response, besides, how: "otherwise" });
  }
  for (const offer of before) if (!pair(offer, after)) found.push({ offer, words: null, response: [], besides: [], how: "left out" });
  return found;
}

function otherwise(there: OfferDoc["terms"], here: OfferDoc["terms"]): Besides[] {
  // how many answer a message is a figure of its own
  const told = ({ response: { sends, ...rest }, returned_bp }: OfferDoc["terms"]) => ({ ...rest, sends: sends && { ...sends, response_bp: 0 }, returned_bp });
  const [first, second] = [told(there), told(here)];
  return (Object.keys(BESIDES) as Besides[]).filter((part) => JSON.stringify(first[part]) !== JSON.stringify(second[part]));
}

const likely = (offer: OfferDoc, figure: Ranging): number | null => {
  const { response } = offer.terms;
  return figure === "send_response_bp" ? (response.sends?.response_bp ?? null) : response[figure];
};

/** The second's words, runs of them that differ told with what the first says in their place. */
export function stretches(first: string[], second: string[]): Stretch[] {
  const common = longestCommon(first, second);
  const found: Stretch[] = [];
  let [at, here] = [0, 0];
  const put = (text: string, not: string | null) => {
    const last = found.at(-1);
    if (last && not === null && last.not === null) last.text += text;
    else if (text || not) found.push({ text, not });
  };
  for (const [there, mine] of [...common, [first.length, second.length] as const]) {
    const [gone, come] = [first.slice(at, there).join(""), second.slice(here, mine).join("")];
    if (gone || come) put(come, gone);
    if (mine < second.length) put(second[mine]!, null);
    [at, here] = [there + 1, mine + 1];
  }
  return found;
}

/** Positions of the longest row of words that both have, in order. */
function longestCommon(first: string[], second: string[]): (readonly [number, number])[] {
  const length = Array.from({ length: first.length + 1 }, () => new Array<number>(second.length + 1).fill(0));
  for (let i = first.length - 1; i >= 0; i -= 1)
    for (let j = second.length - 1; j >= 0; j -= 1) length[i]![j] = first[i] === second[j] ? length[i + 1]![j + 1]! + 1 : Math.max(length[i + 1]![j]!, length[i]![j + 1]!);
  const found: (readonly [number, number])[] = [];
  for (let i = 0, j = 0; i < first.length && j < second.length; ) {
    if (first[i] === second[j]) found.push([i++, j++]);
    else if (length[i + 1]![j]! >= length[i]![j + 1]!) i += 1;
    else j += 1;
  }
  return found;
}
