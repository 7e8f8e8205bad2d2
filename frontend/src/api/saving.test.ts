import { afterEach, beforeEach, expect, test, vi } from "vitest";

import { queries } from "./queries";
import { Saves, takeBackInTurn } from "./saving";

interface Kept {
  version: number;
  words: string[];
}

const saves = new Saves<Kept>("words");
const add = (word: string) => ({
  path: "/words",
  body: ({ words }: Kept) => ({ words: [...words, word] }),
  shows: (before: Kept) => ({ ...before, words: [...before.words, word] }),
});

/** A server that answers when told, in the order it was asked. */
let asked: { path: string; body: unknown; answer: (with_: unknown) => void }[] = [];

beforeEach(() => {
  asked = [];
  queries.setQueryData<Kept>(["words"], { version: 1, words: [] });
  vi.stubGlobal("fetch", (path: string, { body }: RequestInit) =>
    new Promise<Response>((done) => asked.push({ path, body: body && JSON.parse(String(body)), answer: (with_) => done(Response.json(with_)) })),
  );
});
afterEach(() => vi.unstubAllGlobals());

const one = async () => {
  await vi.waitFor(() => expect(asked).toHaveLength(1));
  return asked.shift()!;
};

test("an undo waits for what is shown and not saved yet", async () => {
  const saved = saves.save(add("spade"));
  const undone = takeBackInTurn("undo");
  const save = await one();
  expect(save.path).toBe("/api/words");
  save.answer({ version: 2, words: ["spade"] });
  await saved;
  const undo = await one();
  expect(undo.path).toBe("/api/undo");
  undo.answer({ label: "Words" });
  expect(await undone).toEqual({ label: "Words" });
});

test("what is changed while something is taken back is made of what there is then", async () => {
  queries.setQueryData<Kept>(["words"], { version: 2, words: ["spade"] });
  const undone = takeBackInTurn("undo");
  const saved = saves.save(add("rake"));
  const undo = await one();
  queries.setQueryData<Kept>(["words"], { version: 3, words: [] });
  undo.answer({ label: "Words" });
  await undone;
  const save = await one();
  expect(save.body).toEqual({ words: ["rake"] });
  save.answer({ version: 4, words: ["rake"] });
  await saved;
});
