/** Offers over the year: a row a plan, its days as a piece of rod that can be dragged to others, and what it keeps there. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { Link } from "react-router";

import { ask } from "../../api/client";
import { keepPlan, useRunning } from "../../api/queries";
import type { Frame, MovedPlan, Plan, SavedPlan, When, Year } from "../../api/types";
import { days, money } from "../../pieces/figures";
import { daysAfter, daysBetween, today } from "../../pieces/iso-days";
import { useListedKeys } from "../../pieces/keys";
import { useWidth } from "../../pieces/measured";
import { useNotice } from "../../pieces/notice";
import { nameOfRunning } from "../../pieces/offer-names";
import { monthsOf, overlaps, type Span } from "./year-scale";

const [ROW, TOP, NAME, FIGURE] = [46, 24, 210, 120];
const MONTH = new Intl.DateTimeFormat("en", { month: "short", timeZone: "UTC" });
const WAIT_MS = 120;

const YEAR_KEYS = [
  ["← →", "on a plan: move it by a day, with Shift by a week"],
  ["Enter, Esc", "leave it there, or where it was"],
] as const;

export function YearStrip({ frame, saved }: { frame: Frame; saved: SavedPlan[] }) {
  useListedKeys(YEAR_KEYS);
  const running = useRunning();
  const { data } = useQuery({ queryKey: ["year", frame.data_version, saved], queryFn: ({ signal }) => ask<Year>("GET", "/year", undefined, signal), placeholderData: (before) => before });
  const [box, width] = useWidth<HTMLDivElement>(1000);
  const [moves, setMoves] = useState<Record<number, number>>({});
  const spanOf = ({ id, plan }: SavedPlan): Span => ({ first_day: daysAfter(plan.first_day, moves[id] ?? 0), last_day: daysAfter(plan.last_day, moves[id] ?? 0) });
  // The months stay as they are while a plan is dragged.
  const months = monthsOf(saved.map(({ plan }) => plan), today());
  const whole = daysBetween(months[0]!, months.at(-1)!);
  const x = (day: string) => NAME + (Math.min(Math.max(daysBetween(months[0]!, day), 0), whole) / whole) * (width - NAME - FIGURE);
  const aDay = (width - NAME - FIGURE) / whole;
  const move = (id: number, by: number | null) => setMoves(({ [id]: _, ...rest }) => (by === null ? rest : { ...rest, [id]: by }));
  const height = TOP + (saved.length + running.length) * ROW;
  const both = overlaps(saved.map(spanOf));
  return (
    <div>
      <p className="text-small text-soft">
        A bead is a week. Drag a plan to other days, or move it by the arrow keys (Shift: a week); its forecast follows the season, weekdays and prices of those days. <a href="/api/calendar.ics" download className="quiet">All offers as a calendar</a>
      </p>
      <div ref={box} className="relative mt-2" style={{ height }}>
        <svg width={width} height={height} aria-hidden className="absolute inset-0">
          {both.map((one) => (
            <rect key={one.first_day} x={x(one.first_day)} y={TOP - 4} width={Math.max(x(daysAfter(one.last_day, 1)) - x(one.first_day), 2)} height={height - TOP + 4} fill="var(--color-line)" opacity={0.55} />
          ))}
          {[...saved, ...running].map(({ id }, at) => (
            <g key={id}>
              <line x1={NAME} x2={width - FIGURE} y1={TOP + at * ROW + 22} y2={TOP + at * ROW + 22} stroke="var(--color-ink)" strokeWidth={1.6} />
              {[NAME, width - FIGURE].map((end) => (
                <line key={end} x1={end} x2={end} y1={TOP + at * ROW + 13} y2={TOP + at * ROW + 31} stroke="var(--color-ink)" strokeWidth={3.4} strokeLinecap="round" />
              ))}
            </g>
          ))}
          {months.map((month, at) => (
            <g key={month}>
              <line x1={x(month)} x2={x(month)} y1={TOP - 6} y2={height} stroke="var(--color-line)" strokeWidth={1.2} />
              {at < months.length - 1 && (
                <text x={(x(month) + x(months[at + 1]!)) / 2} y={12} textAnchor="middle" fontSize={11.5} fill="var(--color-soft)">
                  {MONTH.format(new Date(month))}
                  {(at === 0 || month.endsWith("-01-01")) && ` ${month.slice(0, 4)}`}
                </text>
              )}
            </g>
          ))}
        </svg>
        <ol aria-label="Plans over the year">
          {saved.map((one, at) => (
            <Row
              key={one.id}
              saved={one}
              top={TOP + at * ROW}
              by={moves[one.id] ?? 0}
              move={(by) => move(one.id, by)}
              told={data?.plans.find(({ id }) => id === one.id) ?? null}
              {...{ frame, x, aDay, width }}
            />
          ))}
          {running.map((offer, at) => (
            <Running key={offer.id} name={nameOfRunning(running, offer)} when={offer.terms.when} top={TOP + (saved.length + at) * ROW} months={[months[0]!, months.at(-1)!]} {...{ x }} />
          ))}
        </ol>
      </div>
      {both.length > 0 && (
        <p className="mt-2 text-small">
          Shaded, plans overlap: {both.map((one) => days(one.first_day, one.last_day, false)).join("; ")}. Each is forecast as if it ran alone; put them into one plan to see them together.
        </p>
      )}
    </div>
  );
}

/** An offer that runs already, beside all plans: hollow, for it is part of today. months: the first day shown, and the day after the last. */
function Running({ name, when, top, months: [begin, end], x }: { name: string; when: When; top: number; months: [string, string]; x: (day: string) => number }) {
  const { first_day: first, last_day: last } = when;
  const told = first && last ? days(first, last) : first ? `from ${days(first, first)} on` : last ? `until ${days(last, last)}` : "until further notice";
  const [left, right] = [x(first ?? begin), last ? x(daysAfter(last, 1)) : x(end)];
  return (
    <li className="absolute inset-x-0" style={{ top, height: ROW }}>
      <div className="absolute top-1 start-0 leading-tight" style={{ width: NAME - 14 }}>
        <span className="block truncate font-head text-body font-semibold">{name}</span>
        <span className="block text-small text-soft">{told}</span>
      </div>
      <span aria-hidden className="absolute top-3.5 h-4 rounded-bead border-[1.5px] border-dashed border-ink bg-sheet" style={{ left, width: Math.max(right - left, 12) }} />
      <span className="absolute top-2.5 end-0 text-small text-soft">runs already</span>
    </li>
  );
}

interface RowProps {
  saved: SavedPlan;
  frame: Frame;
  top: number;
  /** Days it is moved by, and not yet saved there. */
  by: number;
  move: (by: number | null) => void;
  told: Year["plans"][number] | null;
  x: (day: string) => number;
  /** How wide a day is. */
  aDay: number;
  width: number;
}

function Row({ saved, frame, top, by, move, told, x, aDay, width }: RowProps) {
  const { plan } = saved;
  const [saving, setSaving] = useState(false);
  // What is asked to save must not be dropped for what is only looked at.
  const moved = useMoved(plan, saving ? 0 : by, frame.data_version);
  const { fail, say } = useNotice();
  const dragged = useRef<number | null>(null);
  const [first, last] = [daysAfter(plan.first_day, by), daysAfter(plan.last_day, by)];
  const [left, right] = [x(first), x(daysAfter(last, 1))];
  const impact = by ? (moved?.by === by ? moved.impact : null) : (told?.impact ?? null);
  const save = async (by: number) => {
    if (saving) return;
    if (!by) return move(null);
    setSaving(true);
    try {
      const { plan: there } = await ask<MovedPlan>("POST", "/year/move", { plan, first_day: daysAfter(plan.first_day, by) });
      keepPlan(await ask<SavedPlan>("PUT", `/plans/${saved.id}`, { revision: saved.revision, plan: there }));
      say(`“${plan.name}” now runs ${days(there.first_day, there.last_day)}.`);
    } catch (error) {
      fail(error);
    }
    setSaving(false);
    move(null);
  };
  const down = (event: PointerEvent<HTMLButtonElement>) => {
    dragged.current = event.clientX;
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const drag = (event: PointerEvent) => dragged.current !== null && move(Math.round((event.clientX - dragged.current) / aDay));
  const up = () => {
    if (dragged.current === null) return;
    dragged.current = null;
    void save(by);
  };
  const key = (event: KeyboardEvent) => {
    const way = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (way) move(by + way * (event.shiftKey ? 7 : 1));
    else if (event.key === "Enter") void save(by);
    else if (event.key === "Escape" && by) move(null);
    else return;
    event.preventDefault();
  };
  const cash = impact === null ? "" : `${money(Math.abs(impact), frame, { whole: true })} ${impact < 0 ? "less" : "more"}`;
  return (
    <li className="absolute inset-x-0" style={{ top, height: ROW }}>
      <div className="absolute top-1 start-0 leading-tight" style={{ width: NAME - 14 }}>
        <Link to={`/counting-board?plan=${saved.id}`} className="block truncate font-head text-body font-semibold hover:underline">
          {plan.name}
        </Link>
        <span className={`block text-small ${by ? "font-semibold" : "text-soft"}`}>{days(first, last)}</span>
      </div>
      <button
        type="button"
        className="absolute top-2 h-7 cursor-grab touch-none"
        style={{ left, width: Math.max(right - left, 12) }}
        aria-label={`${plan.name}, ${days(first, last)}${cash && `, keeps ${cash} than today`}: move it by the arrow keys${by ? ", Enter to leave it there" : ""}`}
        title={told?.why}
        onPointerDown={down}
        onPointerMove={drag}
        onPointerUp={up}
        onKeyDown={key}
        onBlur={() => dragged.current === null && void save(by)}
      >
        <Weeks width={Math.max(right - left, 12)} weeks={(daysBetween(first, last) + 1) / 7} lost={impact !== null && impact < 0} moving={by !== 0} />
      </button>
      <p className={`absolute top-2.5 end-0 text-end font-semibold ${impact !== null && impact < 0 ? "text-loss-ink" : ""}`} style={{ width: Math.min(FIGURE, width) }} aria-live="polite" data-testid="on-days">
        {cash || (told?.why ? <span title={told.why}>cannot be told</span> : "…")}
      </p>
    </li>
  );
}

/** A bead a week, the last one part of one; notched where the plan loses. */
function Weeks({ width, weeks, lost, moving }: { width: number; weeks: number; lost: boolean; moving: boolean }) {
  const count = Math.max(Math.ceil(weeks), 1);
  const [full, high] = [width / Math.max(weeks, 1), 28];
  return (
    <svg width={width} height={high} aria-hidden className="block">
      {Array.from({ length: count }, (_, n) => {
        const [x, wide] = [n * full, Math.min(full, width - n * full)];
        return (
          <g key={n}>
            <rect x={x + 0.8} y={2} width={Math.max(wide - 1.6, 2)} height={high - 4} rx={Math.min(8, wide / 2)} fill={lost ? "var(--color-loss)" : "var(--color-yellow)"} stroke="var(--color-ink)" strokeWidth={1.3} strokeDasharray={moving ? "3 2" : undefined} />
            {lost && wide > 9 && <path d={`M${x + wide / 2 - 4.5} 2.5l4.5 5l4.5 -5z`} fill="var(--color-paper)" stroke="var(--color-ink)" strokeWidth={1} />}
          </g>
        );
      })}
    </svg>
  );
}

/** What the plan keeps so many days later, once the moving pauses. */
function useMoved(plan: Plan, by: number, version: number): (MovedPlan & { by: number }) | null {
  const [found, setFound] = useState<(MovedPlan & { by: number }) | null>(null);
  useEffect(() => {
    if (!by) return;
    const asked = new AbortController();
    const timer = setTimeout(() => {
      ask<MovedPlan>("POST", "/year/move", { plan, first_day: daysAfter(plan.first_day, by) }, asked.signal)
        .then((moved) => setFound({ ...moved, by }))
        .catch(() => undefined); // told when it is left there
    }, WAIT_MS);
    return () => {
      clearTimeout(timer);
      asked.abort();
    };
  }, [plan, by, version]);
  return found;
}
