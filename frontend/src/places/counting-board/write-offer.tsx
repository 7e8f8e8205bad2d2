/** Starting an offer: what is typed or pasted is read as one, and opening lines that fit are offered. */
import { Popover } from "radix-ui";
import { useId, useMemo, useState, type KeyboardEvent } from "react";

import { useNames, useRunning } from "../../api/queries";
import type { Frame, Named, Plan, Terms } from "../../api/types";
import { count, listed, sign } from "../../pieces/figures";
import { newOffer } from "../../pieces/new-parts";
import { beginning, openingsFor, understood } from "../../offers/openings";
import { knownOf } from "../../offers/reading/known";
import { LONGEST } from "../../offers/reading/read-sentence";
import { readOffer } from "../../offers/reading/read-words";
import { offerInWords } from "../../offers/sentence";

const NOTHING: Named[] = [];

interface WriteProps {
  plan: Plan;
  frame: Frame;
  open: boolean;
  setOpen: (open: boolean) => void;
  /** What was pasted, to begin with. */
  typed: string;
  setTyped: (typed: string) => void;
  begin: (terms: Terms) => void;
}

/** One way to begin the offer. missed: words that were not understood. */
interface Way {
  words: string;
  missed: string[];
  make: () => Terms;
}

export function WriteOffer({ plan, frame, open, setOpen, typed, setTyped, begin }: WriteProps) {
  const { data } = useNames();
  const running = useRunning();
  const id = useId();
  const [at, setAt] = useState(0);
  const goods = data ?? NOTHING;
  const tooLong = typed.length > LONGEST;
  const said = useMemo(() => understood(tooLong ? "" : typed, frame, goods), [typed, tooLong, frame, goods]);
  const found = useMemo((): Way[] => {
    const read = open ? readOffer(typed, knownOf(frame, goods, plan, running)) : null;
    const openings = openingsFor(tooLong ? "" : typed, said).map((one): Way => ({ words: one.words.replace("€", sign(frame)), missed: [], make: () => one.make(beginning(frame, goods, said)) }));
    if (!read) return openings;
    const words = offerInWords(newOffer(read.terms), plan, frame, goods, running);
    return [{ words, missed: read.missed, make: () => read.terms }, ...openings];
  }, [open, typed, tooLong, said, frame, goods, plan, running]);
  const take = (way: Way | undefined) => {
    if (!way) return;
    setOpen(false);
    setTyped("");
    begin(way.make());
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const way = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (way && found.length) setAt((at + way + found.length) % found.length);
    else if (event.key === "Enter") take(found[at]);
    else return;
    event.preventDefault();
  };
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        setTyped("");
        setAt(0);
      }}
    >
      <Popover.Trigger className="press">
        Write an offer <kbd className="rounded-slip border border-soft px-1 text-tiny font-normal">n</kbd>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="slip flex max-h-(--radix-popover-content-available-height) w-[27rem] flex-col" align="start" sideOffset={6} collisionPadding={12} aria-label="Write an offer" onFocusOutside={(event) => event.preventDefault()}>
          <label htmlFor={id} className="text-small text-soft">
            Say it in your words, or paste a sentence; then choose
          </label>
          <input
            id={id}
            role="combobox"
            aria-expanded
            aria-controls={`${id}-openings`}
            aria-activedescendant={found[at] ? `${id}-${at}` : undefined}
            aria-autocomplete="list"
            className="mt-1 w-full"
            placeholder="15 % off seeds from 3, until 17 March"
            autoComplete="off"
            value={typed}
            onChange={(event) => {
              setTyped(event.target.value);
              setAt(0);
            }}
            onKeyDown={onKeyDown}
          />
          <ul id={`${id}-openings`} role="listbox" aria-label="Openings" className="mt-2 max-h-72 overflow-y-auto">
            {found.map((way, n) => (
              <li
                key={`${n} ${way.words}`}
                id={`${id}-${n}`}
                role="option"
                aria-selected={n === at}
                ref={(item) => {
                  if (n === at) item?.scrollIntoView({ block: "nearest" });
                }}
                className={`choice ${n === at ? "bg-line" : ""}`}
                onClick={() => take(way)}
              >
                {way.words}
                {way.missed.length > 0 && <span className="block text-small italic">Left out, not understood: {listed(way.missed.map((one) => `“${one.slice(0, 60)}”`))}</span>}
              </li>
            ))}
          </ul>
          {tooLong && (
            <p role="alert" className="mt-2 text-loss-ink">
              That is too long for one offer. Paste one sentence of at most {count(LONGEST)} letters.
            </p>
          )}
          {found.length === 0 && <p className="mt-2 text-soft">No opening has any of these words. Each of them can be turned into any other, word by word.</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
