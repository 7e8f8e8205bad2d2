/** What earns an offer, as words of its sentence. */
import { Fragment } from "react";

import type { Bound, Condition, ConditionKind, Terms } from "../../api/types";
import { count } from "../../pieces/figures";
import { canRepeat, newCondition, replaced } from "./offers";
import { LARGEST, type PartProps } from "./part";
import { ScopeWord } from "./scope-word";
import { Choices, NumberWord, Word } from "./words";

const MEASURES: readonly (readonly [ConditionKind, string])[] = [
  ["spend", "money spent"],
  ["units", "units"],
  ["weight", "weight"],
  ["products", "different products"],
];
const BOUNDS: readonly (readonly [Bound, string])[] = [
  ["at_least", "or more"],
  ["over", "more than that"],
  ["at_most", "at most that"],
];

function conditionInWords({ kind, n, bound }: Condition, each: boolean, cash: (amount: number) => string): string {
  const size = {
    spend: cash(n),
    units: `${count(n)} ${n === 1 ? "unit" : "units"}`,
    weight: `${count(n / 1000, 3)} kg`,
    products: `${count(n)} different ${n === 1 ? "product" : "products"}`,
  }[kind];
  if (bound === "at_most") return `at most ${size}`;
  if (bound === "over") return each ? `every ${size} once over that` : `over ${size}`;
  if (each) return `every ${size}`;
  return kind === "units" || kind === "products" ? size.replace(" ", " or more ") : `${size} or more`;
}

/** What earns the offer: each condition a word for how much, and a word for of what. */
export function EarnedWords({ terms, frame, unit, cash, edit, variant, at }: PartProps) {
  const { conditions, repeat, need } = terms.earned;
  if (conditions.length === 0) return "Every cart gets ";
  const each = repeat === "each_time";
  const put = (n: number, part: Partial<Condition>) => (t: Terms): Terms => ({
    ...t,
    earned: {
      ...t.earned,
      conditions: replaced(t.earned.conditions, n, { ...t.earned.conditions[n]!, ...part } as Condition),
    },
  });
  const drop = (n: number) =>
    edit((t) => ({ ...t, earned: { ...t.earned, conditions: t.earned.conditions.toSpliced(n, 1) } }));
  const scaled = (kind: ConditionKind) =>
    ({
      spend: { scale: unit, step: unit, unit: frame.currency, digits: frame.minor_digits },
      units: { scale: 1, step: 1, unit: "units" },
      weight: { scale: 1000, step: 500, unit: "kg" },
      products: { scale: 1, step: 1, unit: "products" },
    })[kind];
  return (
    <>
      {each ? "For " : "Carts with "}
      {conditions.map((condition, n) => (
        <Fragment key={n}>
          {n > 0 && (
            <>
              {" "}
              <Word
                title="Click: and, or"
                onClick={() => edit((t) => ({ ...t, earned: { ...t.earned, need: need === "all" ? "any" : "all" } }))}
              >
                {need === "all" ? "and" : "or"}
              </Word>{" "}
            </>
          )}
          <NumberWord
            title="How much it takes"
            currency={frame}
            unsound={at(`/earned/conditions/${n}/n`)}
            figure={{
              ...scaled(condition.kind),
              label: "How much",
              value: condition.n,
              least: 1,
              most: LARGEST,
              tell: (value) => conditionInWords({ ...condition, n: value }, false, cash),
              set: (value) => edit(put(n, { n: value })),
              withValue: (value) => variant(put(n, { n: value })),
            }}
            more={
              <div className="mt-2 grid gap-2 border-t border-line pt-2">
                <div className="flex gap-2">
                  <select
                    aria-label="Measured in"
                    value={condition.kind}
                    onChange={(event) => {
                      const kind = event.target.value as ConditionKind;
                      edit(put(n, { ...newCondition(kind, unit, condition.of), bound: condition.bound }));
                    }}
                  >
                    {MEASURES.map(([kind, words]) => (
                      <option key={kind} value={kind}>
                        {words}
                      </option>
                    ))}
                  </select>
                  <select
                    aria-label="Which side counts"
                    value={condition.bound}
                    onChange={(event) => edit(put(n, { bound: event.target.value as Bound }))}
                  >
                    {BOUNDS.map(([bound, words]) => (
                      <option key={bound} value={bound}>
                        {words}
                      </option>
                    ))}
                  </select>
                </div>
                {n === 0 && canRepeat(terms) && (
                  <Choices
                    label="How often"
                    value={repeat}
                    onChange={(next) => edit((t) => ({ ...t, earned: { ...t.earned, repeat: next } }))}
                    options={[
                      ["once", "Once an order"],
                      ["each_time", "Each time it is reached"],
                    ]}
                  />
                )}
                <button type="button" className="quiet justify-self-start" onClick={() => drop(n)}>
                  {conditions.length > 1 ? "Take this condition off" : "No minimum"}
                </button>
              </div>
            }
          >
            {conditionInWords(condition, each, cash)}
          </NumberWord>{" "}
          of{" "}
          <ScopeWord
            title="Of which goods"
            everything="anything"
            scope={condition.of}
            frame={frame}
            unsound={at(`/earned/conditions/${n}/of`)}
            onChange={(of) => edit(put(n, { of }))}
          />
        </Fragment>
      ))}
      {each ? ", a cart gets " : " get "}
    </>
  );
}
