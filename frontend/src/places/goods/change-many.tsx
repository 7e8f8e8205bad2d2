/** Changing many goods at once, said as a sentence, with what it would do shown before anything is saved. */
import { Dialog } from "radix-ui";
import { useState } from "react";

import { ask } from "../../api/client";
import { renewAll } from "../../api/queries";
import type { ChangeBody, Frame, GoodsChanged, Preview, Shown } from "../../api/types";
import { count, soMany, money, rate } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { useNotice } from "../../pieces/notice";
import { NumberBox } from "../../pieces/number-box";

type Field = ChangeBody["field"];
type Sort = "money" | "percent" | "weight" | "count" | "flag" | "names" | "class";

const FIELDS: [Field, string, Sort][] = [
  ["purchase_cost", "purchase cost", "money"],
  ["freight_cost", "inbound freight", "money"],
  ["duty_cost", "duty", "money"],
  ["packaging_cost", "packaging", "money"],
  ["other_cost", "other cost", "money"],
  ["list_price", "list price", "money"],
  ["going_price", "going price", "money"],
  ["reduced_price", "reduced price", "money"],
  ["least_advertised", "least advertised price", "money"],
  ["return_bp", "return rate", "percent"],
  ["commission_bp", "commission", "percent"],
  ["weight", "weight", "weight"],
  ["stock", "stock", "count"],
  ["tax_class", "tax class", "class"],
  ["tags", "tag", "names"],
  ["categories", "category", "names"],
  ["insured", "insured in the post", "flag"],
  ["never_discounted", "never discounted", "flag"],
  ["gift_only", "only given as a gift", "flag"],
];

type How = ChangeBody["how"];

interface Said {
  field: Field;
  how: How;
  value: number;
  name: string;
  flag: boolean;
}

const sortOf = (field: Field): Sort => FIELDS.find(([key]) => key === field)![2];

const hows = (sort: Sort): [How, string][] =>
  sort === "names" ? [["add", "Give the"], ["remove", "Take off the"]] : sort === "flag" || sort === "class" ? [["set", "Set"]] : [["raise", "Raise"], ["set", "Set"], ["add", "Add to"]];

export function ChangeMany({ shown, many, frame, taxClasses, close }: { shown: Shown; many: number; frame: Frame; taxClasses: string[]; close: () => void }) {
  const [said, setSaid] = useState<Said>({ field: "purchase_cost", how: "raise", value: 600, name: "", flag: true });
  const [preview, setPreview] = useState<Preview | null>(null);
  const [busy, setBusy] = useState(false);
  const { say, fail } = useNotice();
  const sort = sortOf(said.field);
  const put = (part: Partial<Said>) => setSaid((before) => ({ ...before, ...part }));
  const body: ChangeBody = { skus: [], shown, ...said };
  const run = async (what: () => Promise<void>) => {
    setBusy(true);
    try {
      await what();
    } catch (error) {
      fail(error);
    } finally {
      setBusy(false);
    }
  };
  const look = () => run(async () => setPreview(await ask<Preview>("POST", "/goods/preview", body)));
  const change = () =>
    run(async () => {
      await ask<GoodsChanged>("POST", "/goods/change", body);
      say(`${soMany(preview!.count, "good")} changed. Ctrl Z takes it back.`);
      setPreview(null);
      close();
      await renewAll();
    });
  const unit = 10 ** frame.minor_digits;
  return (
    <form
      aria-label="Change many goods at once"
      className="slip mt-3 flex flex-wrap items-center gap-x-2 gap-y-1"
      onSubmit={(event) => {
        event.preventDefault();
        void look();
      }}
    >
      <select aria-label="What to do" value={said.how} onChange={(event) => put({ how: event.target.value as How })}>
        {hows(sort).map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
      <select
        aria-label="Which figure"
        value={said.field}
        onChange={(event) => {
          const field = event.target.value as Field;
          put({ field, how: hows(sortOf(field))[0]![0], value: sortOf(field) === "percent" ? 400 : 600 });
        }}
      >
        {FIELDS.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
      <Value {...{ said, put, sort, unit, frame, taxClasses }} />
      <span>
        of the <b>{count(many)}</b> {many === 1 ? "good" : "goods"} shown below.
      </span>
      <span className="ms-auto flex gap-3">
        <button type="submit" className="press" data-main="true" disabled={busy || many === 0 || (sort === "names" && !said.name.trim())}>
          {busy ? "Counting…" : "See what it does"}
        </button>
        <button type="button" className="press" onClick={close}>
          Leave it
        </button>
      </span>
      {preview && <Previewed {...{ preview, sort, frame, busy, change }} close={() => setPreview(null)} />}
    </form>
  );
}

interface ValueProps {
  said: Said;
  put: (part: Partial<Said>) => void;
  sort: Sort;
  unit: number;
  frame: Frame;
  taxClasses: string[];
}

function Value({ said, put, sort, unit, frame, taxClasses }: ValueProps) {
  if (sort === "flag")
    return (
      <select aria-label="To" value={String(said.flag)} onChange={(event) => put({ flag: event.target.value === "true" })}>
        <option value="true">to yes</option>
        <option value="false">to no</option>
      </select>
    );
  if (sort === "class")
    return (
      <select aria-label="To" value={said.name} onChange={(event) => put({ name: event.target.value })}>
        <option value="">to {taxClasses[0]}, as usual</option>
        {taxClasses.map((name) => (
          <option key={name} value={name}>
            to {name}
          </option>
        ))}
      </select>
    );
  if (sort === "names") return <input aria-label="Name" placeholder="name" className="w-36" value={said.name} onChange={(event) => put({ name: event.target.value })} />;
  const percent = said.how === "raise" || sort === "percent";
  const scale = percent ? 100 : sort === "money" ? unit : sort === "weight" ? 1000 : 1;
  return (
    <>
      {said.how === "raise" ? "by" : said.how === "set" ? "to" : ""}
      <NumberBox hideLabel label="How much" value={said.value} scale={scale} step={scale} least={said.how === "set" ? 0 : -1_000_000_000} most={1_000_000_000} fine unit={percent ? "%" : sort === "money" ? frame.currency : sort === "weight" ? "kg" : ""} width="5.5rem" onChange={(value) => put({ value })} />
    </>
  );
}

interface PreviewedProps {
  preview: Preview;
  sort: Sort;
  frame: Frame;
  busy: boolean;
  change: () => void;
  close: () => void;
}

function Previewed({ preview, sort, frame, busy, change, close }: PreviewedProps) {
  const tell = (value: unknown): string => {
    if (value === null || value === undefined) return "nothing";
    if (Array.isArray(value)) return value.join(", ") || "none";
    if (typeof value === "boolean") return value ? "yes" : "no";
    if (typeof value === "string") return value || "as usual";
    return { money: () => money(Number(value), frame), percent: () => rate(Number(value)), weight: () => `${count(Number(value) / 1000, 3)} kg` }[sort as "money"]?.() ?? count(Number(value), 2);
  };
  const gain = preview.profit_after - preview.profit_before;
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content className="slip fixed top-16 left-1/2 z-50 grid max-h-[calc(100vh-6rem)] w-[44rem] -translate-x-1/2 grid-rows-[auto_1fr_auto] overflow-hidden" aria-describedby={undefined}>
          <div>
            <Dialog.Title className="text-title">
              {preview.count === 0 ? "Nothing would change" : `${soMany(preview.count, "good")} would change`}
            </Dialog.Title>
            {preview.count > 0 && (
              <p className="mt-1">
                Over the {soMany(preview.counted_days, "day")} counted you would keep <b>{money(Math.abs(gain), frame, { whole: true })} {gain < 0 ? "less" : "more"}</b>: {money(preview.profit_after, frame, { whole: true })} instead of{" "}
                {money(preview.profit_before, frame, { whole: true })}.
              </p>
            )}
          </div>
          <div className="mt-3 overflow-y-auto pe-2" tabIndex={0} role="region" aria-label="Goods that would change">
            <table className="figures w-full text-small">
              <Headings>
                <Heading>Product</Heading>
                <Heading>SKU</Heading>
                <Heading n>Now</Heading>
                <Heading n>Then</Heading>
              </Headings>
              <tbody>
                {preview.changed.map((one) => (
                  <tr key={one.sku}>
                    <th scope="row" className="text-ink!">
                      {one.product || one.sku} <span className="font-normal text-soft">{one.option}</span>
                    </th>
                    <td className="text-soft">{one.sku}</td>
                    <td className="n">{tell(one.before)}</td>
                    <td className="n font-semibold">{tell(one.after)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {preview.changed.length < preview.count && <p className="text-small text-soft">The first {count(preview.changed.length)} of {count(preview.count)}.</p>}
          </div>
          <div className="mt-3 flex gap-3 border-t border-line pt-3">
            {preview.count > 0 && (
              <button type="button" className="press" data-main="true" disabled={busy} onClick={change}>
                Change them
              </button>
            )}
            <Dialog.Close className="press">Leave it</Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
