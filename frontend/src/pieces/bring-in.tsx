/** Bringing a CSV, XLSX or ODS file in, or several that belong together: drop or choose them, see how they read, mend or leave out,
 * save. Until the place shows what came in, it says what is being done. */
import { Dialog } from "radix-ui";
import { useEffect, useRef, useState, type Dispatch, type DragEvent, type ReactNode, type SetStateAction } from "react";

import { ask } from "../api/client";
import { renewAll } from "../api/queries";
import type { Upload } from "../api/types";
import { FileChoice } from "./file-choice";
import { CLOCK, Matching, UTC } from "./file-reading";
import { count, soMany } from "./figures";
import { Heading, Headings } from "./headings";
import { useNotice } from "./notice";

type Kind = Upload["kind"];

const POLL_MS = 150;
const ACCEPTED = ".csv,.txt,text/csv,.xlsx,.ods";
const DOING: Partial<Record<Upload["state"], string>> = { fetching: "fetching them", checking: "reading it", saving: "bringing it in", saved: "bringing it to the page" };
const busy = (upload: Upload | null) => upload?.state === "fetching" || upload?.state === "checking" || upload?.state === "saving";

/** A place's whole area takes a dropped file; a button chooses one. */
export function BringIn({ kind, what, children }: { kind: Kind; what: string; children: (choose: ReactNode, fetchNew: () => void) => ReactNode }) {
  const [upload, setUpload] = useState<Upload | null>(null);
  const [sending, setSending] = useState(false);
  const [over, setOver] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  /** Those sent last: another may be added to them. */
  const sent = useRef<File[]>([]);
  const { fail } = useNotice();

  const send = async (files: File[]) => {
    const [file, ...more] = files;
    if (!file) return;
    const form = new FormData();
    form.set("kind", kind);
    if (CLOCK !== UTC) form.set("clock", CLOCK);
    form.set("file", file);
    for (const one of more) form.append("more", one);
    setSending(true);
    try {
      sent.current = files;
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
    ask<Upload>("POST", `/uploads/fetched?clock=${encodeURIComponent(CLOCK === UTC ? "" : CLOCK)}`)
      .then(setUpload, fail)
      .finally(() => setSending(false));
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void send([...event.dataTransfer.files]);
  };

  const choose = (
    <>
      <FileChoice ref={picker} label={`File of ${what}`} accept={ACCEPTED} several take={(_, all) => void send(all)} />
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
      {upload && <Checking upload={upload} setUpload={setUpload} what={what} add={(more) => void send([...sent.current, ...more])} />}
    </div>
  );
}

interface CheckingProps {
  upload: Upload;
  setUpload: Dispatch<SetStateAction<Upload | null>>;
  what: string;
  /** Files beside those it was sent with. */
  add: (more: File[]) => void;
}

function Checking({ upload, setUpload, what, add }: CheckingProps) {
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
              setUpload((now) => (now?.id === next.id ? null : now)); // another file may have been given since
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
            {upload.kind === "orders" && upload.missing.length > 0 && <OtherHalf take={add} />}
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

/** A file tells orders or their lines alone: the other may be in one of its own. */
function OtherHalf({ take }: { take: (more: File[]) => void }) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <p className="mt-2 flex items-center gap-3">
      <FileChoice ref={picker} label="File that belongs to it" accept={ACCEPTED} several take={(_, all) => take(all)} />
      <span>Are orders in one file and their lines in another?</span>
      <button type="button" className="press" onClick={() => picker.current?.click()}>
        Add the other file
      </button>
    </p>
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
