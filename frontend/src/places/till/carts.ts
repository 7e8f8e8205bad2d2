/** Changing the cart at the Till without altering the one there was. */
import type { Cart, Plan } from "../../api/types";

/** An empty cart of a shopper nobody knows, at noon of the plan's first day. */
export const emptyCart = (plan: Plan, zone: string): Cart => ({
  id: "",
  lines: [],
  zone,
  time: `${plan.first_day}T12:00:00`,
  shopper: { id: "", group: "", tags: [], orders_before: null, days_since: null },
  channel: "",
  payment: "",
  option: "",
  currency: "",
  codes: [],
  chooses: {},
});

/** So many units of a SKU more; a line that comes to none is gone. */
export function withUnits(cart: Cart, sku: string, more: number): Cart {
  const known = cart.lines.find((line) => line.sku === sku);
  if (!known) return more > 0 ? { ...cart, lines: [...cart.lines, { sku, quantity: more, unit_price: null }] } : cart;
  return setUnits(cart, sku, known.quantity + more);
}

export const setUnits = (cart: Cart, sku: string, quantity: number): Cart => ({
  ...cart,
  lines: cart.lines.map((line) => (line.sku === sku ? { ...line, quantity } : line)).filter((line) => line.quantity > 0),
});

/** The units and the words of what is typed: `3 fern` is three of what `fern` finds. */
export function typedGood(text: string): { units: number; words: string[] } {
  const found = /^\s*(\d{1,4})\s*[x×]?\s+(.*)$/i.exec(text);
  const words = (found ? found[2]! : text).trim().toLowerCase().split(/\s+/).filter(Boolean);
  return { units: found ? Math.max(Number(found[1]), 1) : 1, words };
}
