/** What an offer gives, as words of its sentence. */
import type { Reward, RewardKind, Scope, Terms } from "../api/types";
import { kilograms, listed, rate } from "../pieces/figures";
import { Slip } from "../pieces/slip";
import { newReward } from "../pieces/new-parts";
import { picks } from "./offers";
import { amountFigure, rateFigure, weightFigure, type Change, type PartProps, type Say, type Slot, type Token } from "./part";
import { putInTokens } from "./put-in-words";
import { scopeToken } from "./scope-token";
import { buyGetTokens, setTokens } from "./unit-reward-words";
import { Choices, ClauseWord, Faults, Ticks, Word } from "../pieces/words";
import { NumberWord } from "./number-word";

const KINDS: readonly (readonly [RewardKind, string])[] = [
  ["percent_off", "a percentage off goods"],
  ["amount_off", "an amount off goods"],
  ["amount_off_each", "an amount off each unit"],
  ["unit_price", "a price for each unit"],
  ["buy_get", "units for units bought"],
  ["goods_set", "a set for less"],
  ["put_in", "something put in"],
  ["delivery_lowered_to", "free delivery, or delivery for less"],
  ["delivery_amount_off", "an amount off delivery"],
  ["delivery_percent_off", "a percentage off delivery"],
];
/** Kinds a step may rise with. */
const STEP_KINDS = KINDS.filter(([kind]) => kind !== "buy_get" && kind !== "goods_set");

export interface RewardSlot extends Slot<Reward> {
  /** Takes the reward off; null where it is the last one. */
  drop: Change | null;
  inStep: boolean;
}

/** All rewards of a list, joined by "and". goods: says which goods, the first time they are named. */
export function rewardsTokens(list: Reward[], slotOf: (n: number) => RewardSlot, terms: Terms, say: Say, namesGoods: boolean): Token[] {
  const firstOnGoods = list.findIndex(picks);
  return list.flatMap((_, n) => [n > 0 ? " and " : "", ...rewardTokens(slotOf(n), terms, say, namesGoods && n === firstOnGoods)]);
}

function rewardTokens(slot: RewardSlot, terms: Terms, say: Say, namesGoods: boolean): Token[] {
  const reward = slot.value;
  switch (reward.kind) {
    case "buy_get":
      return buyGetTokens(reward, slot, terms, say);
    case "goods_set":
      return setTokens(reward, slot, say);
    case "put_in":
      return putInTokens(reward, slot, say);
  }
  const tokens: Token[] = [howMuch(reward, slot, say.cash)];
  if (!("zones" in reward)) return [...tokens, ...offWhat(reward, terms, say, namesGoods, slot)];
  tokens.push(reward.zones.length ? " to " : " ", zones(reward, slot));
  if (reward.options.length > 0 || say.held === `options ${slot.path}`) tokens.push(", ", options(reward, slot));
  if (reward.below_weight != null) tokens.push(", for parcels ", belowWeight(reward, slot));
  return tokens;
}

type Plain = Exclude<Reward, { kind: "buy_get" | "goods_set" | "put_in" }>;
type OnDelivery = Extract<Reward, { zones: string[] }>;

function rewardInWords(reward: Plain, cash: (amount: number) => string): string {
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

const howMuch = (reward: Plain, slot: RewardSlot, cash: (amount: number) => string): Token => {
  const text = rewardInWords(reward, cash);
  return {
    key: `reward ${slot.path}`,
    text,
    word: (part) => {
      const field = "percent_bp" in reward ? "percent_bp" : "amount";
      const size: Slot<number> = {
        path: `${slot.path}/${field}`,
        value: "percent_bp" in reward ? reward.percent_bp : reward.amount,
        put: (value) => slot.put({ ...reward, [field]: value } as Reward),
      };
      const lowest = reward.kind === "delivery_lowered_to" || reward.kind === "unit_price" ? 0 : 1;
      const label = { delivery_lowered_to: "Delivery costs the shopper", unit_price: "Each costs the shopper" }[reward.kind as string];
      const figure =
        field === "percent_bp"
          ? rateFigure(part, size, { label: "Percentage off" })
          : amountFigure(part, size, { label: label ?? "Amount off", least: lowest, tell: (n) => (n === 0 ? "free" : cash(n)) });
      return (
        <NumberWord title="What shoppers get" currency={part.frame} figure={figure} unsound={part.at(size.path)} more={<KindChoice {...{ slot, part }} />}>
          {text}
        </NumberWord>
      );
    },
  };
};

/** Turns a reward into one of another kind, or takes it off. */
export function KindChoice({ slot, part }: { slot: RewardSlot; part: PartProps }) {
  const { terms, goods, frame, round, edit } = part;
  const some: Scope = { ...terms.on, categories: terms.on.categories.length ? terms.on.categories : frame.categories.slice(0, 1) };
  const gift = goods.find((good) => good.list_price != null)?.sku ?? "";
  return (
    <>
      <label className="text-small text-soft">
        Kind{" "}
        <select
          aria-label="What kind"
          value={slot.value.kind}
          onChange={({ target }) => {
            const kind = target.value as RewardKind;
            const unitReward = kind === "buy_get" || kind === "goods_set";
            edit((t) => {
              const next = slot.put(newReward(kind, round, some, gift))(t);
              const repeat = unitReward && next.earned.conditions.length === 0 ? "each_time" : next.earned.repeat;
              return { ...next, earned: { ...next.earned, repeat } };
            });
          }}
        >
          {(slot.inStep ? STEP_KINDS : KINDS).map(([kind, words]) => (
            <option key={kind} value={kind}>
              {words}
            </option>
          ))}
        </select>
      </label>
      {slot.drop && (
        <button type="button" className="quiet justify-self-start" onClick={() => edit(slot.drop!)}>
          Take this off the offer
        </button>
      )}
    </>
  );
}

function offWhat(reward: Plain, terms: Terms, say: Say, namesGoods: boolean, slot: RewardSlot): Token[] {
  const link = { amount_off_each: " of ", unit_price: " for " }[reward.kind as string] ?? " ";
  const on: Slot<Scope> = { path: "/on", value: terms.on, put: (next) => (t) => ({ ...t, on: next }) };
  const tokens: Token[] = namesGoods ? [link, scopeToken("Off which goods", on, say)] : slot.inStep ? [] : [`${link}the same goods`];
  if (reward.kind !== "percent_off" || !reward.with_delivery) return tokens;
  return [
    ...tokens,
    " and ",
    {
      key: `delivery ${slot.path}`,
      text: "delivery",
      word: ({ edit, at }) => (
        <ClauseWord title="Off delivery too" text="delivery" unsound={at(`${slot.path}/with_delivery`)} drop={() => edit(slot.put({ ...reward, with_delivery: false }))}>
          <p>The percentage comes off the delivery charge as well.</p>
        </ClauseWord>
      ),
    },
  ];
}

const zones = (reward: OnDelivery, slot: RewardSlot): Token => {
  const everywhere = reward.zones.length === 0;
  const text = everywhere ? "everywhere" : listed(reward.zones);
  return {
    key: `zones ${slot.path}`,
    text,
    word: ({ frame, edit, at }) => {
      const unsound = at(`${slot.path}/zones`);
      const put = (names: string[]) => edit(slot.put({ ...reward, zones: names }));
      return (
        <Slip title="To which zones" width={260} trigger={<Word unsound={unsound}>{text}</Word>}>
          <Choices
            label="Zones"
            value={everywhere ? "all" : "some"}
            onChange={(mode) => put(mode === "all" ? [] : frame.zones.slice(0, 1))}
            options={[
              ["all", "Everywhere"],
              ["some", "Only to"],
            ]}
          />
          {!everywhere && <Ticks label="Zones" all={frame.zones} ticked={reward.zones} onChange={(names) => names.length && put(names)} />}
          <Faults of={unsound} />
        </Slip>
      );
    },
  };
};

const options = (reward: OnDelivery, slot: RewardSlot): Token => {
  const text = reward.options.length ? `sent as ${listed(reward.options, "or")}` : "however it is sent";
  return {
    key: `options ${slot.path}`,
    text,
    word: ({ frame, edit, at, hold }) => {
      const unsound = at(`${slot.path}/options`);
      const put = (names: string[]) => edit(slot.put({ ...reward, options: names }));
      return (
        <ClauseWord title="By which delivery options" text={text} unsound={unsound} width={300} onOpenChange={(open) => hold(open ? `options ${slot.path}` : null)} drop={() => put([])}>
          <Ticks label="Delivery options" all={frame.options} ticked={reward.options} onChange={put} />
        </ClauseWord>
      );
    },
  };
};

const belowWeight = (reward: OnDelivery, slot: RewardSlot): Token => {
  const text = `below ${kilograms(reward.below_weight ?? 0)}`;
  return {
    key: `weight ${slot.path}`,
    text,
    word: (part) => {
      const size: Slot<number> = {
        path: `${slot.path}/below_weight`,
        value: reward.below_weight ?? 0,
        put: (below_weight) => slot.put({ ...reward, below_weight }),
      };
      return (
        <NumberWord
          title="Only for lighter carts"
          currency={part.frame}
          figure={weightFigure(part, size, { label: "Below" })}
          unsound={part.at(size.path)}
          more={
            <button type="button" className="quiet justify-self-start" onClick={() => part.edit(slot.put({ ...reward, below_weight: null }))}>
              Whatever they weigh
            </button>
          }
        >
          {text}
        </NumberWord>
      );
    },
  };
};
