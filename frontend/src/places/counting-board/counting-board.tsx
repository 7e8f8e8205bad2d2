/** The Counting board: write offers, see the answer, turn numbers. */
import { useDeferredValue, useMemo, useState } from "react";
import { useSearchParams } from "react-router";

import { ask } from "../../api/client";
import { queries, useFrame, usePlans } from "../../api/queries";
import type { Frame, Plan, Plans, SavedPlan } from "../../api/types";
import { EmptyShop } from "../../pieces/empty-shop";
import { daysAfter, today } from "../../pieces/iso-days";
import { newPlan } from "../../pieces/new-parts";
import { useKey, useListedKeys } from "../../pieces/keys";
import { useNotice } from "../../pieces/notice";
import { useOpenPlan } from "../../pieces/plan-in-hand";
import { CasesLine } from "../../pieces/cases-line";
import { AnswerSentence, NeedRod, NoAnswer } from "./answer";
import { BetterPlan } from "./better-plan";
import { Explained } from "./explained";
import { FindOffers } from "./find-offers";
import { readOffers, saveOffers } from "../../offers/offer-files";
import { KeepForecast } from "./keep-forecast";
import { NumbersOfBoard } from "../../offers/map-of-two";
import { OfferRod } from "./offer-rod";
import { PlanLine } from "./plan-line";
import { RangeLine } from "./range-line";
import { SharpLine } from "./sharp-line";
import { SnagsLine } from "./snags-line";
import { useBoard } from "./use-board";
import { useRest } from "./use-rest";

const SENTENCE_KEYS = [
  ["Tab, Enter", "go to a word of a sentence, open it"],
  ["↑ ↓", "nudge the number of a word, or of a box"],
  ["Shift ↑ ↓", "nudge it by ten steps"],
  ["Alt ↑ ↓", "on an offer's bead: move the offer up or down"],
  ["Space", "on an offer's bead: slide it out of the plan or in"],
] as const;

export function CountingBoard() {
  const { data: frame } = useFrame();
  const { data: plans } = usePlans();
  const [search, setSearch] = useSearchParams();
  const open = useOpenPlan(plans?.plans);
  const { fail } = useNotice();
  if (!frame || !plans) return null;
  if (frame.empty || !frame.has_carts) return <EmptyShop frame={frame} />;

  const choose = (id: number, offer?: string) => setSearch({ plan: String(id), ...(offer && { offer }) });
  const add = async (plan: Plan) => {
    try {
      const added = await ask<SavedPlan>("POST", "/plans", plan);
      queries.setQueryData<Plans>(["plans"], (all) => all && { plans: [...all.plans, added] });
      void queries.invalidateQueries({ queryKey: ["frame"] });
      choose(added.id);
    } catch (error) {
      fail(error);
    }
  };
  const remove = async (id: number) => {
    try {
      await ask("DELETE", `/plans/${id}`);
      queries.setQueryData<Plans>(["plans"], (all) => all && { plans: all.plans.filter((one) => one.id !== id) });
      void queries.invalidateQueries({ queryKey: ["frame"] });
      setSearch({});
    } catch (error) {
      fail(error);
    }
  };
  if (!open)
    return (
      <div className="mx-auto max-w-2xl px-7 py-14">
        <h1 className="text-answer">No plan yet</h1>
        <p className="mt-3">A plan holds offers over some days, and is held against the same days without them.</p>
        <button type="button" className="press mt-5" data-main="true" onClick={() => void add(anotherPlan(plans.plans))}>
          Start a plan
        </button>
      </div>
    );
  return <OpenPlan key={open.id} saved={open} wanted={search.get("offer")} {...{ frame, plans, choose, add, remove }} />;
}

function anotherPlan(plans: SavedPlan[]): Plan {
  const names = plans.map((one) => one.plan.name);
  let name = "New plan";
  for (let n = 2; names.includes(name); n += 1) name = `New plan ${n}`;
  return newPlan(name, daysAfter(today(), 7), daysAfter(today(), 20));
}

interface OpenProps {
  saved: SavedPlan;
  frame: Frame;
  plans: Plans;
  wanted: string | null;
  choose: (id: number, offer?: string) => void;
  add: (plan: Plan) => Promise<void>;
  remove: (id: number) => Promise<void>;
}

function OpenPlan({ saved, frame, plans, wanted, choose, add, remove }: OpenProps) {
  const { plan, change, told, problems, stuck, saving } = useBoard(saved, frame.data_version);
  const forecast = told?.forecast ?? null;
  // The answer is on screen first; what explains it is drawn after it, and again left if a key comes meanwhile.
  const [later, settled] = [useDeferredValue(told), useDeferredValue(plan)];
  const others = useMemo(() => plans.plans.filter((one) => one.id !== saved.id), [plans, saved.id]);
  const { range, each, reach, snags } = useRest(plan, told?.of === plan, frame.data_version);
  const { fail } = useNotice();
  const [writing, setWriting] = useState(false);
  // A slip that was just closed gives the focus back first, or it would take it from the box that opens here.
  useListedKeys(SENTENCE_KEYS);
  useKey("n", "write a new offer", () => setWriting(true));
  return (
    <NumbersOfBoard {...{ plan, frame, forecast }}>
    <div className="flex min-h-[34rem] flex-col min-[1000px]:h-[calc(100vh-var(--spacing-top))]">
      <section className="flex min-h-[112px] flex-wrap items-start justify-between gap-x-8 gap-y-2 px-7 pt-3.5 pb-3 min-[1000px]:flex-nowrap">
        <div className="min-w-0">
          <PlanLine
            {...{ saved, plan, forecast, problems, saving, change, choose }}
            all={plans.plans}
            add={() => void add(anotherPlan(plans.plans))}
            copy={() => void add({ ...plan, name: `${plan.name} (copy)`.slice(0, 80) })}
            remove={() => void remove(saved.id)}
            save={() => saveOffers(plan.name, plan.offers, frame)}
            bringIn={(file) =>
              void readOffers(file)
                .then((offers) => change((before) => ({ ...before, offers: [...before.offers, ...offers] })))
                .catch(fail)
            }
          />
          <div className={`mt-1 ${problems.length ? "opacity-50" : ""}`}>
            {forecast ? <AnswerSentence {...{ forecast, plan }}>{range && range.low < range.high && <RangeLine {...{ range, plan, frame, forecast }} />}</AnswerSentence> : <NoAnswer why={stuck || (problems.length > 0 ? "There is no answer yet." : null)} />}
          </div>
          <SharpLine {...{ plan, problems, change }} />
          <CasesLine plan={plan} planId={saved.id} version={frame.data_version} />
          {problems.length > 0 && (
            <p role="alert" className="mt-1 text-loss-ink">
              {forecast && "This answer is from before: "}
              {problems[0]!.message} {problems[0]!.mend}
            </p>
          )}
        </div>
        <div className="grid shrink-0 justify-items-end gap-2">
          {forecast && <NeedRod forecast={forecast} />}
          <div className="flex min-h-6 max-w-[21rem] flex-wrap items-baseline justify-end gap-x-5 gap-y-1">
            {snags && plan.offers.some((one) => one.in_plan) && <SnagsLine {...{ snags, plan, frame, change }} planId={saved.id} />}
            <BetterPlan {...{ plan, frame, change, add }} sound={problems.length === 0 && forecast !== null} />
            {forecast && <KeepForecast {...{ plan }} sound={problems.length === 0} />}
            <FindOffers frame={frame} plans={plans.plans} go={choose} />
          </div>
        </div>
      </section>
      <div className="grid min-h-0 flex-1 border-t-[1.5px] border-ink min-[1000px]:grid-cols-[440px_minmax(0,1fr)]">
        <section aria-label="Offers" className="min-h-0 border-line max-[1000px]:border-b-[1.5px] min-[1000px]:border-e-[1.5px]">
          <OfferRod
            {...{ plan, frame, others, each, reach, problems, change, writing, setWriting, wanted }}
            forecast={later?.forecast ?? null}
            fresh={later?.of === plan}
          />
        </section>
        {later && <Explained plan={settled} forecast={later.forecast} {...{ frame, change }} answered={later.of === settled} />}
      </div>
    </div>
    </NumbersOfBoard>
  );
}
