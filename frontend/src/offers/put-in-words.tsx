/** Something put in the cart: a gift, one of several to choose from, or something more for a price. */
import type { Reward } from "../api/types";
import { listed, rate } from "../pieces/figures";
import { NumberBox } from "../pieces/number-box";
import { Slip } from "../pieces/slip";
import { amountFigure, countFigure, many, type PartProps, type Say, type Slot, type Token } from "./part";
import { Covered, nameOf, nameOfSku, ProductPicker } from "../pieces/product-picker";
import { KindChoice, type RewardSlot } from "./reward-words";
import { Faults, spot, Ticks, Word } from "../pieces/words";
import { NumberWord } from "./number-word";

type PutIn = Extract<Reward, { kind: "put_in" }>;

const MOST_NAMED = 2;

export function putInTokens(reward: PutIn, slot: RewardSlot, { cash, goods, full }: Say): Token[] {
  const quantity: Slot<number> = { path: `${slot.path}/quantity`, value: reward.quantity, put: (next) => slot.put({ ...reward, quantity: next }) };
  const asked: Slot<number> = { path: `${slot.path}/amount`, value: reward.amount, put: (next) => slot.put({ ...reward, amount: next }) };
  const names = [...reward.categories.map((name) => `any of ${name.toLowerCase()}`), ...reward.skus.map((sku) => (full ? `${nameOfSku(sku, goods)} (${sku})` : nameOfSku(sku, goods)))];
  const shown = names.length > MOST_NAMED && !full ? [...names.slice(0, MOST_NAMED - 1), `${names.length - MOST_NAMED + 1} more`] : names;
  const what = listed(shown, "or") || "…";
  const size = many(reward.quantity, "unit");
  const price = reward.amount === 0 ? "free" : `for ${cash(reward.amount)} each`;
  return [
    {
      key: `quantity ${slot.path}`,
      text: size,
      word: (part) => (
        <NumberWord
          title="How many are put in"
          currency={part.frame}
          figure={countFigure(part, quantity, { label: "Units", unit: "units", most: 1000 })}
          unsound={part.at(quantity.path)}
          more={<KindChoice {...{ slot, part }} />}
        >
          {size}
        </NumberWord>
      ),
    },
    " of ",
    { key: `what ${slot.path}`, text: what, word: (part) => <WhatWord {...{ reward, slot, part, text: what }} /> },
    " put in ",
    {
      key: `asked ${slot.path}`,
      text: price,
      word: (part) => (
        <NumberWord
          title="What is asked for it"
          currency={part.frame}
          figure={amountFigure(part, asked, { label: "Each costs the shopper", least: 0, tell: (n) => (n === 0 ? "free" : cash(n)) })}
          unsound={part.at(asked.path)}
        >
          {price}
        </NumberWord>
      ),
    },
  ];
}

/** So many goods are all offered as a substitute; of more, those alone that share a category with what is put in. */
const FEW = 300;

function WhatWord({ reward, slot, part, text }: { reward: PutIn; slot: RewardSlot; part: PartProps; text: string }) {
  const { goods, frame, edit, at } = part;
  const unsound = spot(`${slot.path}/skus`, ["skus", "categories", "shares_bp", "substitute"].flatMap((field) => at(`${slot.path}/${field}`)));
  const put = (change: Partial<PutIn>) => edit(slot.put({ ...reward, ...change }));
  const several = reward.skus.length > 1 && reward.categories.length === 0;
  const chosen = goods.filter((good) => reward.skus.includes(good.sku) || good.categories.some((name) => reward.categories.includes(name)));
  const alike = new Set(chosen.flatMap((good) => good.categories));
  const instead = goods.filter(
    (good) => !reward.skus.includes(good.sku) && (goods.length <= FEW || good.sku === reward.substitute || good.categories.some((name) => alike.has(name))),
  );
  return (
    <Slip title="What is put in" width={340} side="right" trigger={<Word unsound={unsound}>{text}</Word>}>
      <p className="text-small text-soft">Tick several to let shoppers choose one of them.</p>
      <ProductPicker goods={goods} skus={reward.skus} frame={frame} label="Products" onChange={(skus) => put({ skus, shares_bp: [] })} />
      <Ticks label="Or any product of" shown all={frame.categories} ticked={reward.categories} onChange={(categories) => put({ categories, shares_bp: [] })} />
      {several && <Shares {...{ reward, put, goods }} />}
      <label className="mt-2 block text-small text-soft">
        When stock ends, put in instead{" "}
        <select className="w-full" value={reward.substitute} onChange={(event) => put({ substitute: event.target.value })}>
          <option value="">nothing: the offer ends</option>
          {instead.map((good) => (
            <option key={good.sku} value={good.sku}>
              {nameOf(good)}
            </option>
          ))}
        </select>
      </label>
      <Covered goods={chosen} />
      <Faults of={unsound} />
    </Slip>
  );
}

/** How many shoppers choose each; the last one takes what is left. */
function Shares({ reward, put, goods }: { reward: PutIn; put: (change: Partial<PutIn>) => void; goods: PartProps["goods"] }) {
  const even = reward.skus.map((_, n) => Math.floor(10_000 / reward.skus.length) + (n < 10_000 % reward.skus.length ? 1 : 0));
  const shares = reward.shares_bp.length ? reward.shares_bp : even;
  const set = (at: number, value: number) => {
    const next = shares.map((share, n) => (n === at ? value : share));
    const rest = next.slice(0, -1).reduce((sum, share) => sum + share, 0);
    if (rest <= 10_000) put({ shares_bp: [...next.slice(0, -1), 10_000 - rest] });
  };
  return (
    <fieldset className="mt-2 grid gap-1">
      <legend className="text-small text-soft">How many shoppers choose each</legend>
      {reward.skus.map((sku, n) => (
        <div key={sku} className="flex items-center justify-between gap-2 ps-2">
          <span className="min-w-0 truncate">{nameOfSku(sku, goods)}</span>
          {n < reward.skus.length - 1 ? (
            <NumberBox label={`Share of ${nameOfSku(sku, goods)}`} hideLabel value={shares[n]!} scale={100} step={100} least={0} most={10_000} unit="%" width="4.5rem" onChange={(value) => set(n, value)} />
          ) : (
            <span>{rate(shares[n]!)}, the rest</span>
          )}
        </div>
      ))}
    </fieldset>
  );
}
