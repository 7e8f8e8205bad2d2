/** What shoppers pay for an option, as a word of its sentence: flat, by value, by weight, or the cost and something on top. */
import type { Charge, Frame } from "../../api/types";
import { kilograms, listed, money, rate } from "../../pieces/figures";
import { SavedNumber } from "../../pieces/saved-number";
import { Choices } from "../../pieces/words";
import { EditWord, KILOGRAMS, moneyBox, PERCENT, useShop } from "./saving";
import { Steps } from "./steps";

type Kind = Charge["kind"];

const KINDS: readonly (readonly [Kind, string])[] = [
  ["flat", "The same for every order"],
  ["by_value", "By the value of the goods"],
  ["by_weight", "By the weight of the goods"],
  ["cost_plus", "What it costs you, and something on top"],
];

const cash = (amount: number, frame: Frame) => (amount === 0 ? "nothing" : money(amount, frame));

export function chargeInWords(charge: Charge, frame: Frame): string {
  switch (charge.kind) {
    case "flat":
      return cash(charge.amount, frame);
    case "by_value":
      return listed([cash(charge.amount, frame), ...charge.steps.map((step) => `${cash(step.amount, frame)} from ${money(step.value, frame, { whole: true })}`)]);
    case "by_weight": {
      const beyond = charge.per_kilogram > 0 ? [`${money(charge.per_kilogram, frame)} for each kilogram more`] : [];
      return listed([...charge.steps.map((step) => `${cash(step.amount, frame)} up to ${kilograms(step.upto)}`), ...beyond]);
    }
    case "cost_plus": {
      const more = [...(charge.markup_bp ? [rate(charge.markup_bp)] : []), ...(charge.amount ? [money(charge.amount, frame)] : [])];
      return more.length ? `what it costs you and ${listed(more)} on top` : "just what it costs you";
    }
  }
}

/** A charge of another kind that begins where the old one stood. */
function turned(charge: Charge, kind: Kind, round: number): Charge {
  const amount = charge.kind === "by_weight" ? (charge.steps[0]?.amount ?? 0) : charge.amount;
  switch (kind) {
    case "flat":
      return { kind, amount };
    case "by_value":
      return { kind, amount, steps: [{ value: 50 * round, amount: Math.round(amount / 2) }] };
    case "by_weight":
      return { kind, steps: [{ upto: 5_000, amount }, { upto: 10_000, amount: amount + 2 * round }], per_kilogram: 0 };
    case "cost_plus":
      return { kind, markup_bp: 1_000, amount: 0 };
  }
}

export function ChargeWord({ charge, put }: { charge: Charge; put: (charge: Charge) => void }) {
  const { frame } = useShop();
  const round = frame.round_amount;
  const box = moneyBox(frame);
  return (
    <EditWord tall title="What shoppers pay" text={chargeInWords(charge, frame)} width={390}>
      <Choices label="How it is charged" value={charge.kind} options={KINDS} onChange={(kind) => kind !== charge.kind && put(turned(charge, kind, round))} />
      <div className="mt-2 border-t border-line pt-2">
        {charge.kind === "flat" && <SavedNumber showLabel mayBeEmpty={false} {...box} label="For an order" value={charge.amount} save={(amount) => amount !== null && put({ ...charge, amount })} />}
        {charge.kind === "by_value" && (
          <>
            <SavedNumber showLabel mayBeEmpty={false} {...box} label="Below the first step" value={charge.amount} save={(amount) => amount !== null && put({ ...charge, amount })} />
            <Steps
              label="Goods worth"
              before="from"
              box={{ ...box, step: round, least: 1, most: 2_000_000_000 }}
              steps={charge.steps.map(({ value, amount }) => ({ at: value, amount }))}
              put={(steps) => put({ ...charge, steps: steps.map(({ at, amount }) => ({ value: at ?? 1, amount })) })}
              next={(last) => ({ at: (last?.at ?? 0) + 25 * round, amount: Math.round((last?.amount ?? charge.amount) / 2) })}
            />
          </>
        )}
        {charge.kind === "by_weight" && (
          <>
            <Steps
              label="Goods weighing"
              before="up to"
              box={KILOGRAMS}
              steps={charge.steps.map(({ upto, amount }) => ({ at: upto, amount }))}
              put={(steps) => put({ ...charge, steps: steps.map(({ at, amount }) => ({ upto: at ?? 1, amount })) })}
              next={(last) => ({ at: (last?.at ?? 0) + 5_000, amount: (last?.amount ?? 0) + 2 * round })}
            />
            <SavedNumber showLabel mayBeEmpty={false} {...box} label="Then for each kilogram begun" value={charge.per_kilogram} save={(per_kilogram) => per_kilogram !== null && put({ ...charge, per_kilogram })} />
          </>
        )}
        {charge.kind === "cost_plus" && (
          <div className="flex gap-4">
            <SavedNumber showLabel mayBeEmpty={false} {...PERCENT} most={100_000} label="On top of the cost" value={charge.markup_bp} save={(markup_bp) => markup_bp !== null && put({ ...charge, markup_bp })} />
            <SavedNumber showLabel mayBeEmpty={false} {...box} label="and" value={charge.amount} save={(amount) => amount !== null && put({ ...charge, amount })} />
          </div>
        )}
      </div>
      <p className="mt-2 text-small text-soft">As shoppers see it; the curves take tax off it first.</p>
    </EditWord>
  );
}
