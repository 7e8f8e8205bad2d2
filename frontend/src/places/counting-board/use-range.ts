/** How sure the answer is: asked after it, so that it never waits. */
import { useEffect, useState } from "react";

import { ask } from "../../api/client";
import type { Plan, Range } from "../../api/types";

const WAIT_MS = 250;

/** The range, and whether it is of the plan as it stands. */
export function useRange(plan: Plan, sound: boolean, dataVersion: number): Range | null {
  const [found, setFound] = useState<{ of: Plan; range: Range } | null>(null);
  useEffect(() => {
    if (!sound) return;
    const asked = new AbortController();
    const timer = setTimeout(() => {
      ask<Range>("POST", "/forecast/range", plan, asked.signal)
        .then((range) => setFound({ of: plan, range }))
        .catch(() => undefined); // the forecast of the same plan reports what is wrong
    }, WAIT_MS);
    return () => {
      clearTimeout(timer);
      asked.abort();
    };
  }, [plan, sound, dataVersion]);
  return found?.range ?? null;
}
