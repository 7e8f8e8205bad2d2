/** The upright rod the offers stand on: slide a bead out of the plan or in, drag it to change the order. */
import { DropdownMenu } from "radix-ui";
import { useRef, useState, type ReactNode } from "react";

import type { FieldProblem, Forecast, Frame, OfferDoc, Plan } from "../../api/types";
import { money } from "../../pieces/figures";
import { Expected, Facts } from "./expected";
import { copied, moved, newOffer, OPENINGS, withOffer, without } from "./offers";
import { RodBead } from "./rod-bead";
import { Sentence } from "./sentence";
import { Faults } from "./words";

interface RodProps {
  plan: Plan;
  frame: Frame;
  forecast: Forecast | null;
  problems: FieldProblem[];
  change: (make: (plan: Plan) => Plan) => void;
  writing: boolean;
  setWriting: (open: boolean) => void;
}

export function OfferRod({ plan, frame, forecast, problems, change, writing, setWriting }: RodProps) {
  const list = useRef<HTMLOListElement>(null);

  /** The place in the order that a height on the screen stands for. */
  const placeAt = (y: number, id: string): number => {
    const items = [...(list.current?.children ?? [])] as HTMLElement[];
    const others = items.filter((item) => item.dataset.offer !== id);
    return others.filter((item) => item.getBoundingClientRect().top + 20 < y).length;
  };

  let number = 0;
  return (
    <div className="relative ps-7 pe-4 pt-4 pb-10">
      <div aria-hidden className="absolute start-[41px] top-3 bottom-6 w-[3px] bg-ink" />
      <ol ref={list} className="relative grid gap-5">
        {plan.offers.map((offer, at) => {
          if (offer.in_plan) number += 1;
          return (
            <OfferItem
              key={offer.id}
              {...{ offer, at, plan, frame, change, placeAt }}
              number={offer.in_plan ? number : null}
              figures={forecast?.offers.find((one) => one.id === offer.id) ?? null}
              problems={problems
                .filter((one) => one.pointer.startsWith(`/offers/${at}/terms`))
                .map((one) => ({ ...one, pointer: one.pointer.slice(`/offers/${at}/terms`.length) }))}
            />
          );
        })}
      </ol>
      {plan.offers.length === 0 && (
        <p className="ms-11 text-soft">No offer stands on the rod yet, so the plan is just like today.</p>
      )}
      <div className="relative ms-11 mt-5">
        <DropdownMenu.Root open={writing} onOpenChange={setWriting}>
          <DropdownMenu.Trigger className="press">
            Write an offer <kbd className="rounded-slip border border-soft px-1 text-tiny font-normal">n</kbd>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content className="slip" align="start" sideOffset={6}>
              {OPENINGS.map(({ words, make }) => (
                <DropdownMenu.Item
                  key={words}
                  className="choice"
                  onSelect={() =>
                    change((before) => ({
                      ...before,
                      offers: [...before.offers, newOffer(make(10 ** frame.minor_digits, frame.categories))],
                    }))
                  }
                >
                  {words.replace("€", money(0, frame, { whole: true }).replace("0", ""))}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
    </div>
  );
}

interface ItemProps {
  offer: OfferDoc;
  at: number;
  number: number | null;
  plan: Plan;
  frame: Frame;
  figures: Forecast["offers"][number] | null;
  problems: FieldProblem[];
  change: (make: (plan: Plan) => Plan) => void;
  placeAt: (y: number, id: string) => number;
}

function OfferItem(props: ItemProps) {
  const { offer, at, number, plan, frame, figures, problems, change, placeAt } = props;
  const [naming, setNaming] = useState(false);
  const [noting, setNoting] = useState(false);
  const slide = () => change((before) => withOffer(before, offer.id, (one) => ({ ...one, in_plan: !one.in_plan })));
  const move = (to: number) => change((before) => moved(before, offer.id, to));
  const what = offer.name || `offer ${at + 1}`;
  const whole = problems.filter((one) => ["", "/gives", "/earned/conditions", "/earned/repeat"].includes(one.pointer));
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
            </span>
          )}
          <DropdownMenu.Root>
            <DropdownMenu.Trigger className="quiet shrink-0 text-small" aria-label={`Change ${what}`}>
              change
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal>
              <DropdownMenu.Content className="slip" align="end" sideOffset={4}>
                <Act does={() => setTimeout(() => setNaming(true), 50)}>{offer.name ? "Rename" : "Give it a name"}</Act>
                <Act does={() => setTimeout(() => setNoting(true), 50)}>{offer.note ? "Change the note" : "Write a note"}</Act>
                <Act does={slide}>{offer.in_plan ? "Slide out of the plan" : "Slide into the plan"}</Act>
                {at > 0 && <Act does={() => move(at - 1)}>Move up</Act>}
                {at < plan.offers.length - 1 && <Act does={() => move(at + 1)}>Move down</Act>}
                <Act does={() => change((before) => copied(before, offer.id))}>Copy</Act>
                <Act does={() => change((before) => without(before, offer.id))}>Delete</Act>
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
        </div>
        <Sentence {...{ offer, plan, frame, problems, change }} />
        <Faults of={whole} />
        <Expected {...{ offer, plan, frame, problems, change }} />
        {figures && offer.in_plan && <Facts figures={figures} frame={frame} />}
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
}

const Act = ({ does, children }: { does: () => void; children: ReactNode }) => (
  <DropdownMenu.Item className="choice" onSelect={does}>
    {children}
  </DropdownMenu.Item>
);
