/** What offers are called, those of a plan and those that run already. */
import { useCallback } from "react";

import { useRunning } from "../api/queries";
import type { OfferDoc, Plan } from "../api/types";

export const nameOfOffer = (plan: Plan, offer: OfferDoc): string => offer.name || `offer ${plan.offers.indexOf(offer) + 1}`;

export const nameOfRunning = (running: OfferDoc[], offer: OfferDoc): string => offer.name || `running offer ${running.indexOf(offer) + 1}`;

/** By an offer's id: what it is called; empty for one that is gone. */
export function useNameOf(plan: Plan): (id: string) => string {
  const running = useRunning();
  return useCallback(
    (id) => {
      const own = plan.offers.find((one) => one.id === id);
      const runs = running.find((one) => one.id === id);
      return own ? nameOfOffer(plan, own) : runs ? nameOfRunning(running, runs) : "";
    },
    [plan, running],
  );
}

/** Whether an offer of the plan stands in the place of one that runs already. */
export const standsInPlaceOf = (running: OfferDoc[], plan: Plan, id: string): boolean =>
  running.some((one) => one.id === id) && plan.offers.some((one) => one.id === id && one.in_plan);

/** The offers that run already and are not in the plan otherwise, whether they are kept or dropped. */
export const besidePlan = (running: OfferDoc[], plan: Plan): OfferDoc[] => running.filter((one) => !standsInPlaceOf(running, plan, one.id));

/** Those of them that the plan keeps. */
export const keptBeside = (running: OfferDoc[], plan: Plan): OfferDoc[] => besidePlan(running, plan).filter((one) => !plan.dropped.some(({ offer }) => offer === one.id));
