/** A word of a sentence with a number in it. */
import type { KeyboardEvent, ReactNode } from "react";

import type { FieldProblem } from "../api/types";
import { NumberBox, nudged } from "./number-box";
import { Slip } from "./slip";
import { Faults, Word } from "./words";

export interface NumberFigure {
  label: string;
  value: number;
  scale: number;
  step: number;
  least: number;
  most: number;
  unit: string;
  digits?: number;
  set: (value: number) => void;
}

interface Props {
  title: string;
  children: ReactNode;
  figure: NumberFigure | null;
  unsound?: FieldProblem[];
  /** What stands below its box, such as a curve. */
  beside?: ReactNode;
  more?: ReactNode;
}

/** Arrows nudge it where it stands; open, it has a box. */
export function NumberWord({ title, children, figure, unsound = [], beside, more }: Props) {
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
          {beside}
        </>
      )}
      {more && <div className="mt-2 grid grid-cols-[minmax(0,1fr)] gap-2 border-t border-line pt-2">{more}</div>}
      <Faults of={unsound} />
    </Slip>
  );
}
