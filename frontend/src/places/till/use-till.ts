/** The cart at the Till, what it comes to under a plan, and what would make its offers apply. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";

import { ask } from "../../api/client";
import type { Cart, Mended, Plan, TillOf } from "../../api/types";
import { keepCart, keptCart } from "../../pieces/kept-cart";

export function useCart(beginning: Cart): [Cart, (make: (cart: Cart) => Cart) => void] {
  const [cart, setCart] = useState<Cart>(() => ({ ...beginning, ...keptCart() }));
  const change = useCallback((make: (cart: Cart) => Cart) => {
    setCart((before) => {
      const after = make(before);
      keepCart(after);
      return after;
    });
  }, []);
  return [cart, change];
}

export const useRungUp = (plan: Plan, cart: Cart, version: number) =>
  useQuery({
    queryKey: ["till", version, plan, cart],
    queryFn: ({ signal }) => ask<TillOf>("POST", "/till", { plan, cart }, signal),
    placeholderData: keepPreviousData,
  });

/** They are asked for once the cart is rung up, so that they do not hold it up; those of another cart are not shown. */
export const useMends = (plan: Plan, cart: Cart, version: number, rungUp: boolean) =>
  useQuery({
    queryKey: ["till", "mends", version, plan, cart],
    queryFn: ({ signal }) => ask<{ mends: Mended[] }>("POST", "/till/mends", { plan, cart }, signal),
    enabled: rungUp && cart.lines.length > 0,
  });
