/** A word of an offer with a number in it, and the curve of profit over the values it could have. */
import type { ReactNode } from "react";

import type { FieldProblem } from "../../api/types";
import type { Currency } from "../../pieces/figures";
import { NumberWord as Plain } from "../../pieces/number-word";
import { NumberCurve } from "./curve";
import type { Figure } from "./part";

interface Props {
  title: string;
  children: ReactNode;
  figure: Figure | null;
  unsound?: FieldProblem[];
  currency: Currency;
  more?: ReactNode;
}

export const NumberWord = ({ currency, ...props }: Props) => (
  <Plain {...props} beside={props.figure && <NumberCurve {...props.figure} take={props.figure.set} currency={currency} />} />
);
