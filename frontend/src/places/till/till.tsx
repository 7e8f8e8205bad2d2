/** The Till: ring up any cart; what the shopper sees beside what you keep, and why each offer applies or not. */
import { Tabs } from "radix-ui";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";

import { ApiError } from "../../api/client";
import { useFrame, useNames, usePlans } from "../../api/queries";
import type { Cart, Frame, Plan, SavedPlan, TillOf, Way } from "../../api/types";
import { EmptyShop } from "../../pieces/empty-shop";
import { money, share } from "../../pieces/figures";
import { daysAfter, today } from "../../pieces/iso-days";
import { newPlan } from "../../pieces/new-parts";
import { useNameOf } from "../../pieces/offer-names";
import { useOpenPlan } from "../../pieces/plan-in-hand";
import { Slip } from "../../pieces/slip";
import { TabWords } from "../../pieces/tab-words";
import { Choices, Word } from "../../pieces/words";
import { AddGood } from "./add-good";
import { AnotherCart } from "./another-cart";
import { Cases } from "./cases";
import { CartSentence } from "./cart-sentence";
import { emptyCart, withUnits } from "./carts";
import { ShoppersSlip, StepRod } from "./shoppers-slip";
import { Trials } from "./trials";
import { useCart, useDraw, useMends, useRungUp } from "./use-till";
import { WhyOffers } from "./why-offers";
import { YourSide } from "./your-side";

const LOOKS = [
  ["why", "why"],
  ["trials", "trials"],
  ["cases", "cases"],
] as const;

const NO_PLAN: SavedPlan = {
  id: 0,
  revision: 0,
  plan: newPlan("no plan", daysAfter(today(), 7), daysAfter(today(), 20)),
};

export function TillPlace() {
  const { data: frame } = useFrame();
  const { data: plans } = usePlans();
  const [search, setSearch] = useSearchParams();
  const open = useOpenPlan(plans?.plans) ?? NO_PLAN;
  if (!frame || !plans) return null;
  if (frame.goods === 0 || frame.zones.length === 0) return <EmptyShop frame={frame} />;
  const look = LOOKS.find(([key]) => key === search.get("look"))?.[0] ?? "why";
  return <OpenTill key={open.id} look={look} saved={open} all={plans.plans} frame={frame} choose={(id) => setSearch({ plan: String(id) })} />;
}

interface OpenProps {
  look: string;
  saved: SavedPlan;
  all: SavedPlan[];
  frame: Frame;
  choose: (id: number) => void;
}

function OpenTill({ look, saved, all, frame, choose }: OpenProps) {
  const { plan } = saved;
  const [cart, change] = useCart(emptyCart(plan, frame.zones[0]!));
  const { data, error, isPlaceholderData } = useRungUp(plan, cart, frame.data_version);
  const { data: found } = useMends(plan, cart, frame.data_version, data !== undefined && !isPlaceholderData);
  const { data: names } = useNames();
  const [chosen, setChosen] = useState(0);
  const nameOf = useNameOf(plan);
  const put = useCallback((next: Cart) => change(() => next), [change]);
  const draw = useDraw(plan, put);
  const goods = useMemo(() => names ?? [], [names]);
  const ways = data?.ways ?? [];
  const way = ways[Math.min(chosen, ways.length - 1)];
  return (
    <div className="px-7 pt-3.5 pb-10">
      <div className="flex flex-wrap items-start justify-between gap-x-8 gap-y-2">
        <div className="min-w-0">
          <div className="flex flex-wrap items-baseline gap-x-2 text-body">
            <span className="text-soft">A cart under</span>
            {all.length > 0 ? (
              <Slip title="Under which plan" trigger={<Word aria-label={`Plan: ${plan.name}. Choose another`}>{plan.name}</Word>}>
                <Choices label="Plan" value={String(saved.id)} onChange={(id) => choose(Number(id))} options={all.map((one) => [String(one.id), one.plan.name] as const)} />
              </Slip>
            ) : (
              <span>{plan.name}</span>
            )}
            {ways.length > 1 && way && <WayWord {...{ ways, way, nameOf }} set={setChosen} />}
          </div>
          <Answer {...{ cart, way, frame }} fresh={!isPlaceholderData} />
        </div>
        <AnotherCart {...{ plan, frame, nameOf, draw }} empty={() => put(emptyCart(plan, frame.zones[0]!))} />
      </div>
      {error && !isPlaceholderData && (
        <p role="alert" className="mt-1 text-loss-ink">
          {error instanceof ApiError ? error.message : "The cart could not be rung up."}
        </p>
      )}
      <div className={`mt-3 grid gap-x-8 gap-y-6 border-t-[1.5px] border-ink pt-3.5 min-[1180px]:grid-cols-[minmax(0,25rem)_minmax(0,1fr)_minmax(0,24rem)] min-[760px]:grid-cols-2 ${error ? "opacity-60" : ""}`}>
        <section aria-labelledby="slip-title">
          <h2 id="slip-title" className="text-title">
            The shopper’s slip
          </h2>
          <div className="mt-1.5 mb-2.5">
            <CartSentence {...{ cart, plan, frame, change }} likeliest={cart.option ? "" : (way?.plan.option ?? "")} />
          </div>
          <AddGood frame={frame} add={(sku, units) => change((before) => withUnits(before, sku, units))} />
          <div className="mt-2.5">
            {way && cart.lines.length > 0 ? <SteppedSlip {...{ cart, way, frame, goods, nameOf, change }} /> : <NothingYet {...{ plan, frame, nameOf, draw }} />}
          </div>
        </section>
        <section aria-labelledby="side-title">
          <h2 id="side-title" className="mb-1.5 text-title">
            Your side
          </h2>
          {way && cart.lines.length > 0 ? <YourSide {...{ way, frame }} /> : <p className="text-soft">What you keep of the cart, today and under the plan.</p>}
        </section>
        <section aria-labelledby="why-title">
          <Tabs.Root defaultValue={look}>
            <div className="mb-1.5 flex items-baseline justify-between">
              <h2 id="why-title" className="text-title">
                The offers
              </h2>
              <TabWords label="The offers" words={LOOKS.map(([key, words]) => [key, key === "cases" && plan.cases.length > 0 ? `${words} (${plan.cases.length})` : words])} />
            </div>
            <Tabs.Content value="why">{way && <WhyOffers {...{ plan, way, frame, goods, nameOf, put }} planId={saved.id} mends={found?.mends ?? []} />}</Tabs.Content>
            <Tabs.Content value="trials">
              <Trials {...{ plan, frame, goods, nameOf, put }} />
            </Tabs.Content>
            <Tabs.Content value="cases">
              <Cases {...{ saved, cart, frame, nameOf, put }} outcome={isPlaceholderData ? undefined : way?.plan} />
            </Tabs.Content>
          </Tabs.Root>
        </section>
      </div>
    </div>
  );
}

interface NothingProps {
  plan: Plan;
  frame: Frame;
  nameOf: (offer: string) => string;
  draw: ReturnType<typeof useDraw>;
}

/** How a cart begins: typed, or an order that came, as it is or as it just misses an offer. */
function NothingYet({ plan, frame, nameOf, draw }: NothingProps) {
  if (frame.orders === 0) return <p className="text-soft">Nothing is in the cart yet. Type a word of a product.</p>;
  return (
    <div className="grid justify-items-start gap-1.5 text-soft">
      <p>Nothing is in the cart yet. Type a word of a product, or take</p>
      <button type="button" className="quiet text-start" onClick={() => draw()}>
        a cart of the history
      </button>
      {plan.offers
        .filter((one) => one.in_plan)
        .map((one) => (
          <button key={one.id} type="button" className="quiet text-start" onClick={() => draw({ near: one.id })}>
            one that just misses {nameOf(one.id)}
          </button>
        ))}
    </div>
  );
}

/** The last step, until another is chosen. */
function SteppedSlip(props: Omit<Parameters<typeof ShoppersSlip>[0], "step">) {
  const { way, nameOf } = props;
  const like = way.steps.map((one) => `${one.on} ${one.offer}`).join();
  const [at, setAt] = useState<{ like: string; step: number } | null>(null);
  const step = at?.like === like ? at.step : way.steps.length;
  return (
    <>
      {way.steps.length > 0 && (
        <div className="mb-1.5">
          <StepRod steps={way.steps} {...{ nameOf, step }} set={(next) => setAt({ like, step: next })} />
        </div>
      )}
      <ShoppersSlip {...props} step={step} />
    </>
  );
}

function WayWord({ ways, way, nameOf, set }: { ways: TillOf["ways"]; way: Way; nameOf: (offer: string) => string; set: (at: number) => void }) {
  const words = ({ plan, share: of }: Way) =>
    [plan.option, ...plan.put_in.map((one) => `${one.sku} put in by ${nameOf(one.offer)}`)].filter(Boolean).join(", ") + `: ${share(of)} of such shoppers`;
  return (
    <>
      <span aria-hidden>·</span>
      <Slip title="The ways such a cart goes" width={420} trigger={<Word faint>{`as ${share(way.share)} of such shoppers would`}</Word>}>
        <Choices label="Way" value={String(ways.indexOf(way))} onChange={(at) => set(Number(at))} options={ways.map((one, at) => [String(at), words(one)] as const)} />
      </Slip>
    </>
  );
}

/** The answer comes first, and what the last change of the cart did. */
function Answer({ cart, way, frame, fresh }: { cart: Cart; way: Way | undefined; frame: Frame; fresh: boolean }) {
  const last = useRef<{ cart: Cart; kept: number; pays: number } | null>(null);
  const [moved, setMoved] = useState<{ kept: number; pays: number } | null>(null);
  const kept = way?.plan.kept;
  const pays = way?.plan.total;
  useEffect(() => {
    if (!fresh || kept === undefined || pays === undefined) return;
    const before = last.current;
    if (before && before.cart !== cart && before.cart.lines.length > 0) setMoved({ kept: kept - before.kept, pays: pays - before.pays });
    last.current = { cart, kept, pays };
  }, [cart, kept, pays, fresh]);
  if (!way || cart.lines.length === 0) return <h1 className="text-answer font-semibold">Ring up a cart, and see both sides of it.</h1>;
  const cash = (amount: number) => money(Math.abs(amount), frame);
  const change = way.plan.kept - way.today.kept;
  return (
    <div aria-live="polite">
      <h1 className="max-w-[62rem] text-answer font-semibold" data-testid="till-answer">
        {way.plan.kept < 0 ? "You lose " : "You keep "}
        <span className={`border-b-[3px] whitespace-nowrap ${way.plan.kept < 0 ? "border-loss" : "border-yellow"}`}>{cash(way.plan.kept)}</span>
        {change === 0 ? ", as today" : `, ${cash(change)} ${change < 0 ? "less" : "more"} than today`}; the shopper pays {cash(way.plan.total)}
        {way.plan.total === way.today.total ? "." : ` instead of ${cash(way.today.total)}.`}
      </h1>
      <p className="min-h-[1.45em] text-soft">
        {moved && (moved.kept !== 0 || moved.pays !== 0) && `Your last change: you keep ${money(moved.kept, frame, { signed: true })}, the shopper pays ${money(moved.pays, frame, { signed: true })}.`}
      </p>
    </div>
  );
}
