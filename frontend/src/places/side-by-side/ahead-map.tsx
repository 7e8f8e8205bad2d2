/** Which response would make one column beat another: two figures at once, as a field of beads. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask } from "../../api/client";
import type { Ahead, AheadBody, Frame, Plan, Ranging, SideBySide } from "../../api/types";
import { BeadField, FieldTable } from "../../pieces/bead-field";
import { money, rate, roundUp } from "../../pieces/figures";
import { nameOfOffer } from "../../pieces/offer-names";
import { CALLED, MOST, rangeOf } from "../../offers/responses";
import type { Column } from "./columns";

const FIGURES = Object.keys(CALLED) as Ranging[];
const [ACROSS, UP] = [11, 7];

interface Figure {
  key: string;
  offer: string;
  figure: Ranging;
  name: string;
  value: number;
  most: number;
}

/** The figures of a plan's responses that somebody has said. */
function figuresOf(plan: Plan): Figure[] {
  return plan.offers
    .filter((one) => one.in_plan)
    .flatMap((offer) =>
      FIGURES.flatMap((figure) => {
        const { response } = offer.terms;
        const value = figure === "send_response_bp" ? (response.sends?.response_bp ?? null) : response[figure];
        const most = Math.max(rangeOf(response, figure)?.[1] ?? 0, 2 * (value ?? 0), 1_000);
        if (value === null) return [];
        return [{ key: `${offer.id} ${figure}`, offer: offer.id, figure, name: `${nameOfOffer(plan, offer)}: ${CALLED[figure]}`, value, most }];
      }),
    );
}

/** Values from none upwards in round steps past `most`, the one that is said in place of the nearest. */
export function spread({ value, most }: Pick<Figure, "value" | "most">, points: number): number[] {
  const step = roundUp(most / (points - 1) / 100) * 100;
  const steps = Array.from({ length: points }, (_, n) => n * step);
  const nearest = steps.reduce((best, one) => (Math.abs(one - value) < Math.abs(best - value) ? one : best), 0);
  return steps.map((one) => (one === nearest ? value : one));
}

interface Props {
  columns: Column[];
  found: SideBySide;
  frame: Frame;
}

export function AheadMap({ columns, found, frame }: Props) {
  const [pair, setPair] = useState(() => bestTwo(found));
  const [picked, setPicked] = useState<[string | null, string | null]>([null, null]);
  const [table, setTable] = useState(false);
  const [one, other] = pair.map((at) => Math.min(at, columns.length - 1)) as [number, number];
  const plans = [one, other].map((at) => found.plans[at] as Plan);
  const all = plans.flatMap(figuresOf).filter((figure, at, every) => every.findIndex(({ key }) => key === figure.key) === at);
  const across = all.find(({ key }) => key === picked[0]) ?? all[0];
  const up = all.find(({ key }) => key === picked[1] && key !== across?.key) ?? all.find(({ key }) => key !== across?.key);
  const within = (figure: Figure, points: number) => spread(figure, points).filter((one) => one <= MOST[figure.figure]);
  const asked = across && up && { across: within(across, ACROSS), up: within(up, UP) };
  const body: AheadBody | null = asked
    ? {
        columns: columns.map(({ plan, twist }) => ({ name: "", plan, twist })),
        one,
        other,
        across: { offer: across.offer, figure: across.figure, values_bp: asked.across },
        up: { offer: up.offer, figure: up.figure, values_bp: asked.up },
      }
    : null;
  const { data, isPlaceholderData } = useQuery({
    queryKey: ["side by side", "map", frame.data_version, body],
    queryFn: ({ signal }) => ask<Ahead>("POST", "/side-by-side/map", body, signal),
    enabled: body !== null && one !== other,
    placeholderData: keepPreviousData,
  });
  if (columns.length < 2) return <p className="text-soft">Put another plan beside it to see which response would make one beat the other.</p>;
  const choose = (label: string, value: number, set: (at: number) => void) => (
    <select aria-label={label} value={value} className="max-w-72" onChange={(event) => set(Number(event.target.value))}>
      {columns.map((column, at) => (
        <option key={column.key} value={at}>
          {column.name}
        </option>
      ))}
    </select>
  );
  const pick = (label: string, now: Figure | undefined, set: (key: string) => void) => (
    <select aria-label={label} value={now?.key ?? ""} className="max-w-80" onChange={(event) => set(event.target.value)}>
      {all.map((figure) => (
        <option key={figure.key} value={figure.key}>
          {figure.name}
        </option>
      ))}
    </select>
  );
  const more = (amount: number) => `${columns[one]!.name} keeps ${money(Math.abs(amount), frame, { whole: true })} ${amount < 0 ? "less" : "more"}`;
  return (
    <div>
      <p className="flex flex-wrap items-baseline gap-2">
        Where does {choose("The one", one, (at) => setPair([at, other]))} keep more than {choose("The other", other, (at) => setPair([one, at]))}?
      </p>
      {!body || one === other ? (
        <p className="mt-2 text-soft">{one === other ? "Choose two different columns." : "Of these two plans, fewer than two figures of the response are said. Say them below the sentences on the Counting board."}</p>
      ) : (
        <>
          <p className="mt-2 flex flex-wrap items-baseline gap-2">
            Across: {pick("Across", across, (key) => setPicked([key, up?.key ?? null]))} up: {pick("Up", up, (key) => setPicked([across?.key ?? null, key]))}
          </p>
          {data && data.rows.length === asked!.up.length && (
            <Field {...{ data, table, frame, more }} columns={asked!.across} rows={asked!.up} across={{ value: across!.value, tell: rate }} up={{ value: up!.value, tell: rate }} />
          )}
          <p className="flex justify-between text-small text-soft" aria-live="polite">
            {isPlaceholderData || !data ? "Working it out…" : "Yellow where the first keeps more, notched where the other does; the line is where both keep the same, the dashed square is what you expect."}
            <button type="button" className="quiet" aria-pressed={table} onClick={() => setTable(!table)}>
              {table ? "as beads" : "as a table"}
            </button>
          </p>
        </>
      )}
    </div>
  );
}

/** The columns that keep most. */
function bestTwo({ columns }: SideBySide): [number, number] {
  const [best = 0, next = 0] = columns.map((_, at) => at).toSorted((one, other) => columns[other]!.impact - columns[one]!.impact);
  return [best, next];
}

interface FieldProps {
  data: Ahead;
  columns: number[];
  rows: number[];
  across: { value: number; tell: (value: number) => string };
  up: { value: number; tell: (value: number) => string };
  table: boolean;
  frame: Frame;
  more: (amount: number) => string;
}

function Field({ data, columns, rows, across, up, table, frame, more }: FieldProps) {
  const cells = rows.flatMap((row, r) => columns.map((column, c) => ({ row, column, impact: data.rows[r]?.[c] ?? null })));
  return table ? (
    <FieldTable {...{ columns, rows, cells, across, up }} of={frame} />
  ) : (
    <div className="max-w-[46rem]">
      <BeadField label="How much more the one keeps than the other over both figures; as a table below" {...{ columns, rows, cells, across, up }} best={null} level={null} tell={more} />
    </div>
  );
}
