/** Thresholds of spend: where delivery is free today, and what plans ask for; and what carts near one of them lack. */
import type { Carts, Plan, SavedPlan } from "../../api/types";
import type { Days } from "./mixes";

export interface Threshold {
  key: string;
  value: number;
  /** Whose it is, in words. */
  what: string;
  /** The offer of a plan it is of; null for the free delivery of today. */
  of: { saved: SavedPlan; offer: number; condition: number } | null;
}

/** A near miss lacks this part of the threshold or less. */
const NEAR = 8;

/** How much a near miss lacks at most: in whole units of the currency, at least one of them. As the board counts them. */
export const nearReach = (threshold: number, unit: number): number => Math.max(Math.round(threshold / NEAR / unit), 1) * unit;

/** Of today's delivery: the same one has the same key, wherever it is moved to. */
export const freeToday = (carts: Carts): Threshold[] => carts.thresholds.map((value, at) => ({ key: `delivery ${at}`, value, what: "free delivery today", of: null }));

/** Of today's delivery, and of the offers of plans that run on some of the days. */
export function thresholdsOf(carts: Carts, plans: SavedPlan[], { first_day, last_day }: Days): Threshold[] {
  const running = plans.filter(({ plan }) => plan.first_day <= last_day && plan.last_day >= first_day);
  return [
    ...freeToday(carts),
    ...running.flatMap((saved) =>
      saved.plan.offers.flatMap((offer, at) => {
        const condition = offer.terms.earned.conditions.findIndex((one) => one.kind === "spend" && one.bound === "at_least" && isAnything(one.of));
        const one = offer.terms.earned.conditions[condition];
        if (!offer.in_plan || !one || one.kind !== "spend") return [];
        return [{ key: `${saved.id} ${offer.id}`, value: one.n, what: offer.name || `offer ${at + 1}`, of: { saved, offer: at, condition } }];
      }),
    ),
  ];
}

const isAnything = (scope: Record<string, unknown>): boolean => Object.values(scope).every((part) => !Array.isArray(part) || part.length === 0);

/** JSON pointer to the figure of a threshold in its plan. */
export const pointerOf = (offer: number, condition: number): string => `/offers/${offer}/terms/earned/conditions/${condition}/n`;

export function withThreshold(plan: Plan, offer: number, condition: number, n: number): Plan {
  const changed = structuredClone(plan);
  const one = changed.offers[offer]!.terms.earned.conditions[condition]!;
  if (one.kind === "spend") one.n = n;
  return changed;
}

export interface NearMisses {
  /** How far below the threshold they may lie. */
  reach: number;
  orders: number;
  /** What they lack on average. */
  lack: number;
  /** Orders that come to it. */
  above: number;
}

/** fine: orders by bands of `width` from 0 on; beyond: orders above the last of them. unit: of the currency. */
export function nearMisses(threshold: number, fine: readonly number[], width: number, beyond: number, unit: number): NearMisses {
  const reach = Math.max(nearReach(threshold, unit), width);
  let [orders, lack, above] = [0, 0, beyond];
  fine.forEach((some, at) => {
    const middle = (at + 0.5) * width;
    if (at * width >= threshold) above += some;
    else if (at * width >= threshold - reach) {
      orders += some;
      lack += some * (threshold - middle);
    }
  });
  return { reach, orders, lack: orders ? lack / orders : 0, above };
}
