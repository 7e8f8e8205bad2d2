/** Adds a clause to a sentence; offers only what makes sense now and is not there yet. */
import { DropdownMenu } from "radix-ui";

import type { Condition, ConditionKind, Limits, Reward, RewardKind, Scope } from "../api/types";
import { memorableCode, newCondition, newReward, nextStep } from "../pieces/new-parts";
import { EVERYTHING } from "../pieces/scope-word";
import { allRewards, canCountApart, canRepeat, canStep, isDelivery, picks, usesUnits } from "./offers";
import type { Change, PartProps } from "./part";
import { whereInWords, whoInWords } from "../pieces/who-where";

const MOST_CONDITIONS = 4;
const MOST_STEPS = 6;

type Addition = [fits: boolean, words: string, make: Change];

const withCondition = (condition: Condition): Change => (t) => ({
  ...t,
  earned: { ...t.earned, conditions: [...t.earned.conditions, condition] },
});
const withReward = (reward: Reward): Change => (t) => ({ ...t, gives: [...t.gives, reward] });
const withLimit = (limits: Partial<Limits>): Change => (t) => ({ ...t, limits: { ...t.limits, ...limits } });
const changed = (at: number, change: (reward: Reward) => Reward): Change => (t) => ({ ...t, gives: t.gives.map((one, n) => (n === at ? change(one) : one)) });

function additions(part: PartProps): [string, Addition[]][] {
  const { terms, frame, round, goods, plan, running, offer } = part;
  const { earned, gives, limits, given, when, who, where, alongside, funded } = terms;
  const { conditions } = earned;
  const some: Scope = { ...EVERYTHING, categories: frame.categories.slice(0, 1) };
  const gift = goods.find((good) => good.list_price != null && good.stock !== 0)?.sku ?? "";
  const condition = (kind: ConditionKind, of: Scope) => withCondition(newCondition(kind, round, of));
  const reward = (kind: RewardKind) => withReward(newReward(kind, round, some, gift));
  const room = conditions.length < MOST_CONDITIONS;
  const rewards = allRewards(terms);
  const works = rewards.some((one) => !isDelivery(one));
  const percent = gives.findIndex((one) => one.kind === "percent_off" && !one.with_delivery);
  const unweighed = gives.findIndex((one) => "below_weight" in one && one.below_weight == null);
  const anyOption = gives.findIndex((one) => "options" in one && one.options.length === 0);
  const set = gives.findIndex((one) => one.kind === "goods_set" && one.parts.length < 6);
  const anyOther = [...plan.offers, ...running].some((one) => one.id !== offer.id);
  return [
    [
      "What it takes",
      [
        [conditions.length === 0, "only from a minimum spend", condition("spend", EVERYTHING)],
        [room, "only with so many units", condition("units", some)],
        [room && conditions.length > 0, "only with so much of some goods", condition("spend", some)],
        [room && !conditions.some((one) => one.kind === "only"), "only with nothing else in the cart", condition("only", some)],
        [canStep(terms) && terms.steps.length < MOST_STEPS, "more from a higher step on", (t) => ({ ...t, steps: [...t.steps, nextStep(t, round)] })],
        [canCountApart(terms) && earned.counted === "pooled", "each product counted by itself", (t) => ({ ...t, earned: { ...t.earned, counted: "by_product" } })],
      ],
    ],
    [
      "What it gives",
      [
        [!gives.some(picks) && !gives.some(usesUnits), "something off the goods", reward("percent_off")],
        [!gives.some(isDelivery), "free delivery", reward("delivery_lowered_to")],
        [gives.length < 4, "something put in", reward("put_in")],
        [percent >= 0, "off the delivery charge too", changed(percent, (one) => ({ ...one, with_delivery: true }) as Reward)],
        [unweighed >= 0, "only below a weight", changed(unweighed, (one) => ({ ...one, below_weight: 5_000 }) as Reward)],
        [anyOption >= 0 && frame.options.length > 1, "only by one delivery option", changed(anyOption, (one) => ({ ...one, options: frame.options.slice(0, 1) }) as Reward)],
        [set >= 0, "another part of the set", changed(set, (one) => (one.kind === "goods_set" ? { ...one, parts: [...one.parts, { count: 1, of: otherGoods(one.parts, frame.categories) }] } : one))],
      ],
    ],
    [
      "How far it goes",
      [
        [rewards.some((one) => picks(one) || usesUnits(one)) && limits.amount == null, "never more than an amount", withLimit({ amount: 10 * round })],
        [rewards.some(picks) && limits.units == null, "on so many units at most", withLimit({ units: 3 })],
        [earned.repeat === "each_time" && canRepeat(terms) && limits.times == null, "so many times at most", withLimit({ times: 2 })],
        [limits.uses_per_shopper == null, "so often per shopper", withLimit({ uses_per_shopper: 1 })],
        [limits.uses == null, "so often in all", withLimit({ uses: 500 })],
        [limits.spending == null, "until so much is given away", withLimit({ spending: 500 * round })],
        [works && funded.share_bp === 0 && funded.each === 0, "a supplier pays part of it", (t) => ({ ...t, funded: { ...t.funded, share_bp: 5_000 } })],
      ],
    ],
    [
      "For whom, where and when",
      [
        [!whoInWords(who), "only for some shoppers", (t) => ({ ...t, who: { ...t.who, first_order: true } })],
        [!whereInWords(where) && frame.zones.length > 0, "only in some zones", (t) => ({ ...t, where: { ...t.where, zones: frame.zones.slice(0, 1) } })],
        [!whereInWords(where) && frame.shoppers.channels.length > 0, "only through one channel", (t) => ({ ...t, where: { ...t.where, channels: frame.shoppers.channels.slice(0, 1) } })],
        [!whereInWords(where) && frame.shoppers.payments.length > 0, "only for one way of paying", (t) => ({ ...t, where: { ...t.where, payments: frame.shoppers.payments.slice(0, 1) } })],
        [when.weekdays.length === 0 && when.from_minute == null, "only on some weekdays or hours", (t) => ({ ...t, when: { ...t.when, weekdays: [4, 5] } })],
        [anyOther && alongside.never === "named" && alongside.never_with.length === 0, "not with other offers", (t) => ({ ...t, alongside: { ...t.alongside, never: "all" } })],
        [anyOther && alongside.yields === "named" && alongside.yields_to.length === 0, "yielding to other offers", (t) => ({ ...t, alongside: { ...t.alongside, yields: "all" } })],
        [given.by === "itself", "only with a code", (t) => ({ ...t, given: { by: "code", code: memorableCode(), codes: [] } })],
      ],
    ],
  ];
}

/** Goods that no part of a set names yet. */
function otherGoods(parts: { of: Scope }[], categories: string[]): Scope {
  const named = new Set(parts.flatMap((part) => part.of.categories));
  return { ...EVERYTHING, categories: categories.filter((name) => !named.has(name)).slice(0, 1) };
}

export function AndAlso(part: PartProps) {
  const groups = additions(part)
    .map(([title, list]) => [title, list.filter(([fits]) => fits)] as const)
    .filter(([, list]) => list.length > 0);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="quiet text-small">and also…</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          className="slip max-h-(--radix-dropdown-menu-content-available-height) w-[34rem] columns-2 gap-4 overflow-y-auto"
          side="right"
          align="start"
          sideOffset={8}
          collisionPadding={12}
        >
          {groups.map(([title, list]) => (
            <DropdownMenu.Group key={title} className="break-inside-avoid pb-2">
              <DropdownMenu.Label className="px-2 text-small text-soft">{title}</DropdownMenu.Label>
              {list.map(([, words, make]) => (
                <DropdownMenu.Item key={words} className="choice before:content-['…_']" onSelect={() => part.edit(make)}>
                  {words}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Group>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
