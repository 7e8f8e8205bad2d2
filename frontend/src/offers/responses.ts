/** The figures of how shoppers respond: which can matter for an offer, how they are told, and what they begin with. */
import { scaleLinear } from "d3-scale";

import type { Ranging, Response, Terms } from "../api/types";
import { allRewards } from "./offers";

/** How each figure that may have a range is called, where it is listed. */
export const CALLED: Record<Ranging, string> = {
  uptake_bp: "who hold the code",
  uptake_first_bp: "first-time shoppers who hold it",
  take_up_bp: "who take it",
  top_up_bp: "who top up",
  extra_bp: "more orders",
  extra_first_bp: "more first orders",
  borrowed_bp: "orders that only came sooner",
  send_response_bp: "who answer the message",
  shift_bp: "who go by the freed option",
  switched_bp: "goods bought in place of others",
};

export const MOST: Record<Ranging, number> = {
  uptake_bp: 10_000,
  uptake_first_bp: 10_000,
  take_up_bp: 10_000,
  top_up_bp: 10_000,
  extra_bp: 50_000,
  extra_first_bp: 50_000,
  borrowed_bp: 10_000,
  send_response_bp: 10_000,
  shift_bp: 10_000,
  switched_bp: 10_000,
};

const coded = (terms: Terms): boolean => terms.given.by !== "itself";

/** The condition shoppers may top up to: what it counts. */
export function toppedUp(terms: Terms): "spend" | "units" | "weight" | "products" | null {
  for (const one of terms.earned.conditions) if (one.kind !== "only" && one.bound !== "at_most") return one.kind;
  return allRewards(terms).some((one) => one.kind === "goods_set" || (one.kind === "buy_get" && one.buy > 0)) ? "units" : null;
}

/** Whether an offer may lower the charge of some options to nothing, and not of all: shoppers may choose those instead. */
const freesAnOption = (terms: Terms): boolean =>
  allRewards(terms).some(
    (one) =>
      "options" in one &&
      one.options.length > 0 &&
      ((one.kind === "delivery_lowered_to" && one.amount === 0) || (one.kind === "delivery_percent_off" && one.percent_bp === 10_000) || one.kind === "delivery_amount_off"),
  );

export interface Asked {
  key: string;
  /** Whether it can matter for the offer, and is not said yet. */
  fits: (terms: Terms) => boolean;
  words: string;
  begin: (response: Response, terms: Terms, round: number) => Partial<Response>;
}

/** What can be said besides who holds the code and how many more orders come. */
export const MORE_TO_SAY: Asked[] = [
  { key: "uptake_first", fits: (t) => coded(t) && t.response.uptake_bp !== null && t.response.uptake_first_bp === null, words: "first-time shoppers hold the code otherwise", begin: (r) => ({ uptake_first_bp: r.uptake_bp }) },
  {
    key: "take_up",
    fits: (t) => t.response.take_up_bp === null && allRewards(t).some((one) => one.kind === "put_in" || one.kind === "buy_get"),
    words: "not everybody takes what it gives",
    begin: () => ({ take_up_bp: 5_000 }),
  },
  {
    key: "top_up",
    fits: (t) => t.response.top_up_bp === null && toppedUp(t) !== null,
    words: "some who are short of it top up",
    begin: (_, t, round) => ({ top_up_bp: 1_000, top_up_reach: { spend: 10 * round, units: 1, weight: 500, products: 1 }[toppedUp(t) ?? "spend"] }),
  },
  { key: "shift", fits: (t) => t.response.shift_bp === null && freesAnOption(t), words: "some choose the option it frees", begin: () => ({ shift_bp: 3_000 }) },
  { key: "extra_first", fits: (t) => t.response.extra_bp !== null && t.response.extra_first_bp === null, words: "it brings more, or fewer, first orders", begin: (r) => ({ extra_first_bp: r.extra_bp }) },
  { key: "borrowed", fits: (t) => t.response.extra_bp !== null && t.response.borrowed_bp === null, words: "some orders only come sooner", begin: () => ({ borrowed_bp: 2_000 }) },
  { key: "switched", fits: (t) => t.response.extra_bp !== null && t.response.switched_bp === null, words: "some of its goods are bought in place of others", begin: () => ({ switched_bp: 2_000 }) },
  { key: "extra_cost", fits: (t) => t.response.extra_bp !== null && t.response.extra_cost === 0, words: "an extra order costs something to win", begin: (_, __, round) => ({ extra_cost: 2 * round }) },
  { key: "partner", fits: (t) => coded(t) && t.response.partner_bp === 0, words: "a partner gets a share", begin: () => ({ partner_bp: 500 }) },
  { key: "shown", fits: (t) => coded(t) && t.response.shown === "" && t.response.sends === null, words: "the code is told to few, or shown to all", begin: () => ({ shown: "to_few" }) },
  {
    key: "sends",
    fits: (t) => coded(t) && t.response.sends === null,
    words: "the code is sent to shoppers",
    begin: (_, __, round) => ({ sends: { size: 1_000, response_bp: 200, anyway_bp: 0, cost: Math.round(round / 20), days: 3, to: "returning", daily: false, among: null } }),
  },
  { key: "fixed", fits: (t) => t.response.fixed_cost === 0, words: "it costs something once", begin: (_, __, round) => ({ fixed_cost: 100 * round }) },
  { key: "later", fits: (t) => t.response.extra_bp !== null && t.response.later === 0, words: "a new shopper is worth something later", begin: (_, __, round) => ({ later: 10 * round }) },
];

export const rangeOf = (response: Response, of: Ranging): [number, number] | null => {
  const found = response.ranges.find((one) => one.of === of);
  return found ? [found.low, found.high] : null;
};

/** The response with a range of a figure, or without one; a range always holds what is likely. */
export function withRange(response: Response, of: Ranging, likely: number | null, range: [number, number] | null): Response {
  const others = response.ranges.filter((one) => one.of !== of);
  if (likely === null || !range) return { ...response, ranges: others };
  const [low, high] = [Math.max(0, Math.min(range[0], likely)), Math.min(MOST[of], Math.max(range[1], likely))];
  return { ...response, ranges: [...others, { of, low, high }] };
}

/** A first range: half as much to half as much again. */
export const firstRange = (likely: number, of: Ranging): [number, number] => [Math.round(likely / 200) * 100, Math.min(MOST[of], Math.ceil((likely * 1.5) / 100) * 100)];

export type Following = Response["also_at"][number]["of"];

/** Figures that follow what the offer gives. */
const FOLLOWING: readonly Ranging[] = ["extra_bp", "extra_first_bp", "top_up_bp"] satisfies Following[];

export const isFollowing = (figure: Ranging): figure is Following => FOLLOWING.includes(figure);

/** How many times what was said a share is now that the offer gives more, or less, than when it was said: in proportion, or along the lines that join what was said at several depths. */
export function followed(response: Response, figure: Following, depthNow: number): number {
  const { depth_bp: depth, also_at: also, [figure]: said } = response;
  if (!depth) return 1;
  const others = also.filter((one) => one.of === figure);
  if (others.length === 0 || !said) return Math.min(2, depthNow / depth);
  const points = [[0, 0], [depth, said], ...others.map((one) => [one.depth_bp, one.value_bp])] as [number, number][];
  points.sort(([one], [other]) => one - other);
  return scaleLinear(points.map(([at]) => at), points.map(([, value]) => value)).clamp(true)(depthNow) / said;
}

/** The response with a figure said anew at a depth: what was said of it there before is gone. */
export const saidAt = (response: Response, depth_bp: number): Response => ({ ...response, depth_bp, also_at: response.also_at.filter((one) => one.depth_bp !== depth_bp) });
