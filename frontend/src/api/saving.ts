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
  /** It says all of one thing: what was said of it before under the same key, and is not sent yet, need not be. */
  instead?: string;
}

interface State<Kept> {
  waiting: readonly Change<Kept>[];
  /** The last answer: what waits and what was answered change in one moment, whenever the place learns of either. */
  answered: Kept | undefined;
}

export class Saves<Kept extends Versioned> {
  #state: State<Kept> = { waiting: [], answered: undefined };
  #last: Promise<unknown> = Promise.resolve();
  #underWay: Change<Kept> | null = null;
  readonly #told = new Set<() => void>();

  constructor(private readonly key: string) {}

  readonly subscribe = (tell: () => void) => {
    this.#told.add(tell);
    return () => this.#told.delete(tell);
  };

  readonly state = () => this.#state;

  /** Shown at once, sent in its turn; what is wrong with it is thrown, and it is shown no more. */
  save(change: Change<Kept>): Promise<void> {
    const needed = (one: Change<Kept>) => one === this.#underWay || change.instead === undefined || one.instead !== change.instead;
    this.#put({ waiting: [...this.#state.waiting.filter(needed), change] });
    const sent = this.#last.then(() => this.#send(change));
    this.#last = sent.catch(() => undefined);
    return sent;
  }

  async #send(change: Change<Kept>): Promise<void> {
    const without = () => this.#state.waiting.filter((one) => one !== change);
    if (!this.#state.waiting.includes(change)) return;
    this.#underWay = change;
    try {
      const kept = queries.getQueryData<Kept>([this.key])!;
      const answered = await ask<Kept>(change.method ?? "PUT", change.path, change.body?.(kept));
      queries.setQueryData<Kept>([this.key], answered);
      this.#put({ waiting: without(), answered });
    } catch (error) {
      this.#put({ waiting: without() });
      void queries.invalidateQueries({ queryKey: [this.key], exact: true });
      throw error;
    }
    if (this.#state.waiting.length === 0) void queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey.length > 1 || queryKey[0] !== this.key });
  }

  #put(part: Partial<State<Kept>>) {
    this.#state = { ...this.#state, ...part };
    this.#told.forEach((tell) => tell());
  }
}

/** What is kept with all that is still to be sent. */
export function useShown<Kept extends Versioned>(saves: Saves<Kept>, kept: Kept): Kept {
  const { waiting, answered } = useSyncExternalStore(saves.subscribe, saves.state);
  const newest = answered && answered.version > kept.version ? answered : kept;
  return useMemo(() => waiting.reduce((before, { shows }) => (shows ? shows(before) : before), newest), [waiting, newest]);
}
