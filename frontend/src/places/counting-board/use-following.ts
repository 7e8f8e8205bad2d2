/** What follows the answer is asked after it, once the typing pauses, so that it never waits. */
import { useEffect, useState } from "react";

import { ask } from "../../api/client";
import type { Plan } from "../../api/types";

/** The newest answer about the plan; that of the plan before until it comes. */
export function useFollowing<Answer>(path: string, wait: number, plan: Plan, sound: boolean, dataVersion: number): Answer | null {
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
