/** The cart at the Till, what it comes to under a plan, and what would make its offers apply. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";

import { ask } from "../../api/client";
import type { Cart, DrawBody, Drawn, Mended, Plan, TillOf } from "../../api/types";
import { keepCart, keptCart } from "../../pieces/kept-cart";
import { useNotice } from "../../pieces/notice";

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

/** Puts a cart of the history in the Till, another one each time. */
export function useDraw(plan: Plan, put: (cart: Cart) => void): (wanted?: Partial<DrawBody>) => void {
  const turn = useRef(0);
  const { say, fail } = useNotice();
  const draw = async (wanted: Partial<DrawBody>) => {
    turn.current += 1;
    try {
      const drawn = await ask<Drawn>("POST", "/till/draw", { plan, turn: Date.now() % 2 ** 30 + turn.current, ...wanted });
      put(drawn.cart);
      say(`${drawn.of}, as it would come under this plan.`);
    } catch (error) {
      fail(error);
    }
  };
  return (wanted = {}) => void draw(wanted);
}
