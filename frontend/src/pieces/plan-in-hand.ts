/** The plan in hand: the one this window opened last. Every place that opens on a plan opens on that one. */
import { useEffect } from "react";
import { useSearchParams } from "react-router";

import type { SavedPlan } from "../api/types";

const KEPT = "yellow-abacus plan";

/** ids: the one the address names, the one kept: the first of them that there is counts, else the first plan. */
export const inHand = (plans: SavedPlan[], ...ids: (string | null)[]): SavedPlan | undefined =>
  ids.flatMap((id) => plans.filter((one) => String(one.id) === id))[0] ?? plans[0];

export const planInHand = (plans: SavedPlan[]) => inHand(plans, sessionStorage.getItem(KEPT));

/** The plan to open here, which is in hand from then on. */
export function useOpenPlan(plans: SavedPlan[] | undefined): SavedPlan | undefined {
  const [search] = useSearchParams();
  const open = plans && inHand(plans, search.get("plan"), sessionStorage.getItem(KEPT));
  const id = open?.id;
  useEffect(() => {
    if (id !== undefined) sessionStorage.setItem(KEPT, String(id));
  }, [id]);
  return open;
}
