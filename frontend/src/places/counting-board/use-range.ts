/** What follows the answer: how sure it is, and what each offer adds; asked after it, so that it never waits. */
import { useEffect, useState } from "react";

import { ask } from "../../api/client";
import type { EachOffer, Plan, Range } from "../../api/types";

const WAIT_MS = 250;

/** The newest answer about the plan; that of the plan before until it comes. */
function useFollowing<Answer>(path: string, wait: number, plan: Plan, sound: boolean, dataVersion: number): Answer | null {
  const [found, setFound] = useState<Answer | null>(null);
  useEffect(() => {
    if (!sound) return;
    const asked = new AbortController();
    const timer = setTimeout(() => {
      ask<Answer>("POST", path, plan, asked.signal)
        .then(setFound)
        .catch(() => undefined); // the forecast of the same plan reports what is wrong
    }, wait);
    return () => {
      clearTimeout(timer);
      asked.abort();
    };
  }, [path, wait, plan, sound, dataVersion]);
  return found;
}

export const useRange = (plan: Plan, sound: boolean, dataVersion: number) => useFollowing<Range>("/forecast/range", WAIT_MS, plan, sound, dataVersion);

export const useEachOffer = (plan: Plan, sound: boolean, dataVersion: number) => useFollowing<EachOffer>("/forecast/each", 2 * WAIT_MS, plan, sound, dataVersion);
