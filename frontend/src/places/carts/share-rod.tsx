/** Shares of all orders along one rod that always adds up to 100 %: a bead between two neighbours moves what one has to
 * the other. */
import { useRef, type KeyboardEvent, type PointerEvent } from "react";

import { share } from "../../pieces/figures";
import { useWidth } from "../../pieces/measured";

export interface Part {
  name: string;
  /** Basis points. */
  share: number;
  /** What is left, which nobody sketched. */
  isRest?: boolean;
}

const WHOLE = 10_000;
const [HEIGHT, ROD, STEP, LETTER] = [56, 22, 100, 7];
interface Props {
  parts: readonly Part[];
  draft: (shares: number[]) => void;
  put: (shares: number[]) => void;
}

/** Shares with the bound after one of them moved to where `upTo` of all orders come before it. */
export function moved(shares: readonly number[], at: number, upTo: number): number[] {
  const before = shares.slice(0, at).reduce((sum, one) => sum + one, 0);
  const both = shares[at]! + shares[at + 1]!;
  const mine = Math.min(Math.max(Math.round(upTo) - before, 0), both);
  return shares.with(at, mine).with(at + 1, both - mine);
}

export function ShareRod({ parts, draft, put }: Props) {
  const [box, width] = useWidth<HTMLDivElement>(640);
  const shares = parts.map((one) => one.share);
  const starts = shares.map((_, at) => shares.slice(0, at).reduce((sum, one) => sum + one, 0));
  const x = (told: number) => 8 + (told / WHOLE) * (width - 16);
  const held = useRef(false);
  const dragged = (event: PointerEvent<SVGCircleElement>, at: number) => {
    const left = event.currentTarget.ownerSVGElement!.getBoundingClientRect().left;
    const upTo = ((event.clientX - left - 8) / (width - 16)) * WHOLE;
    return moved(shares, at, Math.round(upTo / STEP) * STEP);
  };
  const bead = (at: number) => ({
    onPointerDown: (event: PointerEvent<SVGCircleElement>) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = true;
    },
    onPointerMove: (event: PointerEvent<SVGCircleElement>) => {
      if (held.current) draft(dragged(event, at));
    },
    onPointerUp: (event: PointerEvent<SVGCircleElement>) => {
      if (!held.current) return;
      held.current = false;
      put(dragged(event, at)); // what is drawn may be a few moves behind
    },
    onKeyDown: (event: KeyboardEvent) => {
      const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
      if (!way) return;
      event.preventDefault();
      put(moved(shares, at, starts[at + 1]! + way * STEP * (event.shiftKey ? 5 : 1)));
    },
  });
  return (
    <div ref={box} className="mt-1 min-w-0">
      <svg width={width} height={HEIGHT} role="group" aria-label="Shares of all orders">
        {parts.map((one, at) => {
          const [from, to] = [x(starts[at]!), x(starts[at]! + one.share)];
          const label = `${one.name} ${share(one.share / WHOLE)}`;
          const fits = Math.floor((to - from - 8) / LETTER);
          return (
            <g key={one.name}>
              <rect x={from} y={ROD - 6} width={Math.max(to - from, 0)} height={12} fill={one.isRest || at % 2 ? "var(--color-sheet)" : "var(--color-line)"} stroke="var(--color-ink)" strokeWidth={1.2} strokeDasharray={one.isRest ? "4 3" : undefined} />
              {fits > 3 && (
                <text x={(from + to) / 2} y={ROD + 26} fontSize={12} textAnchor="middle" fill="var(--color-ink)">
                  {label.length > fits ? `${label.slice(0, fits - 1)}…` : label}
                </text>
              )}
            </g>
          );
        })}
        {parts.slice(0, -1).map((one, at) => (
          <circle
            key={one.name}
            cx={x(starts[at + 1]!)}
            cy={ROD}
            r={9}
            fill="var(--color-sheet)"
            stroke="var(--color-ink)"
            strokeWidth={1.6}
            className="cursor-ew-resize touch-none"
            role="slider"
            tabIndex={0}
            aria-label={`${one.name} and ${parts[at + 1]!.name}`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(one.share / 100)}
            aria-valuetext={`${one.name} ${share(one.share / WHOLE)}, ${parts[at + 1]!.name} ${share(parts[at + 1]!.share / WHOLE)}`}
            {...bead(at)}
          />
        ))}
      </svg>
    </div>
  );
}
