/** An offer as a sentence. The sentence is the only editor: every part that can be set is a word in it. */
import { Fragment, useMemo, useState } from "react";

import { useNames, useRunning } from "../api/queries";
import type { FieldProblem, Frame, Named, OfferDoc, Plan, Reward } from "../api/types";
import { money } from "../pieces/figures";
import { alongsideTokens } from "./alongside-word";
import { AndAlso } from "./and-also";
import { countedTokens, earnedTokens } from "./earned-words";
import { fundedTokens } from "./funded-words";
import { givenToken } from "./given-word";
import { limitTokens } from "./limit-words";
import { replaced } from "../pieces/lists";
import { spot } from "../pieces/words";
import { withTerms } from "./offers";
import { plain, type PartProps, type Say, type Token } from "./part";
import { rewardsTokens, type RewardSlot } from "./reward-words";
import { stepTokens } from "./step-words";
import { whenTokens } from "./when-word";
import { whereTokens, whoTokens } from "./who-word";

export function say(offer: OfferDoc, plan: Plan, frame: Frame, goods: Named[], running: OfferDoc[], held: string | null = null): Say {
  const unit = 10 ** frame.minor_digits;
  return { frame, unit, round: frame.round_amount, goods, plan, running, offer, held, cash: (amount) => money(amount, frame, { whole: amount % unit === 0 }) };
}

/** What a part of the sentence is about, in the order of the sentence. */
export type Clause = "earned" | "gives" | "steps" | "counted" | "limits" | "given" | "who" | "where" | "when" | "alongside" | "funded";

/** The words of each clause; none for one that says nothing. */
export function clausesOf(offer: OfferDoc, told: Say): [Clause, Token[]][] {
  const { terms } = offer;
  const slotOf = (n: number): RewardSlot => ({
    path: `/gives/${n}`,
    value: terms.gives[n]!,
    put: (value: Reward) => (t) => ({ ...t, gives: replaced(t.gives, n, value) }),
    drop: terms.gives.length > 1 ? (t) => ({ ...t, gives: t.gives.toSpliced(n, 1) }) : null,
    inStep: false,
  });
  return [
    ["earned", earnedTokens(terms, told)],
    ["gives", rewardsTokens(terms.gives, slotOf, terms, told, true)],
    ["steps", stepTokens(terms, told)],
    ["counted", countedTokens(terms)],
    ["limits", limitTokens(terms, told)],
    ["given", [", ", givenToken(terms, told.full)]],
    ["who", whoTokens(terms, told)],
    ["where", whereTokens(terms, told)],
    ["when", [", ", ...whenTokens(terms, told)]],
    ["alongside", alongsideTokens(terms, told)],
    ["funded", fundedTokens(terms, told)],
  ];
}

/** The whole sentence, as words that can be set and the text between them. */
export const offerTokens = (offer: OfferDoc, told: Say): Token[] => [...clausesOf(offer, told).flatMap(([, tokens]) => tokens), ". "];

/** The sentence with nothing shortened, to be copied out: what is pasted in again is the same offer. */
export const offerInFull = (offer: OfferDoc, plan: Plan, frame: Frame, goods: Named[], running: OfferDoc[]): string =>
  plain(offerTokens(offer, { ...say(offer, plan, frame, goods, running), full: true })).trim();

export const offerInWords = (offer: OfferDoc, plan: Plan, frame: Frame, goods: Named[], running: OfferDoc[]): string =>
  plain(offerTokens(offer, say(offer, plan, frame, goods, running))).trim();

export interface SentenceProps {
  offer: OfferDoc;
  plan: Plan;
  frame: Frame;
  problems: FieldProblem[];
  change: (make: (plan: Plan) => Plan) => void;
}

export function Sentence({ offer, plan, frame, problems, change }: SentenceProps) {
  const { data } = useNames();
  const [held, hold] = useState<string | null>(null);
  const running = useRunning();
  const told = useMemo(() => say(offer, plan, frame, data ?? [], running, held), [offer, plan, frame, data, running, held]);
  const part: PartProps = {
    ...told,
    hold,
    terms: offer.terms,
    edit: (make) => change((before) => withTerms(before, offer.id, make)),
    variant: (make) => withTerms(plan, offer.id, make),
    at: (path) => spot(path, problems.filter((one) => one.pointer === path || one.pointer.startsWith(`${path}/`))),
  };
  return (
    <p className="text-sentence">
      {offerTokens(offer, told).map((token, n) =>
        typeof token === "string" ? token : <Fragment key={`${n} ${token.key}`}>{token.word(part)}</Fragment>,
      )}
      <AndAlso {...part} />
    </p>
  );
}
