/**
 * One ordered way to save. Changes are sent one after another; each is told as what it makes of what is kept, so that
 * it is shown at once, and is sent made of what the server really kept before it. What was answered before a newer
 * change never comes back on the screen.
 */
import { useMemo, useSyncExternalStore } from "react";

import { ask } from "./client";
import { queries, type Versioned } from "./queries";

export interface Change<Kept> {
  path: string;
  method?: "PUT" | "POST" | "DELETE";
  /** What is sent, made of what is kept when its turn comes. */
  body?: (kept: Kept) => unknown;
  /** What it comes to, shown until the server answers. */
  shows?: (before: Kept) => Kept;
}

export class Saves<Kept extends Versioned> {
  #waiting: readonly Change<Kept>[] = [];
  #last: Promise<unknown> = Promise.resolve();
  readonly #told = new Set<() => void>();

  constructor(private readonly key: string) {}

  readonly subscribe = (tell: () => void) => {
    this.#told.add(tell);
    return () => this.#told.delete(tell);
  };

  readonly waiting = () => this.#waiting;

  /** Shown at once, sent in its turn; what is wrong with it is thrown, and it is shown no more. */
  save(change: Change<Kept>): Promise<void> {
    this.#wait([...this.#waiting, change]);
    const sent = this.#last.then(() => this.#send(change));
    this.#last = sent.catch(() => undefined);
    return sent;
  }

  async #send(change: Change<Kept>): Promise<void> {
    try {
      const kept = queries.getQueryData<Kept>([this.key])!;
      queries.setQueryData<Kept>([this.key], await ask<Kept>(change.method ?? "PUT", change.path, change.body?.(kept)));
    } catch (error) {
      void queries.invalidateQueries({ queryKey: [this.key], exact: true });
      throw error;
    } finally {
      this.#wait(this.#waiting.filter((one) => one !== change));
    }
    if (this.#waiting.length === 0) void queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey.length > 1 || queryKey[0] !== this.key });
  }

  #wait(waiting: readonly Change<Kept>[]) {
    this.#waiting = waiting;
    this.#told.forEach((tell) => tell());
  }
}

/** What is kept with all that is still to be sent. */
export function useShown<Kept extends Versioned>(saves: Saves<Kept>, kept: Kept): Kept {
  const waiting = useSyncExternalStore(saves.subscribe, saves.waiting);
  return useMemo(() => waiting.reduce((before, { shows }) => (shows ? shows(before) : before), kept), [waiting, kept]);
}
