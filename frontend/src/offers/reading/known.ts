/** What a reader has to know of the shop and the plan to read an offer. */
import type { Frame, Named, OfferDoc, Plan } from "../../api/types";

export interface Known {
  frame: Frame;
  /** Minor units in one unit of the currency. */
  unit: number;
  goods: Named[];
  plan: Plan;
  running: OfferDoc[];
}

export const knownOf = (frame: Frame, goods: Named[], plan: Plan, running: OfferDoc[]): Known => ({ frame, goods, plan, running, unit: 10 ** frame.minor_digits });

/** The year a day without one is of: that of the plan. */
export const yearOf = ({ plan }: Known): number => Number(plan.first_day.slice(0, 4));
