/** A scope as a word of an offer's sentence. */
import type { Scope } from "../api/types";
import { scopeInWords, ScopeWord } from "../pieces/scope-word";
import type { Say, Slot, Token } from "./part";

export const scopeToken = (title: string, slot: Slot<Scope>, { goods, full }: Say, everything?: string): Token => {
  const text = scopeInWords(slot.value, goods, everything, full);
  return {
    key: `scope ${slot.path}`,
    text,
    word: ({ frame, goods, edit, at }) => (
      <ScopeWord {...{ title, text, frame, goods }} scope={slot.value} unsound={at(slot.path)} onChange={(scope) => edit(slot.put(scope))} />
    ),
  };
};
