/** How far an offer goes: on one order, by one shopper, and in all. */
import type { Limits, Terms } from "../api/types";
import { count } from "../pieces/figures";
import { amountFigure, countFigure, type Say, type Slot, type Token } from "./part";
import { Choices } from "../pieces/words";
import { NumberWord } from "./number-word";

type Limit = Exclude<keyof Limits, "units_from">;

const MONEY: Limit[] = ["amount", "spending"];

export function limitTokens({ limits }: Terms, { cash }: Say): Token[] {
  const words: [Limit, (value: number) => string][] = [
    ["units", (n) => (n === 1 ? `on the ${limits.units_from} unit` : `on the ${limits.units_from} ${count(n)} units`)],
    ["times", (n) => `at most ${count(n)} ${n === 1 ? "time" : "times"}`],
    ["amount", (n) => `at most ${cash(n)} an order`],
    ["uses_per_shopper", (n) => (n === 1 ? "once per shopper" : `${count(n)} times per shopper`)],
    ["uses", (n) => `${count(n)} times in all`],
    ["spending", (n) => `until ${cash(n)} is given away`],
  ];
  return words.flatMap(([key, tell]) => {
    const value = limits[key];
    return value == null ? [] : [", ", limitToken(key, value, tell)];
  });
}

const limitToken = (key: Limit, value: number, tell: (value: number) => string): Token => ({
  key: `limit ${key}`,
  text: tell(value),
  word: (part) => {
    const put = (change: Partial<Limits>) => (t: Terms): Terms => ({ ...t, limits: { ...t.limits, ...change } });
    const slot: Slot<number> = { path: `/limits/${key}`, value, put: (next) => put({ [key]: next }) };
    const overTime = ["uses_per_shopper", "uses", "spending"].includes(key);
    return (
      <NumberWord
        title={overTime ? "At most, over the plan" : "At most, on one order"}
        currency={part.frame}
        unsound={part.at(slot.path)}
        figure={
          MONEY.includes(key)
            ? amountFigure(part, slot, { label: "At most", step: part.round, tell })
            : countFigure(part, slot, { label: "At most", unit: key === "units" ? "units" : "times", tell })
        }
        more={
          <>
            {key === "units" && (
              <Choices
                label="Which first"
                value={part.terms.limits.units_from}
                onChange={(units_from) => part.edit(put({ units_from }))}
                options={[
                  ["cheapest", "The cheapest first"],
                  ["dearest", "The dearest first"],
                ]}
              />
            )}
            <button type="button" className="quiet justify-self-start" onClick={() => part.edit(put({ [key]: null }))}>
              No such limit
            </button>
          </>
        }
      >
        {tell(value)}
      </NumberWord>
    );
  },
});
