/** Bringing a CSV or XLSX file in: drop or choose it, see how its columns are matched, mend or leave out, save. Until the
 * place shows what came in, it says what is being done. */
import { Dialog } from "radix-ui";
import { useEffect, useId, useRef, useState, type DragEvent, type ReactNode } from "react";

import { ask } from "../api/client";
import { renewAll } from "../api/queries";
import type { Upload } from "../api/types";
import { FileChoice } from "./file-choice";
import { count, soMany } from "./figures";
import { Heading, Headings } from "./headings";
import { useNotice } from "./notice";

type Kind = Upload["kind"];

const POLL_MS = 150;
const DOING: Partial<Record<Upload["state"], string>> = { fetching: "fetching them", checking: "reading it", saving: "bringing it in", saved: "bringing it to the page" };
const busy = (upload: Upload | null) => upload?.state === "fetching" || upload?.state === "checking" || upload?.state === "saving";

/** A place's whole area takes a dropped file; a button chooses one. */
export function BringIn({ kind, what, children }: { kind: Kind; what: string; children: (choose: ReactNode, fetchNew: () => void) => ReactNode }) {
  const [upload, setUpload] = useState<Upload | null>(null);
  const [sending, setSending] = useState(false);
  const [over, setOver] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const { fail } = useNotice();

  const send = async (file: File | undefined) => {
    if (!file) return;
    const form = new FormData();
    form.set("kind", kind);
    if (CLOCK !== UTC) form.set("clock", CLOCK);
    form.set("file", file);
    setSending(true);
    try {
      setUpload(await ask<Upload>("POST", "/uploads", form));
    } catch (error) {
      fail(error);
    } finally {
      setSending(false);
    }
  };
  /** From the order feed; what comes is checked like a file. */
  const fetchNew = () => {
    setSending(true);
    ask<Upload>("POST", "/uploads/fetched")
      .then(setUpload, fail)
      .finally(() => setSending(false));
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void send(event.dataTransfer.files[0]);
  };

  const choose = (
    <>
      <FileChoice ref={picker} label={`File of ${what}`} accept=".csv,.txt,text/csv,.xlsx" take={(file) => void send(file)} />
      <button type="button" className="press" disabled={sending} onClick={() => picker.current?.click()}>
        {sending ? "Sending the file…" : `Bring in ${what}`}
      </button>
    </>
  );
  return (
    <div
      className={`min-h-[calc(100vh-80px)] ${over ? "outline-[3px] -outline-offset-8 outline-dashed outline-ink" : ""}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={onDrop}
    >
      {children(choose, fetchNew)}
      {upload && <Checking upload={upload} setUpload={setUpload} what={what} />}
    </div>
  );
}

function Checking({ upload, setUpload, what }: { upload: Upload; setUpload: (upload: Upload | null) => void; what: string }) {
  const { say, fail } = useNotice();
  const working = busy(upload);
  /** Until the server has what was last chosen, nothing is chosen further: it would be chosen of what was before. */
  const [asking, setAsking] = useState(false);
  const showing = upload.state === "saved";

  useEffect(() => {
    if (!working) return;
    let over = false; // what was asked before may be answered after that
    const timer = setInterval(() => {
      ask<Upload>("GET", `/uploads/${upload.id}`)
        .then((next) => {
          if (over) return;
          setUpload(next);
          if (next.state === "saved" && next.saved) {
            const words = cameIn(next.saved);
            void renewAll().then(() => {
              setUpload(null);
              say(words);
            });
          }
        })
        .catch((error: unknown) => {
          if (over) return;
          setUpload(null);
          fail(error);
        });
    }, POLL_MS);
    return () => {
      over = true;
      clearInterval(timer);
    };
  }, [working, upload.id, setUpload, say, fail]);

  const step = async (path: string, method: "PUT" | "POST", body: unknown) => {
    setAsking(true);
    try {
      setUpload(await ask<Upload>(method, `/uploads/${upload.id}/${path}`, body));
    } catch (error) {
      fail(error);
    } finally {
      setAsking(false);
    }
  };
  const leave = () => {
    if (showing) return;
    setUpload(null);
    if (upload.state !== "saving") void ask("DELETE", `/uploads/${upload.id}`).catch(() => undefined); // gone already
  };
  const rows = upload.rejected_rows;
  const leaves = upload.statuses.reduce((sum, one) => sum + (one.left_out ? one.orders : 0), 0);
  return (
    <Dialog.Root open onOpenChange={(open) => !open && leave()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          className="slip fixed top-16 left-1/2 z-50 grid max-h-[calc(100vh-6rem)] w-[56rem] max-w-[calc(100vw-3rem)] -translate-x-1/2 grid-rows-[auto_1fr_auto] overflow-hidden"
          aria-describedby={undefined}
        >
          <div>
            <Dialog.Title className="text-title">
              {upload.name}: {DOING[upload.state] ?? `how it reads as ${what}`}
            </Dialog.Title>
            {(working || showing) && (
              <div role="status" className="mt-3 flex items-center gap-3">
                <progress value={showing ? undefined : upload.progress} max={1} className="h-3 w-72 accent-ink" aria-label="Progress" />
                {showing ? "It is in. Counting what it changes…" : `${count(upload.progress * 100)} %`}
              </div>
            )}
            {upload.problem && (
              <p role="alert" className="mt-2 text-loss-ink">
                {upload.problem} Nothing was brought in.
              </p>
            )}
            {upload.missing.length > 0 && (
              <p role="alert" className="mt-2 text-loss-ink">
                No column was found for {upload.missing.join(" and ")}. Choose it below.
              </p>
            )}
          </div>
          <div className="mt-3 overflow-y-auto pe-2">
            {upload.columns.length > 0 && !showing && (
              <Matching key={upload.id} upload={upload} recheck={(body) => step("columns", "PUT", body)} disabled={working || asking} />
            )}
            {rows > 0 && !showing && <Rejected upload={upload} />}
          </div>
          <div className="mt-3 flex items-center gap-3 border-t border-line pt-3">
            {upload.state === "checked" && upload.missing.length === 0 && (
              <>
                {rows === 0 && upload.good > 0 && (
                  <button type="button" className="press" data-main="true" onClick={() => void step("save", "POST", { good_rows_only: false })}>
                    Bring in {soMany(upload.good, what.replace(/s$/, ""))}
                  </button>
                )}
                {rows > 0 && upload.good > 0 && (
                  <button type="button" className="press" onClick={() => void step("save", "POST", { good_rows_only: true })}>
                    Bring in the good rows: {soMany(upload.good, what.replace(/s$/, ""))}
                  </button>
                )}
                {upload.good === 0 && leaves > 0 && (
                  <button type="button" className="press" onClick={() => void step("save", "POST", { good_rows_only: rows > 0 })}>
                    Leave out {count(leaves)} {leaves === 1 ? "order" : "orders"}
                  </button>
                )}
                {upload.good === 0 && leaves === 0 && <span>There is nothing good to bring in.</span>}
              </>
            )}
            {!showing && <Dialog.Close className="press">{upload.state === "failed" ? "Close" : "Leave it"}</Dialog.Close>}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** What became of a file, and what of it may not be as it was meant. */
function cameIn({ new: fresh, changed, unchanged, fewer, redated }: NonNullable<Upload["saved"]>): string {
  const words = [`${count(fresh)} new, ${count(changed)} changed, ${count(unchanged)} as they were.`];
  if (fewer) words.push(`${count(fewer)} of them ${fewer === 1 ? "has" : "have"} fewer units than before.`);
  if (redated === 1) words.push("1 of them was of another day before: is it another order with the same number?");
  if (redated > 1) words.push(`${count(redated)} of them were of another day before: are they others with the same numbers?`);
  return words.join(" ");
}

/** The reader's own, which is mostly the shop's, and all there are. */
const CLOCK = Intl.DateTimeFormat().resolvedOptions().timeZone;
const UTC = "UTC";
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
function Matching({ upload, recheck, disabled }: { upload: Upload; recheck: (body: unknown) => void; disabled: boolean }) {
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
        {upload.says.map((one) => (
          <b key={one} className="text-ink">
            {" "}
            {one}
          </b>
        ))}
        {upload.remembered && " Its columns are taken as in the last file with these headings."}
        {upload.rounded > 0 && ` ${count(upload.rounded)} ${upload.rounded === 1 ? "amount has" : "amounts have"} more decimals than the currency and ${upload.rounded === 1 ? "is" : "are"} rounded.`}
      </p>
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

/** What is really wrong, the most frequent first; rows that only go with those are counted below. */
function Rejected({ upload }: { upload: Upload }) {
  return (
    <section className="mt-4">
      <h3 className="text-body">
        {count(upload.rejected_rows)} {upload.rejected_rows === 1 ? "row cannot" : "rows cannot"} be brought in{" "}
        <a className="quiet text-small font-normal" href={`/api/uploads/${upload.id}/rejected.csv`} download>
          Download them as CSV
        </a>
      </h3>
      <table className="figures mt-1 w-full text-small">
        <Headings>
          <Heading n>Rows</Heading>
          <Heading className="ps-4!">Field</Heading>
          <Heading>What is wrong, and the mend</Heading>
          <Heading>Where</Heading>
        </Headings>
        <tbody>
          {upload.faults.map((one, at) => (
            <tr key={at}>
              <td className="n">{count(one.rows)}</td>
              <td className="ps-4!">{one.field}</td>
              <td>
                {one.message} {one.mend}
                {one.rows > 1 && <span className="text-soft"> And so in the others.</span>}
              </td>
              <td>
                {one.rows === 1 ? "row" : "rows"} {one.first_rows.join(", ")}
                {one.rows > one.first_rows.length && " …"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {upload.missing_goods > 0 && (
        <p className="mt-1 text-small">
          Goods lacks {upload.missing_goods === 1 ? "one SKU" : `${count(upload.missing_goods)} SKUs`} of these rows.{" "}
          <a className="quiet" href={`/api/uploads/${upload.id}/missing-goods.csv`} download>
            Download {upload.missing_goods === 1 ? "it" : "them"} as a goods file
          </a>
          , fill in what it cost you and weighs, and bring that in at Goods first.
        </p>
      )}
      {upload.more_faults > 0 && <p className="text-small text-soft">And {count(upload.more_faults)} further kinds of fault; the download has them all.</p>}
      {upload.left_out_rows > 0 && (
        <p className="text-small text-soft">
          {upload.left_out_rows === 1 ? "1 of the rows has nothing wrong itself: it belongs to one that has, and is" : `${count(upload.left_out_rows)} of the rows have nothing wrong themselves: they belong to one that has, and are`} left out with it.
        </p>
      )}
    </section>
  );
}
