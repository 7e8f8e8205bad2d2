/** A threshold over the carts: a dashed line with a bead that is dragged, or nudged by arrows. */
import type { ScaleLinear } from "d3-scale";
import { useRef, type KeyboardEvent, type PointerEvent } from "react";

import type { Frame } from "../../api/types";
import { cash } from "../../pieces/figures";
import { cutTo, widthOf } from "../../pieces/measured";
import type { Threshold } from "./thresholds";

const [LETTERS, LABEL, BESIDE] = [12.5, 250, 11];
export const ROW = 15;
/** Figures and bold letters are wider than others. */
const WIDE = 1.15;

interface Props {
  threshold: Threshold;
  value: number;
  isOpen: boolean;
  x: ScaleLinear<number, number>;
  frame: Frame;
  /** Where the rows of labels begin, which of them this is in, and where the line ends. */
  top: number;
  row: number;
  base: number;
  most: number;
  step: number;
  choose: () => void;
  move: (value: number) => void;
  put: (value: number) => void;
}

/** What stands beside its bead, and on which side. */
function labelOf(threshold: Threshold, value: number, { x, most, frame }: Pick<Props, "x" | "most" | "frame">) {
  return { text: cutTo(`${cash(value, frame)} ${threshold.what}`, LABEL, LETTERS), onRight: x(value) + LABEL > x(most) };
}

/** From where to where its bead and label go. */
export function spanOf(threshold: Threshold, value: number, of: Pick<Props, "x" | "most" | "frame">): [number, number] {
  const { text, onRight } = labelOf(threshold, value, of);
  const [bead, end] = [of.x(value), BESIDE + widthOf(text, LETTERS) * WIDE];
  return onRight ? [bead - end, bead + BESIDE] : [bead - BESIDE, bead + end];
}

export function ThresholdMark({ threshold, value, isOpen, x, frame, top, row, base, most, step, choose, move, put }: Props) {
  const held = useRef(false);
  const at = (event: PointerEvent<SVGGElement>) => {
    const left = event.currentTarget.ownerSVGElement!.getBoundingClientRect().left;
    const told = Math.round(x.invert(event.clientX - left) / step) * step;
    return Math.min(Math.max(told, step), most);
  };
  const amount = cash(value, frame);
  const { text, onRight } = labelOf(threshold, value, { x, most, frame });
  const key = (event: KeyboardEvent) => {
    const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!way) return;
    event.preventDefault();
    put(Math.min(Math.max(value + way * step * (event.shiftKey ? 5 : 1), step), most));
  };
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={`${threshold.what}, from ${amount}`}
      aria-valuenow={value / step}
      aria-valuemin={1}
      aria-valuemax={most / step}
      aria-valuetext={amount}
      className="cursor-ew-resize touch-none"
      onFocus={choose}
      onClick={choose}
      onKeyDown={key}
      onPointerDown={(event) => {
        choose();
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = true;
      }}
      onPointerMove={(event) => held.current && move(at(event))}
      onPointerUp={(event) => {
        if (!held.current) return;
        held.current = false;
        const last = at(event); // what is drawn may be a few moves behind
        if (last !== threshold.value) put(last);
      }}
    >
      <line x1={x(value)} x2={x(value)} y1={top + 4} y2={base} stroke="transparent" strokeWidth={12} />
      <line x1={x(value)} x2={x(value)} y1={top + row * ROW + 10} y2={base} stroke="var(--color-ink)" strokeWidth={isOpen ? 2.4 : 1.6} strokeDasharray="3 3" />
      <circle cx={x(value)} cy={top + row * ROW + 9} r={6.5} fill={isOpen ? "var(--color-ink)" : "var(--color-sheet)"} stroke="var(--color-ink)" strokeWidth={1.5} />
      <text x={x(value) + (onRight ? -BESIDE : BESIDE)} y={top + row * ROW + 13} fontSize={LETTERS} textAnchor={onRight ? "end" : "start"} fontWeight={isOpen ? 650 : 400} fill="var(--color-ink)">
        {text}
      </text>
    </g>
  );
}
