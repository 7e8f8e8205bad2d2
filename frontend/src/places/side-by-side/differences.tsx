/** What the other columns do otherwise than the first, in words. */
import { useNames, useRunning } from "../../api/queries";
import type { Frame, Plan, Ranging } from "../../api/types";
import { rate } from "../../pieces/figures";
import { nameOfOffer } from "../../pieces/offer-names";
import { CALLED } from "../counting-board/responses";
import { offerInWords, offerTokens, say } from "../counting-board/sentence";
import type { Column, Otherwise } from "./columns";
import { differences, type Difference } from "./differing";

const FIGURES = Object.keys(CALLED) as Ranging[];

interface Props {
  columns: Column[];
  /** Of the columns, over the same days. */
  plans: Plan[];
  frame: Frame;
  otherwise: (one: Otherwise) => string;
}

export function Differences({ columns, plans, frame, otherwise }: Props) {
  const { data } = useNames();
  const running = useRunning();
  const goods = data ?? [];
  const first = plans[0]!;
  const inWords = (offer: Plan["offers"][number], plan: Plan) => offerTokens(offer, say(offer, plan, frame, goods, running)).map((one) => (typeof one === "string" ? one : one.text));
  return (
    <div className="grid gap-4">
      <p className="text-small text-soft">Beside “{columns[0]!.name}”, the first in the row:</p>
      {columns.slice(1).map((column, n) => {
        const plan = plans[n + 1]!;
        const found = differences(first, plan, inWords, FIGURES);
        const apart = first.apply !== plan.apply;
        return (
          <section key={column.key} aria-label={column.name}>
            <h3 className="font-semibold">{column.name}</h3>
            <ul className="mt-1 grid gap-1.5">
              {found.map((one) => (
                <li key={`${one.how} ${one.offer.id}`} className="max-w-[62rem] ps-4">
                  <OneDifference {...{ one, plan: one.how === "left out" ? first : plan }} sentence={offerInWords(one.offer, plan, frame, goods, running)} />
                </li>
              ))}
              {apart && <li className="ps-4">Where not all go together, {plan.apply === "best" ? "the best for the shopper is kept" : "the first in order is kept"}.</li>}
              {column.twist && <li className="ps-4">In a shop with {otherwise(column.twist)}.</li>}
              {found.length === 0 && !apart && !column.twist && <li className="ps-4 text-soft">Its offers say the same.</li>}
            </ul>
          </section>
        );
      })}
      {columns.length < 2 && <p className="text-soft">Put another plan beside it to see what differs.</p>}
    </div>
  );
}

function OneDifference({ one, plan, sentence }: { one: Difference; plan: Plan; sentence: string }) {
  const name = nameOfOffer(plan, one.offer);
  if (one.how === "left out") return <>leaves “{name}” out.</>;
  if (one.how === "added")
    return (
      <>
        adds “{name}”: {sentence}
      </>
    );
  return (
    <>
      “{name}”
      {one.words && ": "}
      {one.words?.map(({ text, not }, n) =>
        not === null ? (
          <span key={n} className="text-soft">
            {text}
          </span>
        ) : (
          <span key={n}>
            <strong className="border-b-2 border-ink">{text}</strong>
            {not.trim() !== "" && ` (not ${not.trim().replace(/^, /, "")}) `}
          </span>
        ),
      )}
      {one.response.map(({ figure, here, there }) => (
        <span key={figure}>
          {" "}
          You expect {CALLED[figure]}: <strong>{here === null ? "not said" : rate(here)}</strong> (not {there === null ? "said there" : rate(there)}).
        </span>
      ))}
    </>
  );
}
