/** Which orders each offer reaches and why not the rest; asked once the typing pauses. */
import { useEffect, useState } from "react";

import { ask } from "../../api/client";
import type { OfferReach, Plan, Reach } from "../../api/types";

const WAIT_MS = 800;

export function useReach(plan: Plan, sound: boolean, dataVersion: number): Map<string, OfferReach> {
  const [found, setFound] = useState(new Map<string, OfferReach>());
  useEffect(() => {
    if (!sound) return;
    const asked = new AbortController();
    const timer = setTimeout(() => {
      ask<Reach>("POST", "/reach", plan, asked.signal)
        .then(({ offers }) => setFound(new Map(offers.map((one) => [one.id, one]))))
        .catch(() => undefined); // the forecast of the same plan reports what is wrong
    }, WAIT_MS);
    return () => {
      clearTimeout(timer);
      asked.abort();
    };
  }, [plan, sound, dataVersion]);
  return found;
}
