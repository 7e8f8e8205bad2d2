/** Below an offer: how shoppers are expected to respond, as a sentence too, and what the offer comes to. */
import { Fragment } from "react";

import type { FieldProblem, Forecast, Frame, OfferDoc, Plan } from "../../api/types";
import { count, money, rate, share } from "../../pieces/figures";
import { withTerms } from "./offers";
import { NumberWord } from "./number-word";

interface ExpectedProps {
  offer: OfferDoc;
  plan: Plan;
  frame: Frame;
  problems: FieldProblem[];
  change: (make: (plan: Plan) => Plan) => void;
}

type Key = "uptake_bp" | "extra_bp";

const ASKED: Record<Key, { title: string; label: string; most: number; unsaid: string; counts: string; otherwise: number }> = {
  uptake_bp: {
    title: "How many shoppers hold the code",
    label: "Share of shoppers",
    most: 10_000,
    unsaid: "how many hold the code",
    counts: "everybody counts",
    otherwise: 10_000,
  },
  extra_bp: {
    title: "Extra orders, as a share of those it reaches",
    label: "Extra orders",
    most: 50_000,
    unsaid: "how many more orders it brings",
    counts: "none count",
    otherwise: 0,
  },
};

export function Expected({ offer, plan, frame, problems, change }: ExpectedProps) {
  const { response, given } = offer.terms;
  const keys: Key[] = given.by === "itself" ? ["extra_bp"] : ["uptake_bp", "extra_bp"];
  const word = (key: Key, text: string) => {
    const { title, label, most, otherwise } = ASKED[key];
    const make = (value: number | null) => (before: Plan) => withTerms(before, offer.id, (t) => ({ ...t, response: { ...t.response, [key]: value } }));
    return (
      <NumberWord
        title={title}
        currency={frame}
        unsound={problems.filter((one) => one.pointer === `/response/${key}`)}
        figure={{
          label,
          value: response[key] ?? otherwise,
          scale: 100,
          step: 100,
          least: 0,
          most,
          unit: "%",
          tell: rate,
          set: (value: number) => change(make(value)),
          withValue: (value: number) => make(value)(plan),
        }}
        more={
          response[key] !== null && (
            <button type="button" className="quiet justify-self-start text-small" onClick={() => change(make(null))}>
              Leave it unsaid again
            </button>
          )
        }
      >
        {text}
      </NumberWord>
    );
  };
  const unsaid = keys.filter((key) => response[key] === null);
  return (
    <p className="text-small leading-relaxed">
      {keys.includes("uptake_bp") && response.uptake_bp !== null && <>You expect {word("uptake_bp", `${rate(response.uptake_bp)} of shoppers`)} to hold the code. </>}
      {response.extra_bp !== null && <>You expect it to bring {word("extra_bp", `${rate(response.extra_bp)} more`)} of the orders it reaches. </>}
      {unsaid.length > 0 && (
        <span className="text-soft">
          Not said yet:{" "}
          {unsaid.map((key, n) => (
            <Fragment key={key}>
              {n > 0 && ", "}
              {word(key, ASKED[key].unsaid)} ({ASKED[key].counts})
            </Fragment>
          ))}
          .
        </span>
      )}
    </p>
  );
}

export function Facts({ figures, frame }: { figures: Forecast["offers"][number]; frame: Frame }) {
  const { reached, given_away, extra_break_even: needs } = figures;
  if (reached === 0) return <p className="text-small text-soft">No order earns it.</p>;
  const even = {
    at_least: `even at ${share(needs.value ?? 0)} more`,
    at_most: `even up to ${share(needs.value ?? 0)} more`,
    never: "more of them never make it even",
    always: "even without more",
    no_matter: "more of them change nothing",
  }[needs.verdict];
  return (
    <p className="text-small text-soft">
      Reaches {count(reached, reached < 10 ? 1 : 0)} orders · gives away {money(given_away, frame, { whole: given_away >= 100 * 10 ** frame.minor_digits })} ·{" "}
      {even}
    </p>
  );
}
