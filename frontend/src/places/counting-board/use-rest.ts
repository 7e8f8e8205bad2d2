/** All that follows the answer, one after another: how sure it is, what each offer adds, which orders it reaches, and snags. */
import { useMemo } from "react";

import type { EachOffer, OfferReach, Plan, Range, Reach, Snag, Snags } from "../../api/types";
import { useFollowing } from "./use-following";

interface Rest {
  range: Range | null;
  each: EachOffer | null;
  /** By offer. */
  reach: Map<string, OfferReach>;
  snags: Snag[] | null;
}

/** answered: the answer of this plan stands. */
export function useRest(plan: Plan, answered: boolean, dataVersion: number): Rest {
  const range = useFollowing<Range>("/forecast/range", plan, answered, dataVersion, true);
  const each = useFollowing<EachOffer>("/forecast/each", plan, answered && range.stands, dataVersion);
  const reach = useFollowing<Reach>("/reach", plan, answered && each.stands, dataVersion);
  const snags = useFollowing<Snags>("/snags", plan, answered && reach.stands, dataVersion);
  const byOffer = useMemo(() => new Map(reach.found?.offers.map((one) => [one.id, one])), [reach.found]);
  return { range: range.found, each: each.found, reach: byOffer, snags: snags.found?.snags ?? null };
}
