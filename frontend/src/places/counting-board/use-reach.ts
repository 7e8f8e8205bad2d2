/** Which orders each offer reaches and why not the rest. */
import { useMemo } from "react";

import type { OfferReach, Plan, Reach } from "../../api/types";
import { useFollowing } from "./use-following";

const WAIT_MS = 800;

export function useReach(plan: Plan, sound: boolean, dataVersion: number): Map<string, OfferReach> {
  const found = useFollowing<Reach>("/reach", WAIT_MS, plan, sound, dataVersion);
  return useMemo(() => new Map(found?.offers.map((one) => [one.id, one])), [found]);
}
