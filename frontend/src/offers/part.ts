/** What the words of a sentence are given, and how they change the offer. */
import type { ReactNode } from "react";

import type { Frame, Named, Measured, OfferDoc, Plan, Terms } from "../api/types";
import { count, kilograms, rate } from "../pieces/figures";
import type { NumberFigure } from "../pieces/number-word";
import type { Spot } from "../pieces/words";

/** The largest figure any box of a sentence takes. */
export const LARGEST = 100_000_000;

/** What it takes to put an offer into words. */
export interface Say {
  frame: Frame;
  /** Minor units in one unit of the currency. */
  unit: number;
  /** As `Frame.round_amount`: what first figures are some of, and thresholds move by. */
  round: number;
  cash: (amount: number) => string;
  goods: Named[];
  plan: Plan;
  /** The offers that run already. */
  running: OfferDoc[];
  offer: OfferDoc;
  /** The clause whose slip is open: its word stays in the sentence even while it says nothing. */
  held: string | null;
  /** Nothing is shortened, so that it can be read back: every name, every code, every year. */
  full?: boolean;
}

export type Change = (terms: Terms) => Terms;

export interface PartProps extends Say {
  terms: Terms;
  edit: (make: Change) => void;
  /** The plan with the offer changed, for the curve. */
  variant: (make: Change) => Plan;
  /** What is wrong with a part of the offer. */
  at: (path: string) => Spot;
  hold: (clause: string | null) => void;
}

/** A sentence is a row of these: bare text, or a word that can be set. */
export type Token = string | { key: string; text: string; word: (part: PartProps) => ReactNode };

export const plain = (tokens: Token[]): string => tokens.map((one) => (typeof one === "string" ? one : one.text)).join("");

/** Where a value stands in the offer, and how to put another there. */
export interface Slot<Value> {
  path: string;
  value: Value;
  put: (value: Value) => Change;
}

/** A number of a sentence, as its box, its curve and the arrow keys take it. */
export interface Figure extends NumberFigure {
  tell: (value: number) => string;
  withValue: (value: number) => Plan;
}

interface Told {
  label: string;
  least?: number;
  most?: number;
  step?: number;
  unit?: string;
  tell?: (value: number) => string;
}

function figure(part: PartProps, slot: Slot<number>, told: Told, basis: Pick<Figure, "scale" | "step" | "unit" | "digits" | "tell" | "most">): Figure {
  return {
    least: 1,
    ...basis,
    ...told,
    value: slot.value,
    set: (value) => part.edit(slot.put(value)),
    withValue: (value) => part.variant(slot.put(value)),
  };
}

export const amountFigure = (part: PartProps, slot: Slot<number>, told: Told): Figure =>
  figure(part, slot, told, {
    scale: part.unit,
    step: Math.max(1, Math.round(part.round / 2)),
    unit: part.frame.currency,
    digits: part.frame.minor_digits,
    tell: part.cash,
    most: LARGEST,
  });

export const rateFigure = (part: PartProps, slot: Slot<number>, told: Told): Figure =>
  figure(part, slot, told, { scale: 100, step: 100, unit: "%", tell: rate, most: 10_000 });

export const countFigure = (part: PartProps, slot: Slot<number>, told: Told): Figure =>
  figure(part, slot, told, { scale: 1, step: 1, unit: "", tell: (value) => count(value), most: 1_000_000 });

export const weightFigure = (part: PartProps, slot: Slot<number>, told: Told): Figure =>
  figure(part, slot, told, { scale: 1000, step: 500, unit: "kg", tell: kilograms, most: LARGEST });

/** The figure of a threshold, in whatever a condition measures. */
export const thresholdFigure = (part: PartProps, kind: Measured["kind"], slot: Slot<number>, told: Told): Figure =>
  ({
    spend: () => amountFigure(part, slot, { step: part.round, ...told }),
    units: () => countFigure(part, slot, { unit: "units", ...told }),
    weight: () => weightFigure(part, slot, told),
    products: () => countFigure(part, slot, { unit: "products", most: 10_000, ...told }),
  })[kind]();

export const many = (n: number, noun: string): string => `${count(n)} ${noun}${n === 1 ? "" : "s"}`;
