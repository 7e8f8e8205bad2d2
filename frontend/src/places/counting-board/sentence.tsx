/** An offer as a sentence. The sentence is the only editor: every part that can be set is a word in it. */
import { DropdownMenu } from "radix-ui";
import { Fragment } from "react";

import type { ConditionKind, FieldProblem, Frame, Limits, OfferDoc, Plan, RewardKind, Scope, Terms } from "../../api/types";
import { money } from "../../pieces/figures";
import { EarnedWords } from "./earned-words";
import { EVERYTHING, isGoods, newCondition, newReward, withTerms } from "./offers";
import type { PartProps } from "./part";
import { LimitWords, RewardWords } from "./reward-words";
import { GivenWord, WhenWord } from "./words";

export interface SentenceProps {
  offer: OfferDoc;
  plan: Plan;
  frame: Frame;
  problems: FieldProblem[];
  change: (make: (plan: Plan) => Plan) => void;
}

export function Sentence({ offer, plan, frame, problems, change }: SentenceProps) {
  const { terms } = offer;
  const unit = 10 ** frame.minor_digits;
  const part: PartProps = {
    terms,
    frame,
    unit,
    cash: (amount) => money(amount, frame, { whole: amount % unit === 0 }),
    edit: (make) => change((before) => withTerms(before, offer.id, make)),
    variant: (make) => withTerms(plan, offer.id, make),
    at: (path) => problems.filter((one) => one.pointer.startsWith(path)),
  };
  const { edit, at } = part;
  return (
    <p className="text-sentence">
      <EarnedWords {...part} />
      {terms.gives.map((reward, n) => (
        <Fragment key={n}>
          {n > 0 && " and "}
          <RewardWords {...part} reward={reward} n={n} />
        </Fragment>
      ))}
      <LimitWords {...part} />
      {", "}
      <GivenWord given={terms.given} unsound={at("/given")} onChange={(given) => edit((t) => ({ ...t, given }))} />
      {", "}
      <WhenWord
        when={terms.when as { first_day: string | null; last_day: string | null }}
        plan={plan}
        unsound={at("/when")}
        onChange={(when) => edit((t) => ({ ...t, when }))}
      />
      {". "}
      <AndAlso {...part} />
    </p>
  );
}

/** Adds a clause; offers only what the sentence does not have yet. */
function AndAlso({ terms, frame, unit, edit }: PartProps) {
  const { conditions } = terms.earned;
  const givesGoods = terms.gives.some(isGoods);
  const some = { ...EVERYTHING, categories: frame.categories.slice(0, 1) };
  const withCondition = (kind: ConditionKind, of: Scope) => (t: Terms): Terms => ({
    ...t,
    earned: { ...t.earned, conditions: [...t.earned.conditions, newCondition(kind, unit, of)] },
  });
  const withReward = (kind: RewardKind) => (t: Terms): Terms => ({ ...t, gives: [...t.gives, newReward(kind, unit)] });
  const withLimit = (limits: Partial<Limits>) => (t: Terms): Terms => ({ ...t, limits: { ...t.limits, ...limits } });
  const additions: [boolean, string, (t: Terms) => Terms][] = [
    [conditions.length === 0, "only from a minimum spend", withCondition("spend", EVERYTHING)],
    [conditions.length < 3, "only with so many units", withCondition("units", some)],
    [conditions.length > 0 && conditions.length < 3, "only with so much of some goods", withCondition("spend", some)],
    [!givesGoods, "something off the goods", withReward("percent_off")],
    [terms.gives.every(isGoods), "free delivery", withReward("delivery_lowered_to")],
    [givesGoods && terms.limits.amount == null, "never more than an amount", withLimit({ amount: 10 * unit })],
    [givesGoods && terms.limits.units == null, "on so many units at most", withLimit({ units: 3 })],
    [terms.earned.repeat === "each_time" && terms.limits.times == null, "so many times at most", withLimit({ times: 2 })],
  ];
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="quiet text-small">and also…</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="slip" align="start" sideOffset={4}>
          {additions
            .filter(([fits]) => fits)
            .map(([, words, make]) => (
              <DropdownMenu.Item key={words} className="choice" onSelect={() => edit(make)}>
                … {words}
              </DropdownMenu.Item>
            ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
