/** The shares of ways that orders name: options of a zone, ways to pay. */
import { folded } from "../../pieces/lists";

export interface Named {
  name: string;
  orders: number;
}

/** Of the orders that name one of these, the share that names each, which come to 10,000 together; null where none does. */
export function sharesNamed(names: string[], told: Named[]): number[] | null {
  const orders = names.map((name) => told.reduce((sum, one) => (folded(one.name) === folded(name) ? sum + one.orders : sum), 0));
  const whole = orders.reduce((sum, one) => sum + one, 0);
  if (!whole) return null;
  let before = 0;
  let given = 0;
  return orders.map((one) => {
    before += one;
    const share = Math.round((before / whole) * 10_000) - given;
    given += share;
    return share;
  });
}

/** Whether shares, which count as everybody together, are those that orders name, but for half a hundredth. */
export function areNamed(shares: number[], named: number[]): boolean {
  const whole = shares.reduce((sum, one) => sum + one, 0);
  return whole > 0 && shares.every((one, at) => Math.abs((one / whole) * 10_000 - named[at]!) < 50);
}
