/**
 * One ordered way to save. Changes are sent one after another; each is told as what it makes of what is kept, so that
 * it is shown at once, and is sent made of what the server really kept before it. What was answered before a newer
 * change never comes back on the screen.
 */
import { useMemo, useSyncExternalStore } from "react";

import { ask } from "./client";
import { BY_VERSION, queries, RUNNING, type Versioned } from "./queries";
import type { OfferDoc, Undone } from "./types";

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

/** What is shown already and not saved yet. */
const underWay = new Set<Promise<unknown>>();
export const isSaving = () => underWay.size > 0;
/** The last undo or redo. */
let takenBack: Promise<unknown> = Promise.resolve();
/** What changes are made of, by the first part of its key. */
const sources = new Set<unknown>(["goods", "plans", "carts"]);

/** Changes that are shown at once, each sent in its turn: after those before it, and after what is being taken back. */
export function turns(): <Answer>(send: () => Promise<Answer>) => Promise<Answer> {
  let last: Promise<unknown> = Promise.resolve();
  return (send) => {
    const sent = Promise.all([last, takenBack]).then(send);
    const done: Promise<unknown> = sent.catch(() => undefined).then(() => underWay.delete(done));
    underWay.add(done);
    last = done;
    return sent;
  };
}

const runningInTurn = turns();

/** Say which offers run already. make: of those that do, which are waited for; no answer of before comes over the new one. */
export const putRunning = (make: (offers: OfferDoc[]) => OfferDoc[]): Promise<void> =>
  runningInTurn(async () => {
    const { offers } = await queries.ensureQueryData(RUNNING);
    await queries.cancelQueries({ queryKey: RUNNING.queryKey });
    queries.setQueryData(RUNNING.queryKey, await ask<{ offers: OfferDoc[] }>("PUT", "/running", { offers: make(offers) }));
    await queries.invalidateQueries({ queryKey: ["frame"] });
  });

/** Undo, or redo, what is on the screen: after all that is shown is saved, and before all that is changed next. */
export function takeBackInTurn(way: "undo" | "redo"): Promise<Undone> {
  const isSource = (key: readonly unknown[]) => sources.has(key[0]) && (key.length === 1 || key[0] === "goods");
  const taken = Promise.all([takenBack, ...underWay]).then(async () => {
    const undone = await ask<Undone>("POST", `/${way}`);
    void queries.invalidateQueries({ predicate: ({ queryKey, meta }) => !isSource(queryKey) && meta !== BY_VERSION });
    await queries.invalidateQueries({ predicate: ({ queryKey }) => isSource(queryKey) });
    return undone;
  });
  takenBack = taken.catch(() => undefined);
  return taken;
}

export class Saves<Kept extends Versioned> {
  #state: State<Kept> = { waiting: [], answered: undefined };
  readonly #inTurn = turns();
  #underWay: Change<Kept> | null = null;
  readonly #told = new Set<() => void>();

  constructor(private readonly key: string) {
    sources.add(key);
  }

  readonly subscribe = (tell: () => void) => {
    this.#told.add(tell);
    return () => this.#told.delete(tell);
  };

  readonly state = () => this.#state;

  /** Shown at once, sent in its turn; what is wrong with it is thrown, and it is shown no more. */
  save(change: Change<Kept>): Promise<void> {
    const needed = (one: Change<Kept>) => one === this.#underWay || change.instead === undefined || one.instead !== change.instead;
    this.#put({ waiting: [...this.#state.waiting.filter(needed), change] });
    return this.#inTurn(() => this.#send(change));
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
    if (this.#state.waiting.length === 0) void queries.invalidateQueries({ predicate: ({ queryKey, meta }) => (queryKey.length > 1 || queryKey[0] !== this.key) && meta !== BY_VERSION });
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
