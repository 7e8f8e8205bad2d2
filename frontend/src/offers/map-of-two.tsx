/** What the plan keeps over two of its numbers at once, as a field of beads: larger the more, notched where it is less than today. */
import { Dialog } from "radix-ui";
import { createContext, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from "react";

import { ask } from "../api/client";
import type { Curve, Forecast, Frame, Plan } from "../api/types";
import { BeadField, FieldTable } from "../pieces/bead-field";
import { money } from "../pieces/figures";
import { nameOfOffer } from "../pieces/offer-names";
import { differences, valuesAround } from "./curve";
import type { Figure } from "./part";

const [ACROSS, UP] = [11, 7];

export interface Known {
  title: string;
  figure: Figure;
}

interface Numbers {
  /** Every number of the board's sentences that can be moved. */
  known: Map<string, Known>;
  open: (id: string) => void;
}

const Context = createContext<Numbers>({ known: new Map(), open: () => undefined });

export const useNumbers = (): Numbers => useContext(Context);

export function NumbersOfBoard({ plan, frame, forecast, children }: { plan: Plan; frame: Frame; forecast: Forecast | null; children: ReactNode }) {
  const known = useRef(new Map<string, Known>());
  const [first, setFirst] = useState<string | null>(null);
  const numbers = useMemo(() => ({ known: known.current, open: setFirst }), []);
  return (
    <Context.Provider value={numbers}>
      {children}
      <Dialog.Root open={first !== null} onOpenChange={(open) => !open && setFirst(null)}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
          <Dialog.Content className="slip fixed top-16 left-1/2 z-50 max-h-[86vh] w-[46rem] max-w-[96vw] -translate-x-1/2 overflow-y-auto" aria-describedby={undefined}>
            {first !== null && <MapOfTwo key={first} first={first} known={known.current} {...{ plan, frame, forecast }} close={() => setFirst(null)} />}
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </Context.Provider>
  );
}

/** Values of a number, whole steps alone, none of them next to the one that is set. */
function around(figure: Figure, points: number): number[] {
  const values = valuesAround({ ...figure, least: Math.max(figure.least, Math.min(figure.step, figure.value)) }, points);
  const apart = (values.at(-1)! - values[0]!) / points / 2;
  return values.filter((one) => one === figure.value || Math.abs(one - figure.value) >= apart);
}

/** Where in the plan a number stands, and what it is called. */
export function placed({ title, figure }: Known, plan: Plan) {
  const [low, high] = [figure.least, figure.least === figure.value ? figure.value + figure.step : figure.value];
  const pointers = differences(figure.withValue(low), figure.withValue(high));
  const at = /^\/offers\/(\d+)\//.exec(pointers[0] ?? "");
  const offer = at ? plan.offers[Number(at[1])] : undefined;
  return { pointers, name: `${offer ? `${nameOfOffer(plan, offer)}: ` : ""}${title}` };
}

interface MapProps {
  first: string;
  known: Map<string, Known>;
  plan: Plan;
  frame: Frame;
  forecast: Forecast | null;
  close: () => void;
}

function MapOfTwo({ first, known, plan, frame, forecast, close }: MapProps) {
  const others = [...known.entries()].filter(([id]) => id !== first);
  const [second, setSecond] = useState(others[0]![0]);
  const [table, setTable] = useState(false);
  const across = known.get(first)!;
  const up = known.get(second) ?? others[0]![1];
  const [columns, rows] = [around(across.figure, ACROSS), around(up.figure, UP)];
  const asked = JSON.stringify([plan, first, second]);
  const [found, setFound] = useState<{ of: string; impacts: Map<number, (number | null)[]> }>({ of: "", impacts: new Map() });
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    const stop = new AbortController();
    const { pointers } = placed(across, plan);
    const go = async () => {
      setFailed(false);
      for (const value of rows) {
        const { impacts } = await ask<Curve>("POST", "/curve", { plan: up.figure.withValue(value), pointers, values: columns }, stop.signal);
        setFound((before) => ({ of: asked, impacts: new Map(before.of === asked ? before.impacts : []).set(value, impacts) }));
      }
    };
    go().catch(() => stop.signal.aborted || setFailed(true));
    return () => stop.abort();
    // eslint-disable-next-line -- asked anew when the plan or the numbers change
  }, [asked]);
  const impacts = found.of === asked ? found.impacts : new Map<number, (number | null)[]>();
  const cells = rows.flatMap((row) => columns.map((column, at) => ({ row, column, impact: impacts.get(row)?.[at] ?? null })));
  const told = cells.filter((one): one is typeof one & { impact: number } => one.impact !== null);
  const best = told.reduce<(typeof told)[number] | null>((so, one) => (so && so.impact >= one.impact ? so : one), null);
  const more = (impact: number) => `${money(Math.abs(impact), frame, { whole: true })} ${impact < 0 ? "less" : "more"}`;
  const takeBoth = (column: number, row: number) => {
    across.figure.set(column);
    up.figure.set(row);
    close();
  };
  return (
    <>
      <Dialog.Title className="text-title">What two numbers keep together</Dialog.Title>
      <div className="mt-2 grid gap-1">
        <p>
          <span className="text-soft">Across: </span>
          {placed(across, plan).name}, {across.figure.tell(across.figure.value)}
        </p>
        <label className="flex items-baseline gap-2">
          <span className="text-soft">Up:</span>
          <select value={second} onChange={(event) => setSecond(event.target.value)}>
            {others.map(([id, one]) => (
              <option key={id} value={id}>
                {placed(one, plan).name}, {one.figure.tell(one.figure.value)}
              </option>
            ))}
          </select>
        </label>
      </div>
      {failed && (
        <p role="alert" className="mt-2 text-loss-ink">
          The field could not be worked out. Close it and open it again.
        </p>
      )}
      {table ? (
        <FieldTable {...{ columns, rows, cells, across: across.figure, up: up.figure }} of={frame} />
      ) : (
        <BeadField
          label="What the plan keeps against today over both numbers; as a table below"
          {...{ columns, rows, cells, across: across.figure, up: up.figure, best }}
          take={takeBoth}
          level={forecast && forecast.start > 0 ? -forecast.start : null}
          tell={(impact) => `${more(impact)} than today`}
        />
      )}
      <div className="mt-1 flex flex-wrap items-baseline justify-between gap-x-4">
        <p className="text-small text-soft" aria-live="polite">
          {impacts.size < rows.length && !failed ? `${impacts.size} of ${rows.length} rows are worked out… ` : ""}
          {impacts.size === rows.length && "The line is where it keeps as much as today, the dashes are the plan as it stands. "}
          {best && impacts.size === rows.length && `Best here: ${across.figure.tell(best.column)} and ${up.figure.tell(best.row)}, ${more(best.impact)} than today.`}
        </p>
        <span className="flex gap-4 text-small">
          {best && (best.column !== across.figure.value || best.row !== up.figure.value) && impacts.size === rows.length && (
            <button type="button" className="quiet" onClick={() => takeBoth(best.column, best.row)}>
              Take both
            </button>
          )}
          <button type="button" className="quiet" aria-pressed={table} onClick={() => setTable(!table)}>
            {table ? "as beads" : "as a table"}
          </button>
        </span>
      </div>
    </>
  );
}
