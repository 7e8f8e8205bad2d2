/** An offer's sentence, copied out and pasted in: read back clause by clause, in the order it is written in. */
import type { Terms } from "../../api/types";
import { newTerms } from "../../pieces/new-parts";
import { EVERYTHING } from "../../pieces/scope-word";
import { alongside, funded, given, limits, when, where, who } from "./clauses-read";
import { Cursor } from "./cursor";
import { earned, howCounted } from "./earned-read";
import type { Known } from "./known";
import { rewards, steps } from "./rewards-read";

/** Longer texts are no sentence of an offer. */
export const LONGEST = 6_000;

/** What the whole text says, where it is such a sentence to its end; null where it is not. */
export function readSentence(text: string, from: Known): Terms | null {
  if (text.length > LONGEST) return null;
  const at = new Cursor(text.trim().replace(/\u00a0/g, " ").replace(/\s+/g, " "));
  return at.maybe(() => {
    const needs = earned(at, from);
    const { gives, on } = rewards(at, from, false);
    const stepped = steps(at, from);
    const found = newTerms(gives, {
      earned: howCounted(at, needs),
      on: on ?? EVERYTHING,
      ...stepped,
      limits: limits(at, from),
      given: given(at),
      who: who(at, from),
      where: where(at, from),
      when: when(at, from),
      alongside: alongside(at, from),
      funded: funded(at, from),
    });
    at.must(/\.?$/);
    return found;
  });
}
