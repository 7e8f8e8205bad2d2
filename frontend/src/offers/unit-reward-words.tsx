/** Rewards that use units up: units for units bought, and sets. */
import type { Reward, Scope, SetPriceOf, Terms, UnitPriceOf } from "../api/types";
import { count, rate } from "../pieces/figures";
import { replaced } from "../pieces/lists";
import { amountFigure, countFigure, many, rateFigure, type PartProps, type Say, type Slot, type Token } from "./part";
import { KindChoice, type RewardSlot } from "./reward-words";
import { scopeToken } from "./scope-token";
import { Choices } from "../pieces/words";
import { NumberWord } from "./number-word";

type BuyGet = Extract<Reward, { kind: "buy_get" }>;
type GoodsSet = Extract<Reward, { kind: "goods_set" }>;
type Price = UnitPriceOf | SetPriceOf;

const ENDS = [
  ["cheapest", "The cheapest"],
  ["dearest", "The dearest"],
] as const;

export function buyGetTokens(reward: BuyGet, slot: RewardSlot, terms: Terms, say: Say): Token[] {
  const { cash } = say;
  const on: Slot<Scope> = { path: "/on", value: terms.on, put: (next) => (t) => ({ ...t, on: next }) };
  const of: Slot<Scope> = { path: `${slot.path}/of`, value: reward.of, put: (next) => slot.put({ ...reward, of: next }) };
  const given = `the ${reward.units_from} ${reward.get === 1 ? "unit" : `${count(reward.get)} units`}`;
  const tokens: Token[] = [
    {
      key: `get ${slot.path}`,
      text: given,
      word: (part) => {
        const get: Slot<number> = { path: `${slot.path}/get`, value: reward.get, put: (next) => slot.put({ ...reward, get: next }) };
        return (
          <NumberWord
            title="How many are given"
            currency={part.frame}
            figure={countFigure(part, get, { label: "Units given", unit: "units", most: 100 })}
            unsound={part.at(get.path)}
            more={
              <>
                <Choices label="Which of them" value={reward.units_from} options={ENDS} onChange={(units_from) => part.edit(slot.put({ ...reward, units_from }))} />
                <KindChoice {...{ slot, part }} />
              </>
            }
          >
            {given}
          </NumberWord>
        );
      },
    },
    " of ",
    scopeToken("Which goods are given", on, say),
    " ",
    price({ path: `${slot.path}/price`, value: reward.price, put: (next) => slot.put({ ...reward, price: next as UnitPriceOf }) }, cash),
  ];
  const buy: Slot<number> = { path: `${slot.path}/buy`, value: reward.buy, put: (next) => slot.put({ ...reward, buy: next }) };
  const bought = reward.buy === 0 ? "nothing else bought" : many(reward.buy, "unit");
  tokens.push(" for ", {
    key: `buy ${slot.path}`,
    text: bought,
    word: (part) => (
      <NumberWord
        title="How many have to be bought"
        currency={part.frame}
        figure={countFigure(part, buy, { label: "Units bought", unit: "units", least: 0, most: 100 })}
        unsound={part.at(buy.path)}
      >
        {bought}
      </NumberWord>
    ),
  });
  if (reward.buy > 0) tokens.push(" of ", scopeToken("Which goods have to be bought", of, say), " bought");
  return tokens;
}

export function setTokens(reward: GoodsSet, slot: RewardSlot, say: Say): Token[] {
  const { cash } = say;
  const parts = reward.parts.flatMap((one, n): Token[] => {
    const path = `${slot.path}/parts/${n}`;
    const put = (next: typeof one) => slot.put({ ...reward, parts: replaced(reward.parts, n, next) });
    const size: Slot<number> = { path: `${path}/count`, value: one.count, put: (value) => put({ ...one, count: value }) };
    const text = many(one.count, "unit");
    return [
      n > 0 ? " and " : "",
      {
        key: `part ${path}`,
        text,
        word: (part) => (
          <NumberWord
            title="Units of this part"
            currency={part.frame}
            figure={countFigure(part, size, { label: "Units", unit: "units", most: 100 })}
            unsound={part.at(size.path)}
            more={
              reward.parts.length > 1 && (
                <button type="button" className="quiet justify-self-start" onClick={() => part.edit(slot.put({ ...reward, parts: reward.parts.toSpliced(n, 1) }))}>
                  Take this part out of the set
                </button>
              )
            }
          >
            {text}
          </NumberWord>
        ),
      },
      " of ",
      scopeToken("Which goods are this part", { path: `${path}/of`, value: one.of, put: (of) => put({ ...one, of }) }, say),
    ];
  });
  const own = (part: PartProps) => (
    <>
      <Choices label="Which units join first" value={reward.units_from} options={ENDS} onChange={(units_from) => part.edit(slot.put({ ...reward, units_from }))} />
      <KindChoice {...{ slot, part }} />
    </>
  );
  return [
    ...parts,
    " together ",
    price({ path: `${slot.path}/price`, value: reward.price, put: (next) => slot.put({ ...reward, price: next as SetPriceOf }) }, cash, own),
  ];
}

const UNIT_PRICES = [
  ["percent_off", "a percentage off, or free"],
  ["amount_off_each", "an amount off each"],
  ["unit_price", "a price for each"],
] as const;
const SET_PRICES = [
  ["percent_off", "a percentage off"],
  ["amount_off", "an amount off"],
  ["set_price", "a price for the set"],
] as const;

function priceInWords(value: Price, cash: (amount: number) => string): string {
  switch (value.kind) {
    case "percent_off":
      return value.percent_bp === 10_000 ? "free" : `${rate(value.percent_bp)} off`;
    case "amount_off_each":
      return `${cash(value.amount)} off each`;
    case "unit_price":
      return `for ${cash(value.amount)} each`;
    case "amount_off":
      return `${cash(value.amount)} off`;
    case "set_price":
      return `for ${cash(value.amount)}`;
  }
}

/** At what price units are given, or a set; `own` is what else belongs to the word. */
function price(slot: Slot<Price>, cash: (amount: number) => string, own?: (part: PartProps) => React.ReactNode): Token {
  const { value } = slot;
  const text = priceInWords(value, cash);
  return {
    key: `price ${slot.path}`,
    text,
    word: (part) => {
      const field = value.kind === "percent_off" ? "percent_bp" : "amount";
      const size: Slot<number> = {
        path: `${slot.path}/${field}`,
        value: value.kind === "percent_off" ? value.percent_bp : value.amount,
        put: (next) => slot.put({ ...value, [field]: next } as Price),
      };
      const figure =
        value.kind === "percent_off"
          ? rateFigure(part, size, { label: "Percentage off" })
          : amountFigure(part, size, { label: value.kind.endsWith("price") ? "Price" : "Amount off", least: value.kind.endsWith("price") ? 0 : 1 });
      const kinds: readonly (readonly [Price["kind"], string])[] = own ? SET_PRICES : UNIT_PRICES;
      return (
        <NumberWord
          title="At what price"
          currency={part.frame}
          figure={figure}
          unsound={part.at(size.path)}
          more={
            <>
              <Choices label="How it is priced" value={value.kind} options={kinds} onChange={(kind) => part.edit(slot.put(newPrice(kind, part.round)))} />
              {own?.(part)}
            </>
          }
        >
          {text}
        </NumberWord>
      );
    },
  };
}

const newPrice = (kind: Price["kind"], round: number): Price => {
  if (kind === "percent_off") return { kind, percent_bp: 5_000, with_delivery: false };
  return { kind, amount: kind === "set_price" ? 30 * round : 2 * round };
};
