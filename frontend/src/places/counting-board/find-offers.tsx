/** All offers of all plans, found by any words of theirs, each with what it is doing. */
import { Dialog } from "radix-ui";
import { useDeferredValue, useState } from "react";

import { useNames, useRunning } from "../../api/queries";
import type { Frame, Named, OfferDoc, Plan, SavedPlan } from "../../api/types";
import { useKey } from "../../pieces/keys";
import { nameOf } from "../../pieces/product-picker";
import { offerInWords } from "../../offers/sentence";

interface FindProps {
  frame: Frame;
  plans: SavedPlan[];
  go: (plan: number, offer: string) => void;
}

type Doing = "open now" | "to come" | "over" | "slid out";

function doing(plan: Plan, offer: OfferDoc, today: string): Doing {
  if (!offer.in_plan) return "slid out";
  const { first_day, last_day } = offer.terms.when;
  if (today < (first_day ?? plan.first_day)) return "to come";
  return today > (last_day ?? plan.last_day) ? "over" : "open now";
}

interface Found {
  saved: SavedPlan;
  offer: OfferDoc;
  words: string;
  /** All it is found by. */
  text: string;
  state: Doing;
}

/** Every product and code of an offer, also those that its sentence only counts. */
function named(offer: OfferDoc, goods: Named[]): string[] {
  const texts = new Set(JSON.stringify(offer.terms).match(/[^"\\]+/g));
  return [...offer.terms.given.codes, ...goods.filter((good) => texts.has(good.sku)).map((good) => `${nameOf(good)} ${good.sku}`)];
}

function all(plans: SavedPlan[], frame: Frame, goods: Named[], running: OfferDoc[]): Found[] {
  const now = new Date();
  const today = new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
  return plans.flatMap((saved) =>
    saved.plan.offers.map((offer) => {
      const words = offerInWords(offer, saved.plan, frame, goods, running);
      const state = doing(saved.plan, offer, today);
      const text = [saved.plan.name, offer.name, offer.note, words, state, ...named(offer, goods)].join(" ").toLowerCase();
      return { saved, offer, words, state, text };
    }),
  );
}

export function FindOffers({ frame, plans, go }: FindProps) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState("");
  const { data } = useNames();
  const running = useRunning();
  useKey("/", "find an offer of any plan", () => setOpen(true));
  const wanted = useDeferredValue(typed).toLowerCase().split(/\s+/).filter(Boolean);
  const has = ({ text }: Found) => wanted.every((word) => text.includes(word));
  const found = open ? all(plans, frame, data ?? [], running).filter(has) : [];
  const choose = ({ saved, offer }: Found) => {
    setOpen(false);
    setTyped("");
    go(saved.id, offer.id);
  };
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="quiet text-small">
        Find an offer <kbd className="rounded-slip border border-soft px-1 text-tiny">/</kbd>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content className="slip fixed top-20 left-1/2 z-50 flex max-h-[80vh] w-[44rem] -translate-x-1/2 flex-col" aria-describedby={undefined}>
          <Dialog.Title className="text-title">Offers of all plans</Dialog.Title>
          <input
            type="search"
            aria-label="Find an offer"
            placeholder="A word of the sentence, a code, a plan, or “to come”"
            className="mt-2 w-full"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Enter" && found[0]) choose(found[0]);
            }}
          />
          <ul className="mt-3 grid gap-1 overflow-y-auto">
            {found.map((one) => (
              <li key={`${one.saved.id} ${one.offer.id}`}>
                <button type="button" className="choice grid w-full grid-cols-[6.5rem_1fr] gap-x-3 text-start" onClick={() => choose(one)}>
                  <span className="text-small text-soft">{one.state}</span>
                  <span>
                    <span className="text-small font-semibold text-soft">{[one.saved.plan.name, one.offer.name].filter(Boolean).join(" · ")}</span>
                    <span className="block">{one.words}</span>
                  </span>
                </button>
              </li>
            ))}
          </ul>
          {found.length === 0 && <p className="mt-3 text-soft">No offer has all these words.</p>}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
