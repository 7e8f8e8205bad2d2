/** A scope as a word of an offer's sentence. */
import type { Named, Scope } from "../../api/types";
import { scopeInWords, ScopeWord } from "../../pieces/scope-word";
import type { Slot, Token } from "./part";

export const scopeToken = (title: string, slot: Slot<Scope>, goods: Named[], everything?: string): Token => {
  const text = scopeInWords(slot.value, goods, everything);
  return {
    key: `scope ${slot.path}`,
    text,
    word: ({ frame, goods, edit, at }) => (
      <ScopeWord {...{ title, text, frame, goods }} scope={slot.value} unsound={at(slot.path)} onChange={(scope) => edit(slot.put(scope))} />
    ),
  };
};
