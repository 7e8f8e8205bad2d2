/** What an offer gives, and how far it goes on one order, as words of its sentence. */
import type { Limits, Reward, RewardKind, Terms } from "../../api/types";
import { count, rate } from "../../pieces/figures";
import { isGoods, newReward, replaced } from "./offers";
import { LARGEST, type PartProps } from "./part";
import { ScopeWord } from "./scope-word";
import { Choices, NumberWord, ZonesWord } from "./words";

const KINDS: readonly (readonly [RewardKind, string])[] = [
  ["percent_off", "a percentage off goods"],
  ["amount_off", "an amount off goods"],
  ["amount_off_each", "an amount off each unit"],
  ["unit_price", "a price for each unit"],
  ["delivery_lowered_to", "free delivery, or delivery for less"],
  ["delivery_amount_off", "an amount off delivery"],
  ["delivery_percent_off", "a percentage off delivery"],
];

interface RewardProps extends PartProps {
  reward: Reward;
  n: number;
}

function rewardInWords(reward: Reward, cash: (amount: number) => string): string {
  switch (reward.kind) {
    case "percent_off":
      return `${rate(reward.percent_bp)} off`;
    case "amount_off":
      return `${cash(reward.amount)} off`;
    case "amount_off_each":
      return `${cash(reward.amount)} off each`;
    case "unit_price":
      return `a price of ${cash(reward.amount)} each`;
    case "delivery_percent_off":
      return `${rate(reward.percent_bp)} off delivery`;
    case "delivery_amount_off":
      return `${cash(reward.amount)} off delivery`;
    case "delivery_lowered_to":
      return reward.amount === 0 ? "free delivery" : `delivery for ${cash(reward.amount)}`;
  }
}

export function RewardWords({ reward, n, terms, frame, edit, variant, unit, cash, at }: RewardProps) {
  const set = (next: Reward) => (t: Terms) => ({ ...t, gives: replaced(t.gives, n, next) });
  const figure =
    "percent_bp" in reward
      ? {
          label: "Percentage off",
          value: reward.percent_bp,
          scale: 100,
          step: 100,
          least: 1,
          most: 10_000,
          unit: "%",
          tell: rate,
          set: (percent_bp: number) => edit(set({ ...reward, percent_bp })),
          withValue: (percent_bp: number) => variant(set({ ...reward, percent_bp })),
        }
      : {
          label:
            reward.kind === "delivery_lowered_to"
              ? "Delivery costs the shopper"
              : reward.kind === "unit_price"
                ? "Each costs the shopper"
                : "Amount off",
          value: reward.amount,
          scale: unit,
          step: Math.max(1, unit / 2),
          least: ["delivery_lowered_to", "unit_price"].includes(reward.kind) ? 0 : 1,
          most: LARGEST,
          unit: frame.currency,
          digits: frame.minor_digits,
          tell: (amount: number) => (amount === 0 ? "free" : cash(amount)),
          set: (amount: number) => edit(set({ ...reward, amount })),
          withValue: (amount: number) => variant(set({ ...reward, amount })),
        };
  const firstGoods = terms.gives.findIndex(isGoods);
  return (
    <>
      <NumberWord
        title="What shoppers get"
        currency={frame}
        figure={figure}
        unsound={at(`/gives/${n}/percent_bp`).concat(at(`/gives/${n}/amount`))}
        more={
          <div className="mt-2 border-t border-line pt-2">
            <Choices label="What kind" value={reward.kind} options={KINDS} onChange={(kind) => edit(set(newReward(kind, unit)))} />
            {terms.gives.length > 1 && (
              <button type="button" className="quiet mt-1" onClick={() => edit((t) => ({ ...t, gives: t.gives.toSpliced(n, 1) }))}>
                Take this off the offer
              </button>
            )}
          </div>
        }
      >
        {rewardInWords(reward, cash)}
      </NumberWord>
      {isGoods(reward) && n === firstGoods && (
        <>
          {{ amount_off_each: " of ", unit_price: " for " }[reward.kind as string] ?? " "}
          <ScopeWord
            title="Off which goods"
            scope={terms.on}
            frame={frame}
            unsound={at("/on")}
            onChange={(on) => edit((t) => ({ ...t, on }))}
          />
        </>
      )}
      {isGoods(reward) && n !== firstGoods && ({ amount_off_each: " of", unit_price: " for" }[reward.kind as string] ?? "") + " the same goods"}
      {"zones" in reward && (
        <>
          {reward.zones.length ? " to " : " "}
          <ZonesWord
            zones={reward.zones}
            all={frame.zones}
            unsound={at(`/gives/${n}/zones`)}
            onChange={(zones) => edit(set({ ...reward, zones }))}
          />
        </>
      )}
    </>
  );
}

/** How far the offer goes on one order; nothing where nothing limits it. */
export function LimitWords({ terms, frame, unit, cash, edit, variant, at }: PartProps) {
  const { limits } = terms;
  const put = (part: Partial<Limits>) => (t: Terms): Terms => ({ ...t, limits: { ...t.limits, ...part } });
  const word = (key: "amount" | "units" | "times", words: (value: number) => string) => {
    const value = limits[key];
    if (value == null) return null;
    const isMoney = key === "amount";
    return (
      <>
        {", "}
        <NumberWord
          title="At most, on one order"
          currency={frame}
          unsound={at(`/limits/${key}`)}
          figure={{
            label: "At most",
            value,
            scale: isMoney ? unit : 1,
            step: isMoney ? unit : 1,
            least: 1,
            most: LARGEST,
            unit: isMoney ? frame.currency : key,
            digits: isMoney ? frame.minor_digits : 0,
            tell: words,
            set: (next) => edit(put({ [key]: next })),
            withValue: (next) => variant(put({ [key]: next })),
          }}
          more={
            <div className="mt-2 border-t border-line pt-2">
              {key === "units" && (
                <Choices
                  label="Which first"
                  value={limits.units_from}
                  onChange={(units_from) => edit(put({ units_from }))}
                  options={[
                    ["cheapest", "The cheapest first"],
                    ["dearest", "The dearest first"],
                  ]}
                />
              )}
              <button type="button" className="quiet mt-1" onClick={() => edit(put({ [key]: null }))}>
                No such limit
              </button>
            </div>
          }
        >
          {words(value)}
        </NumberWord>
      </>
    );
  };
  return (
    <>
      {word("units", (value) => (value === 1 ? `on the ${limits.units_from} unit` : `on the ${limits.units_from} ${count(value)} units`))}
      {word("times", (value) => `at most ${count(value)} ${value === 1 ? "time" : "times"}`)}
      {word("amount", (value) => `at most ${cash(value)} an order`)}
    </>
  );
}
