/** Starting an offer: type its first words, and opening lines that fit are offered. */
import { Popover } from "radix-ui";
import { useId, useMemo, useState, type KeyboardEvent } from "react";

import { useNames } from "../../api/queries";
import type { Frame, Named, Terms } from "../../api/types";
import { money } from "../../pieces/figures";
import { beginning, openingsFor, understood, type Opening } from "./openings";

const NOTHING: Named[] = [];

interface WriteProps {
  frame: Frame;
  open: boolean;
  setOpen: (open: boolean) => void;
  begin: (terms: Terms) => void;
}

export function WriteOffer({ frame, open, setOpen, begin }: WriteProps) {
  const { data } = useNames();
  const id = useId();
  const [typed, setTyped] = useState("");
  const [at, setAt] = useState(0);
  const goods = data ?? NOTHING;
  const said = useMemo(() => understood(typed, frame, goods), [typed, frame, goods]);
  const found = openingsFor(typed, said);
  const sign = money(0, frame, { whole: true }).replace("0", "");
  const take = (opening: Opening | undefined) => {
    if (!opening) return;
    setOpen(false);
    begin(opening.make(beginning(frame, goods, said)));
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
            Say it in your words, then choose an opening
          </label>
          <input
            id={id}
            role="combobox"
            aria-expanded
            aria-controls={`${id}-openings`}
            aria-activedescendant={found[at] ? `${id}-${at}` : undefined}
            aria-autocomplete="list"
            className="mt-1 w-full"
            placeholder="Buy two…"
            autoComplete="off"
            value={typed}
            onChange={(event) => {
              setTyped(event.target.value);
              setAt(0);
            }}
            onKeyDown={onKeyDown}
          />
          <ul id={`${id}-openings`} role="listbox" aria-label="Openings" className="mt-2 max-h-72 overflow-y-auto">
            {found.map((opening, n) => (
              <li
                key={opening.words}
                id={`${id}-${n}`}
                role="option"
                aria-selected={n === at}
                ref={(item) => {
                  if (n === at) item?.scrollIntoView({ block: "nearest" });
                }}
                className={`choice ${n === at ? "bg-line" : ""}`}
                onClick={() => take(opening)}
              >
                {opening.words.replace("€", sign)}
              </li>
            ))}
          </ul>
          {found.length === 0 && <p className="mt-2 text-soft">No opening has any of these words. Each of them can be turned into any other, word by word.</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
