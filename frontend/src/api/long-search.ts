/** A search that tells line by line how far it is, and last what it found; it ends when it is stopped, or its caller goes. */
import { useEffect, useRef, useState } from "react";

import { ApiError, askLines } from "./client";

interface Stopped {
  kind: "stopped";
  detail: string;
}

type Told = { kind: string };

export interface LongSearch<Body, Progress, Found> {
  /** How far it is; null while it does not run. */
  progress: Progress | null;
  found: Found | null;
  failed: string;
  start: (body: Body) => void;
  stop: () => void;
}

/** begin: what is told before the first line; lines of its kind tell how far it is. */
export function useLongSearch<Body, Progress extends Told, Found extends Told>(path: string, begin: Progress): LongSearch<Body, Progress, Found> {
  const [progress, setProgress] = useState<Progress | null>(null);
  const [found, setFound] = useState<Found | null>(null);
  const [failed, setFailed] = useState("");
  const running = useRef<AbortController | null>(null);
  useEffect(() => () => running.current?.abort(), []);
  const go = async (body: Body) => {
    running.current?.abort();
    const mine = new AbortController();
    running.current = mine;
    setFailed("");
    setFound(null);
    setProgress(begin);
    try {
      for await (const line of askLines<Progress | Found | Stopped>(path, body, mine.signal)) {
        if (line.kind === begin.kind) setProgress(line as Progress);
        else if (line.kind === "stopped") setFailed((line as Stopped).detail);
        else setFound(line as Found);
      }
    } catch (error) {
      if (!mine.signal.aborted) setFailed(error instanceof ApiError ? error.message : "The search broke off. Start it again.");
    } finally {
      if (running.current === mine) setProgress(null);
    }
  };
  const stop = () => {
    running.current?.abort();
    setProgress(null);
  };
  return { progress, found, failed, start: (body) => void go(body), stop };
}
