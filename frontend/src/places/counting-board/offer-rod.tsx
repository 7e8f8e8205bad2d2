/** The upright rod the offers stand on: slide a bead out of the plan or in, drag it to change the order. */
import { memo, useCallback, useDeferredValue, useEffect, useRef, useState } from "react";

import { ask } from "../../api/client";
import { keepPlan, useNames, useRunning } from "../../api/queries";
import { putRunning } from "../../api/saving";
import type { EachOffer, FieldProblem, Forecast, Frame, OfferDoc, OfferReach, Plan, SavedPlan } from "../../api/types";
import { useNotice } from "../../pieces/notice";
import { ApplyWord } from "./apply-word";
import { Expected } from "./expected";
import { Facts } from "./facts";
import { newOffer } from "../../pieces/new-parts";
import { besidePlan, keptBeside, nameOfOffer, standsInPlaceOf } from "../../pieces/offer-names";
import { saveOffers } from "../../offers/offer-files";
import { OfferMenu } from "../../offers/offer-menu";
import { copied, forAnotherPlan, moved, putsIn, withOffer, without } from "../../offers/offers";
import { ReasonLine } from "../../pieces/reason-line";
import { RodBead } from "./rod-bead";
import { RunningOffer } from "./running-offer";
import { offerInFull, Sentence } from "../../offers/sentence";
import { Faults } from "../../pieces/words";
import { usePasted } from "./use-pasted";
import { WriteOffer } from "./write-offer";

interface RodProps {
  plan: Plan;
  frame: Frame;
  others: SavedPlan[];
  forecast: Forecast | null;
  fresh: boolean;
  each: EachOffer | null;
  reach: Map<string, OfferReach>;
  problems: FieldProblem[];
  change: (make: (plan: Plan) => Plan) => void;
  writing: boolean;
  setWriting: (open: boolean) => void;
  /** The offer to go to first, from a search. */
  wanted: string | null;
}

/** Its figures may be of the plan before, until those of this one are drawn. */
export const OfferRod = memo(function OfferRod({ plan, frame, others, forecast, fresh, each, reach, problems, change, writing, setWriting, wanted }: RodProps) {
  const list = useRef<HTMLOListElement>(null);

  useEffect(() => {
    if (!wanted) return;
    const item = list.current?.querySelector<HTMLElement>(`[data-offer="${CSS.escape(wanted)}"]`);
    item?.scrollIntoView({ block: "center" });
    item?.querySelector("button")?.focus();
  }, [wanted]);

  const [typed, setTyped] = useState("");
  usePasted((text) => {
    setTyped(text);
    setWriting(true);
  });

  /** The place in the order that a height on the screen stands for. */
  const placeAt = useCallback((y: number, id: string): number => {
    const items = [...(list.current?.children ?? [])] as HTMLElement[];
    const others = items.filter((item) => item.dataset.offer !== id);
    return others.filter((item) => item.getBoundingClientRect().top + 20 < y).length;
  }, []);

  const running = useRunning();
  const beside = besidePlan(running, plan);
  const inPlan = plan.offers.filter((one) => one.in_plan).length + keptBeside(running, plan).length;
  // An offer that stays as it is need not be drawn before the one that changes.
  const [earlier, wasFresh] = [useDeferredValue(plan), useDeferredValue(fresh)];
  let number = 0;
  return (
    <div className="flex h-full flex-col">
      <div className="min-h-0 flex-1 overflow-y-auto">
        <div className="relative min-h-full ps-7 pe-4 pt-4 pb-6">
      <div aria-hidden className="absolute start-[41px] top-3 bottom-0 w-[3px] bg-ink" />
      {beside.length > 0 && (
        <ol aria-label="Offers that run already" className="relative mb-4 grid gap-3 border-b-[1.5px] border-dashed border-line pb-3.5">
          {beside.map((offer) => (
            <RunningOffer key={offer.id} {...{ offer, frame, change }} plan={earlier} figures={forecast?.offers.find((one) => one.id === offer.id) ?? null} />
          ))}
        </ol>
      )}
      <ol ref={list} className="relative grid gap-5">
        {plan.offers.map((offer, at) => {
          if (offer.in_plan) number += 1;
          const stays = earlier.offers[at] === offer;
          return (
            <OfferItem
              key={offer.id}
              {...{ offer, at, frame, others, change, placeAt, problems }}
              plan={stays ? earlier : plan}
              fresh={stays ? wasFresh : fresh}
              number={offer.in_plan ? number : null}
              figures={forecast?.offers.find((one) => one.id === offer.id) ?? null}
              ends={forecast?.ends ?? NO_ENDS}
              ifEverybody={each?.offers.find((one) => one.id === offer.id)?.if_everybody ?? null}
              adds={inPlan > 1 ? (each?.offers.find((one) => one.id === offer.id)?.adds ?? null) : null}
              reach={reach.get(offer.id)}
            />
          );
        })}
      </ol>
      {plan.offers.length === 0 && (
        <p className="ms-11 text-soft">{beside.length > 0 ? "The plan adds no offer of its own yet." : "No offer stands on the rod yet, so the plan is just like today."}</p>
      )}
        </div>
      </div>
      <div className="flex items-center gap-4 border-t-[1.5px] border-line py-2.5 ps-[72px] pe-4">
        <WriteOffer
          {...{ plan, frame, typed, setTyped }}
          open={writing}
          setOpen={setWriting}
          begin={(terms) => change((before) => ({ ...before, offers: [...before.offers, newOffer(terms)] }))}
        />
        {plan.offers.length > 1 && <ApplyWord {...{ plan, change }} />}
      </div>
    </div>
  );
});

const NO_ENDS: Forecast["ends"] = [];

interface ItemProps {
  offer: OfferDoc;
  at: number;
  number: number | null;
  plan: Plan;
  frame: Frame;
  others: SavedPlan[];
  figures: Forecast["offers"][number] | null;
  fresh: boolean;
  /** Of all offers, as are the problems. */
  ends: Forecast["ends"];
  /** What the plan keeps more with it than without it, where it is not alone. */
  adds: number | null;
  /** What the plan keeps more than today if everybody had its code. */
  ifEverybody: number | null;
  reach: OfferReach | undefined;
  problems: FieldProblem[];
  change: (make: (plan: Plan) => Plan) => void;
  placeAt: (y: number, id: string) => number;
}

/** Faults that belong to the sentence as a whole rather than to one word of it. */
const WHOLE = /^$|^\/gives(\/\d+(\/parts)?)?$|^\/earned\/(conditions|repeat|counted)$|^\/steps(\/\d+\/gives)?$|^\/every_step$/;

const OfferItem = memo(function OfferItem(props: ItemProps) {
  const { offer, at, number, plan, frame, others, figures, fresh, adds, ifEverybody, reach, change, placeAt } = props;
  const mine = `/offers/${at}/terms`;
  const problems = props.problems.filter((one) => one.pointer.startsWith(mine)).map((one) => ({ ...one, pointer: one.pointer.slice(mine.length) }));
  const ends = props.ends.filter((one) => one.offer === offer.id || (one.sku !== null && putsIn(offer.terms, one.sku)));
  const [naming, setNaming] = useState(false);
  const [noting, setNoting] = useState(false);
  const { say, fail } = useNotice();
  const slide = () => change((before) => withOffer(before, offer.id, (one) => ({ ...one, in_plan: !one.in_plan })));
  const move = (to: number) => change((before) => moved(before, offer.id, to));
  const what = nameOfOffer(plan, offer);
  const copyTo = async (other: SavedPlan) => {
    const body = { revision: other.revision, plan: { ...other.plan, offers: [...other.plan.offers, forAnotherPlan(offer)] } };
    try {
      const saved = await ask<SavedPlan>("PUT", `/plans/${other.id}`, body);
      keepPlan(saved);
      say(`Copied to ${other.plan.name}.`);
    } catch (error) {
      fail(error);
    }
  };
  const { data: goods } = useNames();
  const running = useRunning();
  const copyOut = async () => {
    try {
      await navigator.clipboard.writeText(offerInFull(offer, plan, frame, goods ?? [], running));
      say("Its sentence is copied. Paste it into a plan, or into a letter.");
    } catch (error) {
      fail(error);
    }
  };
  const replaces = standsInPlaceOf(running, plan, offer.id);
  const runs = async () => {
    try {
      await putRunning((running) => [...running.filter((one) => one.id !== offer.id), { ...offer, in_plan: true }]);
      change((before) => ({ ...before, offers: before.offers.filter((one) => one.id !== offer.id) }));
      say("It runs already now: every plan keeps it, drops it, or puts another in its place.");
    } catch (error) {
      fail(error);
    }
  };
  return (
    <li data-offer={offer.id} className="grid grid-cols-[30px_1fr] gap-x-3.5">
      <RodBead {...{ offer, number, slide, move, what, at, placeAt }} />
      <div className={`min-w-0 ${offer.in_plan ? "" : "text-soft"}`}>
        <div className="flex items-baseline justify-between gap-2">
          {naming ? (
            <input
              aria-label="Name of the offer"
              className="w-56 py-0 text-small"
              value={offer.name}
              maxLength={80}
              autoFocus
              onChange={(event) =>
                change((before) => withOffer(before, offer.id, (one) => ({ ...one, name: event.target.value })))
              }
              onBlur={() => setNaming(false)}
              onKeyDown={(event) => (event.key === "Enter" || event.key === "Escape") && setNaming(false)}
            />
          ) : (
            <span className="truncate text-small font-semibold text-soft">
              {offer.name}
              {!offer.in_plan && <span className="font-normal"> · slid out</span>}
              {replaces && <span className="font-normal"> {offer.name && "· "}in place of the one that runs</span>}
            </span>
          )}
          <OfferMenu
            {...{ offer, what, others, slide }}
            first={at === 0}
            last={at === plan.offers.length - 1}
            rename={() => setNaming(true)}
            note={() => setNoting(true)}
            move={(by) => move(at + by)}
            copy={() => change((before) => copied(before, offer.id))}
            copyOut={() => void copyOut()}
            runs={() => void runs()}
            copyTo={(other) => void copyTo(other)}
            save={() => saveOffers(what, [offer], frame)}
            remove={() => change((before) => without(before, offer.id))}
          />
        </div>
        <Sentence {...{ offer, plan, frame, problems, change }} />
        <Faults of={problems.filter((one) => WHOLE.test(one.pointer))} />
        <Expected {...{ offer, plan, frame, figures, fresh, problems, change }} />
        {figures && offer.in_plan && <Facts {...{ figures, ends, adds, ifEverybody, frame }} />}
        {offer.in_plan && (reach ? <ReasonLine {...reach} /> : <p aria-hidden className="min-h-[2lh] text-small" />)}
        {(noting || offer.note) && (
          <textarea
            aria-label={`Note on ${what}`}
            className="mt-1 block w-full resize-none border-transparent bg-transparent px-0 py-0 text-small italic text-soft [field-sizing:content]"
            value={offer.note}
            maxLength={4000}
            autoFocus={noting}
            placeholder="A note only you see"
            onBlur={() => setNoting(false)}
            onChange={(event) =>
              change((before) => withOffer(before, offer.id, (one) => ({ ...one, note: event.target.value })))
            }
          />
        )}
      </div>
    </li>
  );
});
