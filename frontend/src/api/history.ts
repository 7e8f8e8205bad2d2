/** What history says of how shoppers responded, for all places that ask. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask, askLines } from "./client";
import { BY_VERSION } from "./queries";
import type { HistorySays, LookLine, NextOfKind, NextSent, Ranging, ShortTests } from "./types";

/** What history says, found anew whenever the shop changed; and how far the look back is, null once it is done. */
export function useHistory(version: number, enabled = true): { says: HistorySays | null; looked: number | null; failed: string } {
  const [looked, setLooked] = useState<number | null>(0);
  const { data, error } = useQuery({
    queryKey: ["history says", version],
    queryFn: async ({ signal }) => {
      setLooked(0);
      for await (const line of askLines<LookLine>("/history-says", null, signal)) {
        if (line.kind === "found") return line;
        setLooked(line.share);
      }
      throw new Error("The look back broke off. Load the page again.");
    },
    placeholderData: (before) => before,
    staleTime: Infinity,
    meta: BY_VERSION,
    enabled,
  });
  return { says: data ?? null, looked: data && !error ? null : looked, failed: error ? error.message : "" };
}

/** What a next message may do, sent to so many, as those before it did; null where none is asked for, or it is not known yet. */
export function useNextSent(before: NextOfKind["before"], sent: number | null): NextSent | null {
  const { data } = useQuery({
    queryKey: ["next sent", before, sent],
    queryFn: ({ signal }) => ask<NextSent>("POST", "/next-sent", { before, sent }, signal),
    placeholderData: keepPreviousData,
    enabled: sent !== null,
  });
  return sent === null ? null : (data ?? null);
}

/** What a short test would tell of a figure; nothing where none would, or it is not known yet. */
export function useShortTest(figure: Ranging, version: number): string {
  const { data } = useQuery({
    queryKey: ["short tests", version],
    queryFn: ({ signal }) => ask<ShortTests>("GET", "/short-tests", undefined, signal),
    staleTime: Infinity,
    meta: BY_VERSION,
  });
  return data?.tests.find((one) => one.of === figure)?.says ?? "";
}
