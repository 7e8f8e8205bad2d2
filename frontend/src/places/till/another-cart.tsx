/** A cart from the history: an order, any one, one of a type, or one that just misses an offer. */
import { DropdownMenu, Dialog } from "radix-ui";
import { useState } from "react";

import { useCarts } from "../../api/queries";
import type { DrawBody, Frame, Plan } from "../../api/types";
import { useKey } from "../../pieces/keys";
import { OrderSearch } from "../../pieces/order-search";

interface AnotherProps {
  plan: Plan;
  frame: Frame;
  nameOf: (offer: string) => string;
  draw: (wanted?: Partial<DrawBody>) => void;
  empty: () => void;
}

export function AnotherCart({ plan, frame, nameOf, draw, empty }: AnotherProps) {
  const [finding, setFinding] = useState(false);
  const { data: carts } = useCarts();
  useKey("r", "ring up a cart of the history, any one", () => draw());
  useKey("/", "ring up an order", () => setFinding(true));
  const types = carts?.groups.map((group) => group.label) ?? [];
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="press">Take another cart</DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="slip max-h-(--radix-dropdown-menu-content-available-height) min-w-60 overflow-y-auto" align="end" sideOffset={6}>
            {frame.orders > 0 && (
              <>
                <DropdownMenu.Item className="choice" onSelect={() => draw()}>
                  Any cart of the history (r)
                </DropdownMenu.Item>
                <DropdownMenu.Item className="choice" onSelect={() => setTimeout(() => setFinding(true), 50)}>
                  Something like an order… (/)
                </DropdownMenu.Item>
                {plan.offers.some((one) => one.in_plan) && <DropdownMenu.Label className="mt-1 px-2 text-small text-soft">One that just misses</DropdownMenu.Label>}
                {plan.offers
                  .filter((one) => one.in_plan)
                  .map((one) => (
                    <DropdownMenu.Item key={one.id} className="choice" onSelect={() => draw({ near: one.id })}>
                      {nameOf(one.id)}
                    </DropdownMenu.Item>
                  ))}
                <DropdownMenu.Label className="mt-1 px-2 text-small text-soft">One of a type</DropdownMenu.Label>
                {types.map((label) => (
                  <DropdownMenu.Item key={label} className="choice" onSelect={() => draw({ way: "category", label })}>
                    {label}
                  </DropdownMenu.Item>
                ))}
                <DropdownMenu.Separator className="my-1.5 border-t border-line" />
              </>
            )}
            <DropdownMenu.Item className="choice" onSelect={empty}>
              An empty one
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Dialog.Root open={finding} onOpenChange={setFinding}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
          <Dialog.Content className="slip fixed top-20 left-1/2 z-50 w-[32rem] max-w-[calc(100vw-3rem)] -translate-x-1/2" aria-describedby={undefined}>
            <Dialog.Title className="text-title">Something like an order</Dialog.Title>
            <div className="mt-2">
              <OrderSearch
                frame={frame}
                take={(order) => {
                  setFinding(false);
                  draw({ order });
                }}
              />
            </div>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </>
  );
}
