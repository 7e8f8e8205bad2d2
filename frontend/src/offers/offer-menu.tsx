/** What can be done with a whole offer, besides writing its sentence. */
import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

import type { OfferDoc, SavedPlan } from "../api/types";

interface MenuProps {
  offer: OfferDoc;
  what: string;
  first: boolean;
  last: boolean;
  others: SavedPlan[];
  rename: () => void;
  note: () => void;
  slide: () => void;
  move: (by: number) => void;
  copy: () => void;
  copyOut: () => void;
  copyTo: (plan: SavedPlan) => void;
  runs: () => void;
  save: () => void;
  remove: () => void;
}

export function OfferMenu({ offer, what, first, last, others, rename, note, slide, move, copy, copyOut, copyTo, runs, save, remove }: MenuProps) {
  // What takes the focus does so once the menu has given it back.
  const later = (act: () => void) => () => setTimeout(act, 50);
  return (
    <ChangeMenu what={what}>
      <Act does={later(rename)}>{offer.name ? "Rename" : "Give it a name"}</Act>
      <Act does={later(note)}>{offer.note ? "Change the note" : "Write a note"}</Act>
      <Act does={slide}>{offer.in_plan ? "Slide out of the plan" : "Slide into the plan"}</Act>
      {!first && <Act does={() => move(-1)}>Move up</Act>}
      {!last && <Act does={() => move(1)}>Move down</Act>}
      <Act does={copy}>Copy</Act>
      <Act does={copyOut}>Copy its sentence out</Act>
      {others.map((plan) => (
        <Act key={plan.id} does={() => copyTo(plan)}>
          Copy to {plan.plan.name}
        </Act>
      ))}
      <Act does={runs}>It runs already</Act>
      <Act does={save}>Save to a file</Act>
      <Act does={remove}>Delete</Act>
    </ChangeMenu>
  );
}

/** The menu of an offer. what: how it is called. */
export const ChangeMenu = ({ what, children }: { what: string; children: ReactNode }) => (
  <DropdownMenu.Root>
    <DropdownMenu.Trigger className="quiet shrink-0 text-small" aria-label={`Change ${what}`}>
      change
    </DropdownMenu.Trigger>
    <DropdownMenu.Portal>
      <DropdownMenu.Content className="slip" align="end" sideOffset={4}>
        {children}
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  </DropdownMenu.Root>
);

export const Act = ({ does, children }: { does: () => void; children: ReactNode }) => (
  <DropdownMenu.Item className="choice" onSelect={does}>
    {children}
  </DropdownMenu.Item>
);
