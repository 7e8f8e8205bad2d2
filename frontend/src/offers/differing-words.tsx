/** What one plan says otherwise than another, in words: what is left out or added, and words that changed. */
import { Children, type ReactNode } from "react";

import { useNames, useRunning } from "../api/queries";
import type { Frame, OfferDoc, Plan, Ranging } from "../api/types";
import { BESIDES, differences, type Difference } from "../pieces/differing";
import { capital, listed, rate } from "../pieces/figures";
import { nameOfOffer, nameOfRunning } from "../pieces/offer-names";
import { CALLED } from "./responses";
import { offerInWords, offerTokens, say } from "./sentence";

const FIGURES = Object.keys(CALLED) as Ranging[];

interface Props {
  first: Plan;
  second: Plan;
  frame: Frame;
  /** What else differs, as further entries of the list. */
  children?: ReactNode;
}

export function Differing({ first, second, frame, children }: Props) {
  const { data } = useNames();
  const running = useRunning();
  const goods = data ?? [];
  const inWords = (offer: OfferDoc, plan: Plan) => offerTokens(offer, say(offer, plan, frame, goods, running)).map((one) => (typeof one === "string" ? one : one.text));
  const found = differences(first, second, inWords, FIGURES, running);
  const nameOf = (offer: OfferDoc, plan: Plan) => (plan.offers.includes(offer) ? nameOfOffer(plan, offer) : nameOfRunning(running, offer));
  const apart = first.apply !== second.apply;
  const same = found.length === 0 && !apart && Children.toArray(children).length === 0;
  return (
    <ul className="mt-1 grid max-w-[62rem] gap-1.5 ps-4">
      {found.map((one) => (
        <li key={`${one.how} ${one.offer.id}`}>
          <OneDifference one={one} name={nameOf(one.offer, one.how === "left out" ? first : second)} sentence={offerInWords(one.offer, second, frame, goods, running)} />
        </li>
      ))}
      {apart && <li>Where not all go together, {second.apply === "best" ? "the best for the shopper is kept" : "the first in order is kept"}.</li>}
      {children}
      {same && <li className="text-soft">Its offers say the same.</li>}
    </ul>
  );
}

function OneDifference({ one, name, sentence }: { one: Difference; name: string; sentence: string }) {
  if (one.how === "left out") return <>leaves “{name}” out.</>;
  if (one.how === "added")
    return (
      <>
        adds “{name}”: {sentence}
      </>
    );
  return (
    <>
      “{name}”:{" "}
      {one.words?.map(({ text, not }, n) =>
        not === null ? (
          <span key={n} className="text-soft">
            {text}
          </span>
        ) : (
          <span key={n}>
            <strong className="border-b-2 border-ink">{text}</strong>
            {not.trim() !== "" && ` (not ${not.trim().replace(/^, /, "")})`}
          </span>
        ),
      )}
      {one.response.map(({ figure, here, there }) => (
        <span key={figure}>
          {" "}
          You expect {CALLED[figure]}: <strong>{here === null ? "not said" : rate(here)}</strong> (not {there === null ? "said there" : rate(there)}).
        </span>
      ))}
      {one.besides.length > 0 && <> {capital(listed(one.besides.map((part) => BESIDES[part])))} {one.besides.length === 1 ? "is" : "are"} expected otherwise.</>}
    </>
  );
}
