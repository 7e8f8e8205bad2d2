/** What about the plan loses money or does not do what it says: each with its mend, or let be with a reason. */
import { useState } from "react";

import type { Frame, Plan, Snag } from "../../api/types";
import { money } from "../../pieces/figures";
import { useNameOf } from "../../pieces/offer-names";
import { Slip } from "../../pieces/slip";
import { LeakSearch } from "./leak-search";
import { goToWord } from "./go-to-word";
import { withOffer } from "../../offers/offers";

interface SnagsProps {
  snags: Snag[];
  plan: Plan;
  planId: number;
  frame: Frame;
  change: (make: (plan: Plan) => Plan) => void;
}

export function SnagsLine({ snags, plan, planId, frame, change }: SnagsProps) {
  const nameOf = useNameOf(plan);
  const [open, setOpen] = useState(false);
  const here = snags.filter((one) => one.set_aside === null && (one.offer === "" || plan.offers.some((offer) => offer.id === one.offer && offer.in_plan)));
  const aside = snags.filter((one) => one.set_aside !== null);
  const most = Math.max(...here.map((one) => one.stake ?? 0), 0);
  return (
    <Slip
      title="Snags and leaks"
      width={600}
      open={open}
      onOpenChange={setOpen}
      trigger={
        <button type="button" className="word text-small">
          {here.length === 0 ? "No snag is left" : `${here.length} ${here.length === 1 ? "snag" : "snags"}`}
          {most > 0 && `, up to ${money(most, frame, { whole: true })} each`}
        </button>
      }
    >
      <p className="text-small text-soft">What about this plan loses money, or does not do what it says. What is at stake is over the plan’s days, and one may hold part of another.</p>
      <ul className="mt-2 grid gap-2.5">
        {here.map((one) => (
          <Item key={`${one.key} ${one.offer} ${one.text}`} {...{ snag: one, plan, frame, change }} close={() => setOpen(false)} />
        ))}
      </ul>
      <LeakSearch {...{ plan, planId, frame, change }} />
      {aside.length > 0 && (
        <>
          <h3 className="mt-4 text-body">Let be</h3>
          <ul className="mt-1 grid gap-1.5 text-small">
            {aside.map((one) => (
              <li key={`${one.key} ${one.offer} ${one.text}`}>
                <span className="text-soft">{nameOf(one.offer) || "The plan"}</span> {one.text} {one.set_aside && <i>“{one.set_aside}”</i>}{" "}
                <button type="button" className="quiet" onClick={() => change((before) => ({ ...before, set_aside: before.set_aside.filter((other) => other.snag !== one.key || other.offer !== one.offer) }))}>
                  Look at it again
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </Slip>
  );
}

/** Where in the sentence, in words, by the clause a pointer leads to. */
const PLACES: [start: string, words: string][] = [
  ["earned", "what earns it"],
  ["steps", "its steps"],
  ["gives", "what it gives"],
  ["on", "on which goods"],
  ["limits", "its limits"],
  ["given", "how it is given"],
  ["when", "when it runs"],
  ["who", "for whom"],
  ["where", "where it holds"],
  ["alongside", "beside which others"],
  ["response", "what you expect"],
];

function placeOf(pointer: string): string {
  const clause = pointer.split("/")[4];
  const words = PLACES.find(([start]) => start === clause)?.[1];
  return words ? `, ${words}` : "";
}

function Item({ snag, plan, frame, change, close }: Omit<SnagsProps, "snags" | "planId"> & { snag: Snag; close: () => void }) {
  const nameOf = useNameOf(plan);
  const [why, setWhy] = useState<string | null>(null);
  const letBe = () => change((before) => ({ ...before, set_aside: [...before.set_aside, { snag: snag.key, offer: snag.offer, why: why?.trim() ?? "" }] }));
  const goTo = () => {
    close();
    goToWord(snag.offer, `/${snag.pointer.split("/").slice(4).join("/")}`);
  };
  return (
    <li className="grid grid-cols-[1fr_auto] gap-x-4">
      <div>
        {snag.offer ? (
          <button type="button" className="text-small font-semibold hover:underline" onClick={goTo}>
            {nameOf(snag.offer) || "The plan"}
            <span className="font-normal text-soft">{placeOf(snag.pointer)}</span>
          </button>
        ) : (
          <span className="text-small font-semibold">The plan</span>
        )}
        <p>{snag.text}</p>
        <p className="flex flex-wrap items-baseline gap-x-4 text-small">
          {snag.mend && (
            <button type="button" className="quiet" onClick={() => change((before) => withOffer(before, snag.offer, (one) => ({ ...one, terms: snag.mend!.terms })))}>
              {snag.mend.label}
            </button>
          )}
          {why === null ? (
            <button type="button" className="quiet" onClick={() => setWhy("")}>
              Let it be…
            </button>
          ) : (
            <form
              className="flex items-baseline gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                letBe();
              }}
            >
              <input aria-label="Why it is let be" autoFocus className="w-56 py-0 text-small" maxLength={400} placeholder="Why, for later" value={why} onChange={(event) => setWhy(event.target.value)} />
              <button type="submit" className="quiet">
                Let it be
              </button>
            </form>
          )}
        </p>
      </div>
      <span className="text-end">{snag.stake !== null && money(snag.stake, frame)}</span>
    </li>
  );
}
