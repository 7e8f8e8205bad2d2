/** A profile as beads on upright rods, one a weekday or month: a bead is dragged or nudged to say what will be. */
import { useRef, type KeyboardEvent, type PointerEvent } from "react";

import { count } from "../../pieces/figures";
import { useWidth } from "../../pieces/measured";

const HEIGHT = 118;
const TOP = 12;
const BASE = 86;
const MOST_TIMES = 100;
const STEP = 0.05;

interface Props {
  title: string;
  names: readonly string[];
  long: readonly string[];
  /** Gone by, in times an average day. */
  profile: readonly number[];
  /** As the history shows it. */
  counted: readonly number[];
  isOwn: boolean;
  /** Why some of it is not told apart; empty where all is. */
  unseen: string;
  draft: (profile: number[]) => void;
  put: (profile: number[] | null) => void;
}

export function ProfileRods({ title, names, long, profile, counted, isOwn, unseen, draft, put }: Props) {
  const [box, width] = useWidth<HTMLElement>(560);
  const most = Math.max(2, ...profile.map((one) => one * 1.12), ...counted.map((one) => one * 1.12));
  const y = (times: number) => BASE - (times / most) * (BASE - TOP);
  const each = width / names.length;
  const held = useRef<{ at: number; most: number; last: number[] } | null>(null);

  const with_ = (at: number, times: number) => profile.with(at, Math.min(Math.max(times, 0), MOST_TIMES));
  const dragged = (event: PointerEvent<SVGCircleElement>) => {
    const drag = held.current!;
    const top = event.currentTarget.ownerSVGElement!.getBoundingClientRect().top;
    const times = ((BASE - (event.clientY - top)) / (BASE - TOP)) * drag.most;
    return profile.with(drag.at, Math.round(Math.min(Math.max(times, 0), drag.most) * 100) / 100);
  };
  const beads = (at: number) => ({
    onPointerDown: (event: PointerEvent<SVGCircleElement>) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = { at, most, last: [...profile] };
    },
    onPointerMove: (event: PointerEvent<SVGCircleElement>) => {
      if (held.current) draft((held.current.last = dragged(event)));
    },
    onPointerUp: (event: PointerEvent<SVGCircleElement>) => {
      if (!held.current) return;
      const last = dragged(event); // what is drawn may be a few moves behind
      held.current = null;
      if (last[at] !== counted[at] || isOwn) put(last);
    },
    onKeyDown: (event: KeyboardEvent) => {
      const way = { ArrowUp: 1, ArrowDown: -1 }[event.key];
      if (!way) return;
      event.preventDefault();
      put(with_(at, Math.round((profile[at]! + way * STEP * (event.shiftKey ? 4 : 1)) / STEP) * STEP));
    },
  });
  return (
    <section ref={box} aria-label={title} className="min-w-0">
      <h3 className="text-body">
        {title}{" "}
        <span className="text-small font-normal text-soft">
          {isOwn ? (
            <>
              as you said ·{" "}
              <button type="button" className="quiet" onClick={() => put(null)}>
                As counted
              </button>
            </>
          ) : (
            unseen || "times an average day; drag to correct"
          )}
        </span>
      </h3>
      <svg width={width} height={HEIGHT} role="group" aria-label={title}>
        <line x1={0} x2={width} y1={BASE} y2={BASE} stroke="var(--color-ink)" strokeWidth={2} />
        <line x1={0} x2={width} y1={y(1)} y2={y(1)} stroke="var(--color-line)" />
        {names.map((name, at) => {
          const x = each * (at + 0.5);
          return (
            <g key={name}>
              <line x1={x} x2={x} y1={TOP - 6} y2={BASE} stroke="var(--color-line)" strokeWidth={3} />
              <line x1={x} x2={x} y1={y(profile[at]!)} y2={BASE} stroke="var(--color-ink)" strokeWidth={3} />
              {isOwn && <line x1={x - 11} x2={x + 11} y1={y(counted[at]!)} y2={y(counted[at]!)} stroke="var(--color-ink)" strokeWidth={1.6} strokeDasharray="3 2" />}
              <circle
                cx={x}
                cy={y(profile[at]!)}
                r={7.5}
                fill={isOwn && Math.abs(profile[at]! - counted[at]!) > 0.005 ? "var(--color-ink)" : "var(--color-sheet)"}
                stroke="var(--color-ink)"
                strokeWidth={1.6}
                className="cursor-ns-resize touch-none"
                role="slider"
                tabIndex={0}
                aria-orientation="vertical"
                aria-label={long[at]}
                aria-valuemin={0}
                aria-valuemax={MOST_TIMES}
                aria-valuenow={Math.round(profile[at]! * 100) / 100}
                aria-valuetext={`${count(profile[at]!, 2)} times an average day`}
                {...beads(at)}
              />
              <text x={x} y={BASE + 14} fontSize={12} textAnchor="middle" fill="var(--color-ink)">
                {name}
              </text>
              <text x={x} y={BASE + 28} fontSize={11} textAnchor="middle" fill="var(--color-soft)">
                {count(profile[at]!, 2)}
              </text>
            </g>
          );
        })}
      </svg>
    </section>
  );
}
