/** What the parts of a sentence are given. */
import type { FieldProblem, Frame, Plan, Terms } from "../../api/types";

/** The largest figure any box of a sentence takes. */
export const LARGEST = 100_000_000;

export interface PartProps {
  terms: Terms;
  frame: Frame;
  /** Minor units in one unit of the currency. */
  unit: number;
  cash: (amount: number) => string;
  edit: (make: (terms: Terms) => Terms) => void;
  /** The plan with the offer changed, for the curve. */
  variant: (make: (terms: Terms) => Terms) => Plan;
  /** What is wrong with a part of the offer. */
  at: (path: string) => FieldProblem[];
}
