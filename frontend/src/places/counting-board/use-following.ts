/** What follows the answer is asked once what comes before it stands, so that the answer never waits. */
import { useEffect, useState } from "react";

import { ask } from "../../api/client";
import type { Plan } from "../../api/types";

/** A key held down comes again sooner than this after an answer: only the last one's plan is looked into. */
const PAUSE_MS = 60;

export interface Followed<Answer> {
  /** Of the plan; of one before until it comes. */
  found: Answer | null;
  /** It has come, or cannot: what is to follow it may be asked. */
  stands: boolean;
}

/** before: whether what comes before it stands. first: that is the answer itself. */
export function useFollowing<Answer>(path: string, plan: Plan, before: boolean, dataVersion: number, first = false): Followed<Answer> {
  const [last, setLast] = useState<{ of: Plan; found: Answer | null } | null>(null);
  useEffect(() => {
    if (!before) return;
    const asked = new AbortController();
    const timer = setTimeout(
      () => {
        ask<Answer>("POST", path, plan, asked.signal)
          .then((found) => setLast({ of: plan, found }))
          .catch(() => {
            // The forecast of the same plan reports what is wrong.
            if (!asked.signal.aborted) setLast((old) => ({ of: plan, found: old?.found ?? null }));
          });
      },
      first ? PAUSE_MS : 0,
    );
    return () => {
      clearTimeout(timer);
      asked.abort();
    };
  }, [path, plan, before, dataVersion, first]);
  return { found: last?.found ?? null, stands: last?.of === plan };
}
