/** A menu of offers of plans, to choose one of. */
import { DropdownMenu } from "radix-ui";

import type { OfferDoc, SavedPlan } from "../../api/types";
import { nameOfOffer } from "../../pieces/offer-names";

interface Props {
  plans: SavedPlan[];
  /** Which offers may be chosen. */
  of: (offer: OfferDoc) => boolean;
  choose: (offer: OfferDoc, saved: SavedPlan) => void;
  align: "start" | "end";
  label?: string;
  className?: string;
  children: string;
}

export function OfferOfPlans({ plans, of, choose, align, label, className = "", children }: Props) {
  const every = plans.flatMap((saved) => saved.plan.offers.filter(of).map((offer) => ({ saved, offer })));
  if (every.length === 0) return null;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className={`quiet ${className}`} aria-label={label}>
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="slip max-h-96 overflow-y-auto" align={align} sideOffset={4}>
          {every.map(({ saved, offer }) => (
            <DropdownMenu.Item key={`${saved.id} ${offer.id}`} className="choice" onSelect={() => choose(offer, saved)}>
              {nameOfOffer(saved.plan, offer)} <span className="text-soft">of {saved.plan.name}</span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
