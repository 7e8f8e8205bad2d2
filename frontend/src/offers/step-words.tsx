/** Steps: from higher thresholds on, more is given. */
import type { Measured, Reward, Step, Terms } from "../api/types";
import { sizeInWords } from "../pieces/measures";
import { replaced } from "../pieces/lists";
import { thresholdFigure, type Change, type PartProps, type Say, type Slot, type Token } from "./part";
import { rewardsTokens, type RewardSlot } from "./reward-words";
import { Choices, ClauseWord, spot } from "../pieces/words";
import { NumberWord } from "./number-word";

const dropped = (at: number): Change => (t) => ({ ...t, steps: t.steps.toSpliced(at, 1) });

export function stepTokens(terms: Terms, say: Say): Token[] {
  const first = terms.earned.conditions[0];
  if (!first || first.kind === "only") return [];
  const tokens = terms.steps.flatMap((step, at): Token[] => {
    const slot: Slot<Step> = { path: `/steps/${at}`, value: step, put: (value) => (t) => ({ ...t, steps: replaced(t.steps, at, value) }) };
    const text = `from ${sizeInWords(first.kind, step.n, say.cash)} on`;
    const slotOf = (n: number): RewardSlot => ({
      path: `${slot.path}/gives/${n}`,
      value: step.gives[n]!,
      put: (value: Reward) => slot.put({ ...step, gives: replaced(step.gives, n, value) }),
      drop: step.gives.length > 1 ? slot.put({ ...step, gives: step.gives.toSpliced(n, 1) }) : null,
      inStep: true,
    });
    return [
      "; ",
      { key: `step ${at}`, text, word: (part) => <StepWord {...{ part, kind: first.kind, slot, text }} drop={() => part.edit(dropped(at))} /> },
      " ",
      ...rewardsTokens(step.gives, slotOf, terms, say, false),
    ];
  });
  if (terms.steps.length && [...terms.gives, ...terms.steps.flatMap((step) => step.gives)].every((one) => one.kind === "put_in")) {
    const text = terms.every_step ? "every step reached counts" : "the highest step alone counts";
    tokens.push(", ", {
      key: "every step",
      text,
      word: ({ edit, at }) => (
        <ClauseWord title="Which steps count" text={text} unsound={at("/every_step")}>
          <Choices
            label="Which steps count"
            value={terms.every_step ? "every" : "highest"}
            onChange={(next) => edit((t) => ({ ...t, every_step: next === "every" }))}
            options={[
              ["highest", "The highest step reached, alone"],
              ["every", "Every step reached"],
            ]}
          />
        </ClauseWord>
      ),
    });
  }
  return tokens;
}

interface StepProps {
  part: PartProps;
  kind: Measured["kind"];
  slot: Slot<Step>;
  text: string;
  drop: () => void;
}

function StepWord({ part, kind, slot, text, drop }: StepProps) {
  const size: Slot<number> = { path: `${slot.path}/n`, value: slot.value.n, put: (n) => slot.put({ ...slot.value, n }) };
  const figure = thresholdFigure(part, kind, size, { label: "From" });
  return (
    <NumberWord
      title="Where the step begins"
      currency={part.frame}
      figure={figure}
      unsound={spot(size.path, [...part.at(size.path), ...part.at(`${slot.path}/gives`).filter((one) => one.pointer === `${slot.path}/gives`)])}
      more={
        <button type="button" className="quiet justify-self-start" onClick={drop}>
          Take this step off
        </button>
      }
    >
      {text}
    </NumberWord>
  );
}
