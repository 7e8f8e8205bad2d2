/** Thresholds of spend: where delivery is free today, and what plans ask for; and what carts near one of them lack. */
import type { Bands, Carts, OpenTo, Plan, SavedPlan } from "../../api/types";
import { listed } from "../../pieces/figures";
import type { Days } from "./mixes";

export interface Threshold {
  key: string;
  value: number;
  /** Whose it is, in words. */
  what: string;
  /** Whose orders, and to where and when, it is one for. */
  openTo: OpenTo;
  /** The offer of a plan it is of; null for the free delivery of today. */
  of: { saved: SavedPlan; offer: number; condition: number } | null;
}

/** A near miss lacks this part of the threshold or less. */
const NEAR = 8;

/** How much a near miss lacks at most: in round amounts, at least one of them. As the board counts them. */
export const nearReach = (threshold: number, round: number): number => Math.max(Math.round(threshold / NEAR / round), 1) * round;

/** Of today's delivery: the same one has the same key, wherever it is moved to. */
export const freeToday = ({ thresholds }: Carts): Threshold[] =>
  thresholds.map(({ value, zones }, at) => ({
    key: `delivery ${at}`,
    value,
    what: thresholds.length === 1 ? "free delivery today" : `free delivery to ${listed(zones)} today`,
    openTo: { where: { zones } },
    of: null,
  }));

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
        const { who, where, when } = offer.terms;
        return [{ key: `${saved.id} ${offer.id}`, value: one.n, what: offer.name || `offer ${at + 1}`, openTo: { who, where, when }, of: { saved, offer: at, condition } }];
      }),
    ),
  ];
}

const isAnything = (scope: Record<string, unknown>): boolean => Object.values(scope).every((part) => !Array.isArray(part) || part.length === 0);

/** Those who some thresholds are open to, each once, by a key. */
export const audiencesOf = (thresholds: readonly Threshold[]): Map<string, OpenTo> => new Map(thresholds.map(({ openTo }) => [audience(openTo), openTo]));

export const audience = (openTo: OpenTo): string => JSON.stringify(openTo);

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

/** Of orders it is open to. width: of the bands from 0 on. round: as `Frame.round_amount`. */
export function nearMisses(threshold: number, { fine, beyond }: Bands, width: number, round: number): NearMisses {
  const reach = Math.max(nearReach(threshold, round), width);
  let [orders, lack, above] = [0, 0, beyond];
  fine.forEach((some, at) => {
    if (at * width >= threshold) above += some;
    else if (at * width >= threshold - reach) {
      orders += some;
      lack += some * (threshold - (at + 0.5) * width);
    }
  });
  return { reach, orders, lack: orders ? lack / orders : 0, above };
}

/** In which row each of some labels has room, from one end to the other: the first in which none is in its way. */
export function rowsOf(spans: readonly (readonly [number, number])[]): number[] {
  const taken: (readonly [number, number])[][] = [];
  return spans.map(([from, to]) => {
    const free = taken.findIndex((row) => row.every(([start, end]) => to < start || from > end));
    const row = free < 0 ? taken.length : free;
    (taken[row] ??= []).push([from, to]);
    return row;
  });
}
