/** An offer as a sentence. The sentence is the only editor: every part that can be set is a word in it. */
import { DropdownMenu } from "radix-ui";
import { Fragment, type ReactNode } from "react";

import type { FieldProblem, Frame, OfferDoc, Plan, Reward, RewardKind, Terms } from "../../api/types";
import { money, rate } from "../../pieces/figures";
import { EVERYTHING, isGoods, newReward, newSpend, replaced, withTerms } from "./offers";
import { Choices, GivenWord, NumberWord, ScopeWord, WhenWord, ZonesWord } from "./words";

export interface SentenceProps {
  offer: OfferDoc;
  plan: Plan;
  frame: Frame;
  problems: FieldProblem[];
  change: (make: (plan: Plan) => Plan) => void;
}

const KINDS: readonly (readonly [RewardKind, string])[] = [
  ["percent_off", "a percentage off goods"],
  ["amount_off", "an amount off goods"],
  ["delivery_lowered_to", "free delivery, or delivery for less"],
  ["delivery_amount_off", "an amount off delivery"],
  ["delivery_percent_off", "a percentage off delivery"],
];

const LARGEST = 100_000_000;

export function Sentence({ offer, plan, frame, problems, change }: SentenceProps) {
  const { terms } = offer;
  const unit = 10 ** frame.minor_digits;
  const cash = (amount: number) => money(amount, frame, { whole: amount % unit === 0 });
  const edit = (make: (terms: Terms) => Terms) => change((before) => withTerms(before, offer.id, make));
  const variant = (make: (terms: Terms) => Terms) => withTerms(plan, offer.id, make);
  const at = (path: string) => problems.filter((one) => one.pointer.startsWith(path));
  const { conditions, repeat } = terms.earned;

  const withSpend = (n: number, at_least: number) => (t: Terms) => ({
    ...t,
    earned: { ...t.earned, conditions: replaced(t.earned.conditions, n, { ...t.earned.conditions[n]!, at_least }) },
  });
  const dropSpend = (n: number) =>
    edit((t) => ({ ...t, earned: { ...t.earned, conditions: t.earned.conditions.toSpliced(n, 1) } }));

  const threshold = (n: number): ReactNode => {
    const condition = conditions[n]!;
    const each = repeat === "each_time";
    return (
      <NumberWord
        title="How much has to be spent"
        currency={frame}
        unsound={at(`/earned/conditions/${n}/at_least`)}
        figure={{
          label: "At least",
          value: condition.at_least,
          scale: unit,
          step: unit,
          least: 1,
          most: LARGEST,
          unit: frame.currency,
          digits: frame.minor_digits,
          tell: cash,
          set: (value) => edit(withSpend(n, value)),
          withValue: (value) => variant(withSpend(n, value)),
        }}
        more={
          <div className="mt-2 border-t border-line pt-2">
            {n === 0 && terms.gives.some((reward) => reward.kind === "amount_off") && (
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
            <button type="button" className="quiet mt-1" onClick={() => dropSpend(n)}>
              {conditions.length > 1 ? "Take this condition off" : "No minimum"}
            </button>
          </div>
        }
      >
        {each ? `every ${cash(condition.at_least)}` : `${cash(condition.at_least)} or more`}
      </NumberWord>
    );
  };

  const over = (n: number): ReactNode => {
    const condition = conditions[n]!;
    return (
      <ScopeWord
        title="Spent on which goods"
        everything="anything"
        scope={condition.over}
        all={frame.categories}
        unsound={at(`/earned/conditions/${n}/over`)}
        onChange={(scope) =>
          edit((t) => ({
            ...t,
            earned: { ...t.earned, conditions: replaced(t.earned.conditions, n, { ...t.earned.conditions[n]!, over: scope }) },
          }))
        }
      />
    );
  };

  const opening = (): ReactNode => {
    if (conditions.length === 0) return "Every cart gets ";
    const spent = conditions.map((_, n) => (
      <Fragment key={n}>
        {n > 0 && " and "}
        {threshold(n)} of {over(n)}
      </Fragment>
    ));
    return repeat === "each_time" ? <>For {spent}, a cart gets </> : <>Carts with {spent} get </>;
  };

  return (
    <p className="text-sentence">
      {opening()}
      {terms.gives.map((reward, n) => (
        <Fragment key={n}>
          {n > 0 && " and "}
          <RewardWords {...{ reward, n, terms, frame, edit, variant, unit, cash, at }} />
        </Fragment>
      ))}
      {", "}
      <GivenWord given={terms.given} unsound={at("/given")} onChange={(given) => edit((t) => ({ ...t, given }))} />
      {", "}
      <WhenWord when={terms.when as { first_day: string | null; last_day: string | null }} plan={plan} unsound={at("/when")} onChange={(when) => edit((t) => ({ ...t, when }))} />
      {". "}
      <AndAlso terms={terms} frame={frame} unit={unit} edit={edit} />
    </p>
  );
}

interface RewardProps {
  reward: Reward;
  n: number;
  terms: Terms;
  frame: Frame;
  edit: (make: (terms: Terms) => Terms) => void;
  variant: (make: (terms: Terms) => Terms) => Plan;
  unit: number;
  cash: (amount: number) => string;
  at: (path: string) => FieldProblem[];
}

function rewardInWords(reward: Reward, cash: (amount: number) => string): string {
  switch (reward.kind) {
    case "percent_off":
      return `${rate(reward.percent_bp)} off`;
    case "amount_off":
      return `${cash(reward.amount)} off`;
    case "delivery_percent_off":
      return `${rate(reward.percent_bp)} off delivery`;
    case "delivery_amount_off":
      return `${cash(reward.amount)} off delivery`;
    case "delivery_lowered_to":
      return reward.amount === 0 ? "free delivery" : `delivery for ${cash(reward.amount)}`;
  }
}

function RewardWords({ reward, n, terms, frame, edit, variant, unit, cash, at }: RewardProps) {
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
          label: reward.kind === "delivery_lowered_to" ? "Delivery costs the shopper" : "Amount off",
          value: reward.amount,
          scale: unit,
          step: Math.max(1, unit / 2),
          least: reward.kind === "delivery_lowered_to" ? 0 : 1,
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
          {" "}
          <ScopeWord
            title="Off which goods"
            scope={terms.on}
            all={frame.categories}
            unsound={at("/on")}
            onChange={(on) => edit((t) => ({ ...t, on }))}
          />
        </>
      )}
      {isGoods(reward) && n !== firstGoods && " the same goods"}
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

/** Adds a clause; offers only what the sentence does not have yet. */
function AndAlso({ terms, frame, unit, edit }: Pick<RewardProps, "terms" | "frame" | "unit" | "edit">) {
  const spends = terms.earned.conditions;
  const additions: [string, (t: Terms) => Terms][] = [];
  const addSpend = (over = EVERYTHING) => (t: Terms): Terms => ({
    ...t,
    earned: { ...t.earned, conditions: [...t.earned.conditions, newSpend(40 * unit, over)] },
  });
  const addReward = (kind: RewardKind) => (t: Terms): Terms => ({ ...t, gives: [...t.gives, newReward(kind, unit)] });
  if (spends.length === 0) additions.push(["only from a minimum spend", addSpend()]);
  else if (spends.length < 3 && frame.categories.length)
    additions.push(["only with some goods in the cart", addSpend({ categories: frame.categories.slice(0, 1), except_categories: [] })]);
  if (!terms.gives.some(isGoods)) additions.push(["something off the goods", addReward("percent_off")]);
  if (terms.gives.every(isGoods)) additions.push(["free delivery", addReward("delivery_lowered_to")]);
  if (!additions.length) return null;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="quiet text-small">and also…</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="slip" align="start" sideOffset={4}>
          {additions.map(([words, make]) => (
            <DropdownMenu.Item key={words} className="choice" onSelect={() => edit(make)}>
              … {words}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
