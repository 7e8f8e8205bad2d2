/** Below an offer: how shoppers are expected to respond, as a sentence too, and what the offer comes to. */
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

export function Expected({ offer, plan, frame, problems, change }: ExpectedProps) {
  const { response, given } = offer.terms;
  const figure = (key: "uptake_bp" | "extra_bp", label: string, most: number) => {
    const make = (value: number) => (before: Plan) =>
      withTerms(before, offer.id, (t) => ({ ...t, response: { ...t.response, [key]: value } }));
    return {
      label,
      value: response[key],
      scale: 100,
      step: 100,
      least: 0,
      most,
      unit: "%",
      tell: rate,
      set: (value: number) => change(make(value)),
      withValue: (value: number) => make(value)(plan),
    };
  };
  const unsound = (key: string) => problems.filter((one) => one.pointer === `/response/${key}`);
  return (
    <p className="text-small leading-relaxed">
      You expect{" "}
      {given.by !== "itself" && (
        <>
          <NumberWord
            title="How many shoppers hold the code"
            currency={frame}
            unsound={unsound("uptake_bp")}
            figure={figure("uptake_bp", "Share of shoppers", 10_000)}
          >
            {rate(response.uptake_bp)} of shoppers
          </NumberWord>{" "}
          to hold the code, and it to bring{" "}
        </>
      )}
      {given.by === "itself" && "it to bring "}
      <NumberWord
        title="Extra orders, as a share of those it reaches"
        currency={frame}
        unsound={unsound("extra_bp")}
        figure={figure("extra_bp", "Extra orders", 50_000)}
      >
        {rate(response.extra_bp)} more
      </NumberWord>{" "}
      of the orders it reaches.
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
