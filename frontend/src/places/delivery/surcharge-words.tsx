/** Words of a surcharge's sentence, and the editors behind them. */
import type { Condition, Frame, Named, Measured, Surcharge } from "../../api/types";
import { cash, listed, money, rate } from "../../pieces/figures";
import { changedAt } from "../../pieces/lists";
import { MEASURES, sizeInWords } from "../../pieces/measures";
import { SavedNumber } from "../../pieces/saved-number";
import { EVERYTHING, scopeInWords, ScopeWord } from "../../pieces/scope-word";
import { Choices } from "../../pieces/words";
import { EditWord, KILOGRAMS, moneyBox, PERCENT, useShop } from "./saving";

type Asks = Surcharge["asks"];
type Counted = Extract<Asks, { kind: "amount" }>["counted"];

const COUNTED: readonly (readonly [Counted, string])[] = [
  ["order", "an order"],
  ["parcel", "a parcel"],
  ["unit", "a unit"],
  ["kilogram", "a kilogram begun"],
  ["line", "a goods line"],
];

export interface SurchargeProps {
  surcharge: Surcharge;
  put: (part: Partial<Surcharge>) => void;
}

export function AsksWord({ surcharge: { asks }, put }: SurchargeProps) {
  const { frame } = useShop();
  const text = asks.kind === "amount" ? `${money(asks.amount, frame)} ${COUNTED.find(([key]) => key === asks.counted)![1]}` : `${rate(asks.rate_bp)} of the goods`;
  return (
    <EditWord title="How much is asked" text={text} width={300}>
      <Choices
        label="Counted by"
        value={asks.kind === "amount" ? asks.counted : "part"}
        options={[...COUNTED.map(([key, words]) => [key, `so much for ${words}`] as const), ["part", "a part of what the goods come to"] as const]}
        onChange={(next) => put({ asks: next === "part" ? { kind: "part_of_goods", rate_bp: 200 } : { kind: "amount", amount: asks.kind === "amount" ? asks.amount : frame.round_amount, counted: next } })}
      />
      <div className="mt-2 border-t border-line pt-2">
        {asks.kind === "amount" ? (
          <SavedNumber showLabel mayBeEmpty={false} {...moneyBox(frame)} label="Amount, as shoppers see it" value={asks.amount} save={(amount) => amount !== null && put({ asks: { ...asks, amount } })} />
        ) : (
          <SavedNumber showLabel mayBeEmpty={false} {...PERCENT} step={10} label="Part of the goods" value={asks.rate_bp} save={(rate_bp) => rate_bp !== null && put({ asks: { ...asks, rate_bp } })} />
        )}
      </div>
    </EditWord>
  );
}

export function OfWord({ surcharge: { of }, put }: SurchargeProps) {
  const { frame, goods } = useShop();
  return <ScopeWord title="Counting which goods" faint={scopeInWords(of, goods, "") === ""} text={scopeInWords(of, goods, "all goods")} scope={of} frame={frame} goods={goods} onChange={(next) => put({ of: next })} />;
}

export function ChoiceWord({ surcharge: { chosen_bp }, put }: SurchargeProps) {
  return (
    <EditWord title="Always, or by choice" text={chosen_bp == null ? "always" : `if the shopper wants it, as ${rate(chosen_bp)} do`}>
      <Choices
        label="Always, or by choice"
        value={chosen_bp == null ? "always" : "choice"}
        options={[
          ["always", "Always"],
          ["choice", "If the shopper wants it"],
        ]}
        onChange={(next) => put({ chosen_bp: next === "always" ? null : 1_000 })}
      />
      {chosen_bp != null && <SavedNumber showLabel mayBeEmpty={false} {...PERCENT} label="Shoppers who take it" value={chosen_bp} save={(next) => next !== null && put({ chosen_bp: next })} />}
    </EditWord>
  );
}

function boundInWords({ kind, n, bound }: Measured, frame: Frame): string {
  const size = sizeInWords(kind, n, (amount) => cash(amount, frame));
  return { at_least: `${size} or more`, over: `over ${size}`, at_most: `at most ${size}` }[bound];
}

function earnedInWords({ conditions, need, repeat }: Surcharge["earned"], frame: Frame, goods: Named[]): string {
  if (conditions.length === 0) return "for every cart";
  const told = conditions.map((one) => `${one.kind === "only" ? "nothing but" : `${boundInWords(one, frame)} of`} ${scopeInWords(one.of, goods, "anything")}`);
  return `${repeat === "each_time" ? "each time a cart reaches" : "for carts with"} ${listed(told, need === "all" ? "and" : "or")}`;
}

export function EarnedWord({ surcharge: { earned }, put }: SurchargeProps) {
  const { frame, goods } = useShop();
  const round = frame.round_amount;
  const change = (conditions: Condition[]) => put({ earned: { ...earned, conditions, repeat: conditions.length ? earned.repeat : "once" } });
  const swap = (at: number, part: Partial<Measured>) => change(changedAt(earned.conditions, at, part));
  /** The same condition on another measure, with a first figure of it. */
  const measuredIn = (kind: Measured["kind"], { bound, of }: Measured): Condition =>
    kind === "spend" ? { kind, n: 20 * round, bound, at: "net", of } : { kind, n: kind === "weight" ? 5_000 : 1, bound, of };
  const first: Condition = { kind: "spend", bound: "at_most", n: 20 * round, at: "net", of: EVERYTHING };
  const box = { spend: { ...moneyBox(frame), step: round, least: 1 }, weight: KILOGRAMS, units: WHOLE, products: WHOLE };
  return (
    <EditWord tall title="Which carts it is asked of" faint={earned.conditions.length === 0} text={earnedInWords(earned, frame, goods)} width={420}>
      {earned.conditions.map((one, n) => (
        <div key={n} className="mb-2 grid gap-1 border-b border-line pb-2">
          {one.kind === "only" ? (
            <span>Nothing in the cart but</span>
          ) : (
            <div className="flex flex-wrap items-baseline gap-2">
              <select aria-label="Measured in" value={one.kind} onChange={(event) => change(earned.conditions.with(n, measuredIn(event.target.value as Measured["kind"], one)))}>
                {MEASURES.map(([kind, words]) => (
                  <option key={kind} value={kind}>
                    {words}
                  </option>
                ))}
              </select>
              <select aria-label="Which side counts" value={one.bound} onChange={(event) => swap(n, { bound: event.target.value as Measured["bound"] })}>
                <option value="at_least">at least</option>
                <option value="over">over</option>
                <option value="at_most">at most</option>
              </select>
              <SavedNumber mayBeEmpty={false} {...box[one.kind]} label="How much" value={one.n} save={(size) => size !== null && swap(n, { n: size })} />
            </div>
          )}
          <span>
            of <ScopeWord title="Of which goods" text={scopeInWords(one.of, goods, "anything")} scope={one.of} frame={frame} goods={goods} onChange={(of) => swap(n, { of })} />
            <button type="button" className="quiet ms-4 text-small" onClick={() => change(earned.conditions.toSpliced(n, 1))}>
              Take this off
            </button>
          </span>
        </div>
      ))}
      <button type="button" className="quiet text-small" onClick={() => change([...earned.conditions, first])}>
        Add a condition
      </button>
      {earned.conditions.length > 1 && (
        <Choices
          inRow
          label="How many of them"
          value={earned.need}
          options={[
            ["all", "All of them"],
            ["any", "Any of them"],
          ]}
          onChange={(need) => put({ earned: { ...earned, need } })}
        />
      )}
      {earned.conditions.length > 0 && (
        <Choices
          inRow
          label="How often"
          value={earned.repeat}
          options={[
            ["once", "Once an order"],
            ["each_time", "Each time"],
          ]}
          onChange={(repeat) => put({ earned: { ...earned, repeat } })}
        />
      )}
    </EditWord>
  );
}

const WHOLE = { scale: 1, step: 1, least: 1, most: 1_000_000, unit: "", width: "5rem" };
