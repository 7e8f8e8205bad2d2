/** A word of an offer with a number in it, and the curve of profit over the values it could have. */
import type { KeyboardEvent, ReactNode } from "react";

import type { FieldProblem } from "../../api/types";
import type { Currency } from "../../pieces/figures";
import { NumberBox, nudged } from "../../pieces/number-box";
import { Slip } from "../../pieces/slip";
import { Faults, Word } from "../../pieces/words";
import { NumberCurve } from "./curve";
import type { Figure } from "./part";

/** A word with a number in it: arrows nudge it where it stands; open, it has a box and a curve. */
export function NumberWord({
  title,
  children,
  figure,
  unsound = [],
  currency,
  more,
}: {
  title: string;
  children: ReactNode;
  figure: Figure | null;
  unsound?: FieldProblem[];
  currency: Currency;
  more?: ReactNode;
}) {
  const nudge = (event: KeyboardEvent) => {
    const next = figure && nudged(event, figure.value, figure);
    if (next === null || next === undefined) return;
    event.preventDefault();
    figure?.set(next);
  };
  return (
    <Slip
      title={title}
      trigger={
        <Word unsound={unsound} onKeyDown={nudge}>
          {children}
        </Word>
      }
    >
      {figure && (
        <>
          <NumberBox {...figure} onChange={figure.set} autoFocus buttons />
          <NumberCurve {...figure} take={figure.set} currency={currency} />
        </>
      )}
      {more && <div className="mt-2 grid gap-2 border-t border-line pt-2">{more}</div>}
      <Faults of={unsound} />
    </Slip>
  );
}
