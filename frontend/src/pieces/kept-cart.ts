/** The cart at the Till, which stays while this window is open, whatever plan it is rung up under. */
import type { Cart } from "../api/types";

const KEPT = "yellow-abacus till";

export function keptCart(): Cart | null {
  try {
    return JSON.parse(sessionStorage.getItem(KEPT) ?? "null") as Cart | null;
  } catch {
    return null;
  }
}

export const keepCart = (cart: Cart) => sessionStorage.setItem(KEPT, JSON.stringify(cart));
