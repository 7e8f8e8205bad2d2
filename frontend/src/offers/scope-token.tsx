/** A scope as a word of an offer's sentence. */
import type { Scope } from "../api/types";
import { scopeInWords, ScopeWord } from "../pieces/scope-word";
import type { Say, Slot, Token } from "./part";

/** held: what its clause is held by while the slip is open, where it would go from the sentence. */
export const scopeToken = (title: string, slot: Slot<Scope>, { goods, full }: Say, everything?: string, held?: string): Token => {
  const text = scopeInWords(slot.value, goods, everything, full);
  return {
    key: `scope ${slot.path}`,
    text,
    word: ({ frame, goods, edit, at, hold }) => (
      <ScopeWord
        {...{ title, text, frame, goods }}
        scope={slot.value}
        unsound={at(slot.path)}
        onChange={(scope) => edit(slot.put(scope))}
        onOpenChange={held === undefined ? undefined : (open) => hold(open ? held : null)}
      />
    ),
  };
};
