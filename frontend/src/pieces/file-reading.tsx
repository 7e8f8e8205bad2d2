/** How a file reads: its columns and what each is taken for, numbers, dates, tax, times, statuses and rates; all of it can be
 * chosen otherwise. */
import { useId, useState } from "react";

import type { Upload } from "../api/types";
import { count } from "./figures";
import { Heading, Headings } from "./headings";

/** The reader's own, which is mostly the shop's, and all there are. */
export const CLOCK = Intl.DateTimeFormat().resolvedOptions().timeZone;
export const UTC = "UTC";
const CLOCKS = Intl.supportedValuesOf("timeZone");
const MARKS = [
  [".", "1,234.50"],
  [",", "1.234,50"],
] as const;
const ORDERS = [
  ["year first", "2026-03-31"],
  ["day first", "31/03/2026"],
  ["month first", "03/31/2026"],
] as const;
const TAXED = [
  ["as the shop", "as in your shop"],
  ["with tax", "with tax"],
  ["without tax", "without tax"],
] as const;
/** Columns that are not understood are named, up to so many. */
const MOST_NAMED = 8;
const PRICES = ["list_price", "price", "charge", "amount", "unit_price", "paid_price", "line_asked", "line_total", "line_discount", "order_discount"];
const DATES = ["date", "reduced_from", "reduced_to"];
const SEPARATOR: Record<string, string> = { ",": "commas", ";": "semicolons", "\t": "tabs", "|": "bars" };

interface TicksProps {
  legend: string;
  ticks: { name: string; count: number; ticked: boolean }[];
  disabled: boolean;
  put: (name: string, ticked: boolean) => void;
}

/** What some orders or rows are called, to be ticked; nothing where there are none. */
function Ticks({ legend, ticks, disabled, put }: TicksProps) {
  if (ticks.length === 0) return null;
  return (
    <fieldset className="mt-1 text-small" disabled={disabled}>
      <legend className="float-left me-2 text-soft">{legend}</legend>
      {ticks.map((one) => (
        <label key={one.name} className="me-4 inline-flex items-center gap-1.5">
          <input type="checkbox" checked={one.ticked} onChange={() => put(one.name, one.ticked)} />
          {one.name} ({count(one.count)})
        </label>
      ))}
    </fieldset>
  );
}

/** The file's columns and what each is taken for; any of it can be changed before anything is saved. */
export function Matching({ upload, recheck, disabled }: { upload: Upload; recheck: (body: unknown) => void; disabled: boolean }) {
  const id = useId();
  const fields = upload.columns.map((column) => column.field ?? null);
  const [inOrder] = useState(() => [...fields.keys()].sort((one, other) => Number(!fields[one]) - Number(!fields[other])));
  const lastOnes = inOrder.slice(-upload.not_understood.length).every((at) => !fields[at]);
  const reading = upload.reading ?? { decimal_mark: ".", date_order: "day first", taxed: "as the shop", left_out: null, rates: [], rates_of: "theirs" as const, no_goods: [], clock: "" };
  const read = (part: Partial<typeof reading>) => recheck({ fields, reading: { ...reading, ...part } });
  const many = (key: string) => upload.fields.some((field) => field.key === key && field.many);
  const choose = (at: number, key: string) =>
    recheck({ reading, fields: fields.map((one, n) => (n === at ? key || null : one === key && !many(key) ? null : one)) });
  return (
    <>
      <p className="text-small text-soft">
        Read as {upload.encoding}
        {upload.separator in SEPARATOR && `, cells parted by ${SEPARATOR[upload.separator]}`}.{" "}
        <label>
          Numbers like{" "}
          <select
            className="py-0"
            disabled={disabled}
            value={reading.decimal_mark}
            onChange={(event) => read({ decimal_mark: event.target.value as "." | "," })}
          >
            {MARKS.map(([mark, like]) => (
              <option key={mark} value={mark}>
                {like}
              </option>
            ))}
          </select>
        </label>
        {fields.some((key) => key && DATES.includes(key)) && (
          <label>
            , dates like{" "}
            <select
              className="py-0"
              disabled={disabled}
              value={reading.date_order}
              onChange={(event) => read({ date_order: event.target.value as typeof reading.date_order })}
            >
              {ORDERS.map(([order, like]) => (
                <option key={order} value={order}>
                  {like}
                </option>
              ))}
            </select>
          </label>
        )}
        {fields.some((key) => key && PRICES.includes(key)) && (
          <label>
            , prices{" "}
            <select className="py-0" disabled={disabled} value={upload.kind === "tariffs" && reading.taxed === "as the shop" ? "without tax" : reading.taxed} onChange={(event) => read({ taxed: event.target.value as typeof reading.taxed })}>
              {TAXED.filter(([taxed]) => upload.kind !== "tariffs" || taxed !== "as the shop").map(([taxed, words]) => (
                <option key={taxed} value={taxed}>
                  {words}
                </option>
              ))}
            </select>
          </label>
        )}
        {upload.in_utc && (
          <label>
            , times, which are in UTC, on the clock of{" "}
            <select className="max-w-44 py-0" disabled={disabled} value={reading.clock} onChange={(event) => read({ clock: event.target.value })}>
              <option value="">UTC, as they stand</option>
              {[...new Set([CLOCK, reading.clock, ...CLOCKS])].filter((clock) => clock && clock !== UTC).map((clock) => (
                <option key={clock} value={clock}>
                  {clock.replaceAll("_", " ")}
                </option>
              ))}
            </select>
          </label>
        )}
        {upload.foreign.length > 0 && fields.includes("rate") && (
          <label>
            , rates as what{" "}
            <select
              className="py-0"
              disabled={disabled}
              value={reading.rates_of}
              onChange={(event) => read({ rates_of: event.target.value as typeof reading.rates_of })}
            >
              <option value="theirs">one {upload.foreign.length === 1 ? upload.foreign[0] : "of theirs"} is in {upload.currency}</option>
              <option value="ours">one {upload.currency} is in {upload.foreign.length === 1 ? upload.foreign[0] : "theirs"}</option>
            </select>
          </label>
        )}
        .
        {upload.says.length === 1 && <b className="text-ink"> {upload.says[0]}</b>}
        {upload.remembered && " Its columns are taken as in the last file with these headings."}
        {upload.rounded > 0 && ` ${count(upload.rounded)} ${upload.rounded === 1 ? "amount has" : "amounts have"} more decimals than the currency and ${upload.rounded === 1 ? "is" : "are"} rounded.`}
      </p>
      {upload.says.length > 1 && (
        <ul className="mt-1 list-disc ps-5 text-small">
          {upload.says.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      )}
      <Ticks
        legend="Left out are orders that are"
        ticks={upload.statuses.map(({ status, orders, left_out }) => ({ name: status, count: orders, ticked: left_out }))}
        disabled={disabled}
        put={(status) => read({ left_out: upload.statuses.filter((one) => (one.status === status ? !one.left_out : one.left_out)).map((one) => one.status) })}
      />
      <Ticks
        legend="Passed over, as no goods, are rows of"
        ticks={upload.no_goods.map(({ name, rows, passed_over }) => ({ name, count: rows, ticked: passed_over }))}
        disabled={disabled}
        put={(name, ticked) => read({ no_goods: [...(reading.no_goods ?? []).filter((one) => one.name !== name), { name, passed_over: !ticked }] })}
      />
      {upload.foreign.length > 0 && <Rates foreign={upload.foreign} home={upload.currency ?? ""} rates={reading.rates ?? []} disabled={disabled} put={(rates) => read({ rates })} />}
      {upload.not_understood.length > 0 && (
        <p className="mt-1 text-small">
          Not understood, and left out unless you choose what {upload.not_understood.length === 1 ? "it is" : "they are"}:{" "}
          <b>{upload.not_understood.length > MOST_NAMED ? `${lastOnes ? "the last " : ""}${upload.not_understood.length} columns` : upload.not_understood.join(", ")}</b>
        </p>
      )}
      <table className="figures mt-2 w-full text-small">
        <Headings>
          <Heading>Column</Heading>
          <Heading>First cells</Heading>
          <Heading>Taken for</Heading>
        </Headings>
        <tbody>
          {inOrder.map((at) => ({ column: upload.columns[at], at })).map(({ column, at }) => (
            <tr key={at}>
              <th scope="row" id={`${id}-${at}`} className="text-ink!">
                {column.heading || "(no heading)"}
              </th>
              <td className="max-w-[22rem] truncate">{column.samples.filter(Boolean).join(" · ")}</td>
              <td>
                <select
                  aria-labelledby={`${id}-${at}`}
                  className="py-0"
                  disabled={disabled}
                  value={column.field ?? ""}
                  onChange={(event) => choose(at, event.target.value)}
                >
                  <option value="">left out</option>
                  {upload.fields.map((field) => (
                    <option key={field.key} value={field.key}>
                      {field.label}
                    </option>
                  ))}
                </select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

type Rate = NonNullable<NonNullable<Upload["reading"]>["rates"]>[number];

/** What one unit of each other currency of the file is in the shop's own; orders that tell a rate themselves keep it. */
function Rates({ foreign, home, rates, disabled, put }: { foreign: string[]; home: string; rates: readonly Rate[]; disabled: boolean; put: (rates: Rate[]) => void }) {
  const [text, setText] = useState<Record<string, string>>({});
  return (
    <form
      className="mt-1 flex flex-wrap items-baseline gap-x-4 text-small"
      onSubmit={(event) => {
        event.preventDefault();
        put(
          foreign.flatMap((currency) => {
            const typed = text[currency];
            const rate = typed === undefined ? rates.find((one) => one.currency === currency)?.rate : Number(typed.replace(",", "."));
            return rate && rate > 0 ? [{ currency, rate }] : [];
          }),
        );
      }}
    >
      {foreign.map((currency) => (
        <label key={currency}>
          One {currency} is{" "}
          <input
            className="w-20 py-0 text-end"
            inputMode="decimal"
            disabled={disabled}
            value={text[currency] ?? rates.find((one) => one.currency === currency)?.rate ?? ""}
            onChange={(event) => setText({ ...text, [currency]: event.target.value })}
          />{" "}
          {home}
        </label>
      ))}
      <button type="submit" className="quiet" disabled={disabled}>
        Use these rates
      </button>
    </form>
  );
}
