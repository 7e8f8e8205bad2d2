/** An offer's bead on the upright rod: slides sideways out of the plan and in, is dragged to another place. */
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";

import type { OfferDoc } from "../../api/types";

const SLIDE_PX = 22;

export function RodBead({
  offer,
  number,
  slide,
  move,
  what,
  at,
  placeAt,
}: {
  offer: OfferDoc;
  number: number | null;
  slide: () => void;
  move: (to: number) => void;
  what: string;
  at: number;
  placeAt: (y: number, id: string) => number;
}) {
  const start = useRef<{ x: number; y: number } | null>(null);
  const dragged = useRef(false);
  const [shift, setShift] = useState({ x: 0, y: 0 });
  const onPointerDown = (event: PointerEvent<HTMLButtonElement>) => {
    start.current = { x: event.clientX, y: event.clientY };
    dragged.current = false;
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const draggedBy = (event: PointerEvent, from: { x: number; y: number }) => {
    const [x, y] = [event.clientX - from.x, event.clientY - from.y];
    return Math.abs(y) > Math.abs(x) ? { x: 0, y } : { x: Math.max(-34, Math.min(34, x)), y: 0 };
  };
  const onPointerMove = (event: PointerEvent) => {
    if (!start.current) return;
    const by = draggedBy(event, start.current);
    if (Math.abs(by.x) > 4 || Math.abs(by.y) > 4) dragged.current = true;
    setShift(by);
  };
  const onPointerUp = (event: PointerEvent) => {
    if (!start.current) return;
    const by = draggedBy(event, start.current); // what is drawn may be a few moves behind
    start.current = null;
    setShift({ x: 0, y: 0 });
    if (Math.abs(by.x) > SLIDE_PX && by.x < 0 === offer.in_plan) slide();
    else if (Math.abs(by.y) > 12) {
      const to = placeAt(event.clientY, offer.id);
      if (to !== at) move(to);
    }
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (!event.altKey) return;
    if (event.key === "ArrowUp") move(at - 1);
    else if (event.key === "ArrowDown") move(at + 1);
    else return;
    event.preventDefault();
  };
  const out = offer.in_plan ? 0 : -22;
  return (
    <button
      type="button"
      aria-pressed={offer.in_plan}
      aria-label={`${number ?? "–"} ${what}: ${offer.in_plan ? "in the plan" : "slid out"}`}
      title="Click or slide sideways: out of the plan or in. Drag: change the order."
      className={`mt-0.5 flex h-[27px] w-[31px] touch-none items-center justify-center rounded-bead border-[1.5px] border-ink text-small font-bold ${
        offer.in_plan ? "bg-ink text-sheet" : "bg-sheet text-soft"
      } ${dragged.current && (shift.x || shift.y) ? "z-10" : "transition-transform duration-150"}`}
      style={{ transform: `translate(${out + shift.x}px, ${shift.y}px)` }}
      onClick={() => !dragged.current && slide()}
      {...{ onPointerDown, onPointerMove, onPointerUp, onKeyDown }}
    >
      {number ?? "–"}
    </button>
  );
}
