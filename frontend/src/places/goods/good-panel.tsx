/** One SKU opened: what a unit leaves at each of its prices, how deep a discount may go, and everything that is kept of it. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState, type FormEvent, type ReactNode } from "react";

import { ask } from "../../api/client";
import type { Frame, Good, GoodBody, Levels } from "../../api/types";
import { count, money, rate } from "../../pieces/figures";
import { NumberBox } from "../../pieces/number-box";
import { bodyOf } from "./good-body";
import type { Missing } from "./goods-list";
import { Loss } from "./goods-table";
import { PriceRod } from "./price-rod";

interface Props {
  good: Good;
  frame: Frame;
  taxClasses: string[];
  /** The figure that is missing, to be written at once. */
  wanted: Missing | null;
  save: (sku: string, body: GoodBody) => Promise<void>;
  close: () => void;
}

const COSTS = [
  ["purchase_cost", "Purchase"],
  ["freight_cost", "Inbound freight"],
  ["duty_cost", "Duty"],
  ["packaging_cost", "Packaging"],
  ["other_cost", "Other"],
] as const;

export function GoodPanel({ good, frame, taxClasses, wanted, save, close }: Props) {
  const [draft, setDraft] = useState<GoodBody>(() => bodyOf(good));
  const form = useRef<HTMLFormElement>(null);
  const put = (part: Partial<GoodBody>) => setDraft((before) => ({ ...before, ...part }));
  useEffect(() => {
    if (wanted) form.current?.querySelector<HTMLInputElement>(`[data-field=${wanted}] input`)?.focus();
  }, [wanted]);
  const dirty = JSON.stringify(draft) !== JSON.stringify(bodyOf(good));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void save(good.sku, draft);
  };
  return (
    <aside aria-label={`${good.product || good.sku}, opened`} className="mt-3 h-[calc(100vh-var(--spacing-top)-9.2rem)] min-h-64 overflow-y-auto border-s-[1.5px] border-line ps-5 pe-1 text-small">
      <div className="flex items-baseline gap-3">
        <h2 className="text-title">
          {good.product || good.sku} <span className="font-normal text-soft">{good.option}</span>
        </h2>
        <button type="button" className="quiet ms-auto" onClick={close}>
          Close
        </button>
      </div>
      <p className="text-soft">{good.sku}</p>
      <Prices good={good} frame={frame} />
      <form ref={form} onSubmit={submit} className="mt-4 grid gap-3 border-t border-line pt-3">
        <PriceFields {...{ draft, put, frame }} />
        <CostFields {...{ draft, put, frame, good }} />
        <OtherFields {...{ draft, put, frame, taxClasses }} />
        <div className="sticky bottom-0 flex gap-3 bg-paper py-2">
          <button type="submit" className="press" data-main="true" disabled={!dirty}>
            Save
          </button>
          <button type="button" className="press" disabled={!dirty} onClick={() => setDraft(bodyOf(good))}>
            Put back
          </button>
        </div>
      </form>
    </aside>
  );
}

/** Every price of the SKU as a rod, held against the dearest. */
function Prices({ good, frame }: { good: Good; frame: Frame }) {
  const { data } = useQuery({ queryKey: ["goods", good.sku, "prices"], queryFn: () => ask<Levels>("GET", `/goods/${encodeURIComponent(good.sku)}/prices`) });
  if (!data) return null;
  const most = Math.max(...data.levels.map((level) => level.margin?.price ?? 0), 1);
  return (
    <>
      <table className="figures mt-2 w-full">
        <caption className="sr-only">What a unit leaves at each price</caption>
        <thead>
          <tr>
            <th scope="col">At</th>
            <th scope="col" className="n">
              Price
            </th>
            <th scope="col" className="ps-3!">
              Where it goes
            </th>
            <th scope="col" className="n">
              Kept
            </th>
          </tr>
        </thead>
        <tbody>
          {data.levels.map(({ label, margin }) => (
            <tr key={label}>
              <th scope="row" className="text-ink! font-normal! whitespace-normal!">
                {label}
              </th>
              <td className="n">{margin && money(margin.price, frame)}</td>
              <td className="ps-3!">{margin ? <PriceRod margin={margin} width={118} most={most} of={frame} /> : <span className="text-loss-ink">its cost is missing</span>}</td>
              <td className="n font-semibold">{margin && <Loss value={margin.kept}>{money(margin.kept, frame)}</Loss>}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Deepest good={good} frame={frame} />
    </>
  );
}

function Deepest({ good, frame }: { good: Good; frame: Frame }) {
  if (good.deepest == null) return null;
  const room = (bp: number) => (bp < 0 ? "no discount at all: it loses money as it stands" : `up to ${rate(Math.floor(bp / 10) * 10)} off`);
  return (
    <p className="mt-2">
      By itself it stands <b>{room(good.deepest)}</b>.{" "}
      {good.delivery == null || good.deepest_delivered == null ? (
        "It was not ordered yet, so nothing is known of its delivery."
      ) : (
        <>
          With its typical delivery, {money(Math.abs(good.delivery), frame)} a unit {good.delivery < 0 ? "earned" : "beyond what shoppers pay"}, <b>{room(good.deepest_delivered)}</b>.
        </>
      )}
    </p>
  );
}

interface FieldsProps {
  draft: GoodBody;
  put: (part: Partial<GoodBody>) => void;
  frame: Frame;
}

type Amounts = "list_price" | "reduced_price" | "purchase_cost" | "freight_cost" | "duty_cost" | "packaging_cost" | "other_cost" | "assembly_cost";

function Amount({ draft, put, frame, field, label, fine = false }: FieldsProps & { field: Amounts; label: string; fine?: boolean }) {
  const unit = 10 ** frame.minor_digits;
  return (
    <span data-field={field}>
      <NumberBox
        label={label}
        value={draft[field] ?? null}
        scale={unit}
        digits={frame.minor_digits}
        step={Math.max(1, unit / 10)}
        least={0}
        most={2_000_000_000}
        fine={fine}
        width="5.6rem"
        onChange={(value) => put({ [field]: value })}
        onClear={() => put({ [field]: null })}
      />
    </span>
  );
}

function PriceFields({ draft, put, frame }: FieldsProps) {
  const unit = 10 ** frame.minor_digits;
  const price = (label: string, value: number, set: (price: number) => void) => (
    <NumberBox hideLabel label={label} value={value} scale={unit} digits={frame.minor_digits} step={Math.max(1, unit / 10)} least={0} most={2_000_000_000} width="5rem" onChange={set} />
  );
  const units = (label: string, value: number, set: (units: number) => void) => (
    <NumberBox hideLabel label={label} value={value} scale={1} step={1} least={1} most={1_000_000} width="3.6rem" onChange={(next) => set(Math.round(next))} />
  );
  return (
    <Group title="Prices">
      <div className="flex flex-wrap gap-3">
        <Amount {...{ draft, put, frame }} field="list_price" label="List price" />
        <Amount {...{ draft, put, frame }} field="reduced_price" label="Reduced price" />
      </div>
      {draft.reduced_price != null && (
        <div className="flex flex-wrap gap-3">
          <Day label="Reduced from" value={draft.reduced_from ?? null} set={(reduced_from) => put({ reduced_from })} />
          <Day label="Reduced to" value={draft.reduced_to ?? null} set={(reduced_to) => put({ reduced_to })} />
        </div>
      )}
      <Rows
        title="Quantity prices"
        rows={draft.quantity_prices}
        fresh={{ units: 6, price: draft.list_price ?? 0 }}
        set={(quantity_prices) => put({ quantity_prices })}
        row={(one, at, change) => (
          <>
            from {units(`Quantity price ${at + 1}, from`, one.units, (next) => change({ ...one, units: next }))} units at{" "}
            {price(`Quantity price ${at + 1}`, one.price, (next) => change({ ...one, price: next }))}
          </>
        )}
      />
      {draft.quantity_prices.length > 0 && <Flag label="All options of the product count together" value={draft.counted_by_product} set={(counted_by_product) => put({ counted_by_product })} />}
      <Rows
        title="Prices of groups"
        rows={draft.group_prices}
        fresh={{ group: frame.shoppers.groups[0] ?? "trade", units: 1, price: draft.list_price ?? 0 }}
        set={(group_prices) => put({ group_prices })}
        row={(one, at, change) => (
          <>
            <input aria-label={`Group ${at + 1}`} list="groups-known" className="w-24" value={one.group} onChange={(event) => change({ ...one, group: event.target.value })} /> from{" "}
            {units(`Group price ${at + 1}, from`, one.units, (next) => change({ ...one, units: next }))} at{" "}
            {price(`Group price ${at + 1}`, one.price, (next) => change({ ...one, price: next }))}
          </>
        )}
      />
      <datalist id="groups-known">
        {frame.shoppers.groups.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
    </Group>
  );
}

function CostFields({ draft, put, frame, good }: FieldsProps & { good: Good }) {
  const kit = draft.kit.length > 0;
  const side = (field: "length" | "width" | "height", label: string) => (
    <NumberBox label={label} value={draft[field] ?? null} scale={10} step={10} least={0} most={100_000} width="4.4rem" onChange={(value) => put({ [field]: Math.round(value) })} onClear={() => put({ [field]: null })} />
  );
  return (
    <Group title={kit ? "A kit: cost, weight and stock follow from its parts" : "What a unit costs"}>
      {kit ? (
        <p>
          Its parts cost {good.unit_cost == null ? "an unknown amount" : money(good.unit_cost, frame)} with assembly and weigh {good.all_weight == null ? "an unknown weight" : `${count(good.all_weight / 1000, 2)} kg`}.
        </p>
      ) : (
        <div className="grid grid-cols-3 gap-3">
          {COSTS.map(([field, label]) => (
            <Amount key={field} {...{ draft, put, frame, field, label }} fine />
          ))}
          <span data-field="weight">
            <NumberBox fine label="Weight, kg" value={draft.weight ?? null} scale={1000} step={100} least={0} most={2_000_000} width="5.6rem" onChange={(weight) => put({ weight })} onClear={() => put({ weight: null })} />
          </span>
        </div>
      )}
      <div className="grid grid-cols-3 gap-3">
        {side("length", "Length, cm")}
        {side("width", "Width, cm")}
        {side("height", "Height, cm")}
      </div>
      <Rows
        title="Kit parts"
        rows={draft.kit}
        fresh={{ sku: "", units: 1 }}
        set={(parts) => put({ kit: parts })}
        row={(one, at, change) => (
          <>
            <NumberBox hideLabel label={`Units of part ${at + 1}`} value={one.units} scale={1} step={1} least={1} most={10_000} width="3.4rem" onChange={(units) => change({ ...one, units: Math.round(units) })} /> of SKU{" "}
            <input aria-label={`SKU of part ${at + 1}`} className="w-36" value={one.sku} onChange={(event) => change({ ...one, sku: event.target.value })} />
          </>
        )}
      />
      {kit && <Amount {...{ draft, put, frame }} field="assembly_cost" label="Assembly of a kit" fine />}
    </Group>
  );
}

function OtherFields({ draft, put, taxClasses }: FieldsProps & { taxClasses: string[] }) {
  const percent = (field: "return_bp" | "commission_bp", label: string) => (
    <NumberBox label={label} value={draft[field]} scale={100} step={50} least={0} most={10_000} unit="%" width="4.4rem" onChange={(value) => put({ [field]: Math.round(value) })} />
  );
  const names = (field: "categories" | "tags", label: string) => (
    <label className="block">
      <span className="block text-soft">{label}, parted by ;</span>
      <input className="w-full" value={draft[field].join("; ")} onChange={(event) => put({ [field]: event.target.value.split(/;\s?/) })} onBlur={() => put({ [field]: [...new Set(draft[field].map((one) => one.trim()).filter(Boolean))] })} />
    </label>
  );
  const text = (field: "product" | "option" | "brand", label: string) => (
    <label className="block min-w-0">
      <span className="block text-soft">{label}</span>
      <input className="w-full" value={draft[field]} maxLength={200} onChange={(event) => put({ [field]: event.target.value })} />
    </label>
  );
  return (
    <Group title="Everything else">
      <div className="grid grid-cols-3 gap-3">
        {text("product", "Product")}
        {text("option", "Option")}
        {text("brand", "Brand")}
        <label>
          <span className="block text-soft">Tax class</span>
          <select className="w-full" value={draft.tax_class} onChange={(event) => put({ tax_class: event.target.value })}>
            <option value="">{taxClasses[0]}, as usual</option>
            {taxClasses.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        {percent("return_bp", "Come back")}
        {percent("commission_bp", "Commission")}
        <NumberBox label="Stock, units" value={draft.stock ?? null} scale={1} step={1} least={0} most={1_000_000_000} width="5.6rem" onChange={(stock) => put({ stock: Math.round(stock) })} onClear={() => put({ stock: null })} />
      </div>
      {names("categories", "Categories")}
      {names("tags", "Tags")}
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        <Flag label="Insured in the post" value={draft.insured} set={(insured) => put({ insured })} />
        <Flag label="Never discounted" value={draft.never_discounted} set={(never_discounted) => put({ never_discounted })} />
        <Flag label="Only given as a gift" value={draft.gift_only} set={(gift_only) => put({ gift_only })} />
      </div>
    </Group>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="grid gap-2">
      <legend className="mb-1 font-semibold">{title}</legend>
      {children}
    </fieldset>
  );
}

function Flag({ label, value, set }: { label: string; value: boolean; set: (value: boolean) => void }) {
  return (
    <label className="flex items-center gap-2">
      <input type="checkbox" checked={value} onChange={(event) => set(event.target.checked)} />
      {label}
    </label>
  );
}

function Day({ label, value, set }: { label: string; value: string | null; set: (day: string | null) => void }) {
  return (
    <label>
      <span className="block text-soft">{label}</span>
      <input type="date" value={value ?? ""} onChange={(event) => set(event.target.value || null)} />
    </label>
  );
}

/** A short list whose rows are written as half a sentence each. */
function Rows<Item>({ title, rows, fresh, set, row }: { title: string; rows: Item[]; fresh: Item; set: (rows: Item[]) => void; row: (one: Item, at: number, change: (one: Item) => void) => ReactNode }) {
  return (
    <div>
      {rows.map((one, at) => (
        <div key={at} className="mt-1 flex items-center gap-1.5">
          {row(one, at, (next) => set(rows.toSpliced(at, 1, next)))}
          <button type="button" className="quiet ms-1" aria-label={`Take away ${title.toLowerCase()} ${at + 1}`} onClick={() => set(rows.toSpliced(at, 1))}>
            take away
          </button>
        </div>
      ))}
      <button type="button" className="quiet mt-1" onClick={() => set([...rows, fresh])}>
        {title}: add one
      </button>
    </div>
  );
}
