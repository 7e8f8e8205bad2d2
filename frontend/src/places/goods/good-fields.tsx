/** Everything that is kept of a SKU, as fields. */
import type { ReactNode } from "react";

import type { Frame, Good, GoodBody } from "../../api/types";
import { count, money } from "../../pieces/figures";
import { NumberBox } from "../../pieces/number-box";

const COSTS = [
  ["purchase_cost", "Purchase"],
  ["freight_cost", "Inbound freight"],
  ["duty_cost", "Duty"],
  ["packaging_cost", "Packaging"],
  ["other_cost", "Other"],
] as const;

interface FieldsProps {
  draft: GoodBody;
  put: (part: Partial<GoodBody>) => void;
  frame: Frame;
}

type Amounts = "list_price" | "going_price" | "reduced_price" | "least_advertised" | "purchase_cost" | "freight_cost" | "duty_cost" | "packaging_cost" | "other_cost" | "assembly_cost";

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

export function PriceFields({ draft, put, frame }: FieldsProps) {
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
        {draft.going_price != null && <Amount {...{ draft, put, frame }} field="going_price" label="Going price, in its place" />}
        <Amount {...{ draft, put, frame }} field="reduced_price" label="Reduced price" />
        <Amount {...{ draft, put, frame }} field="least_advertised" label="Least advertised price" />
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

export function CostFields({ draft, put, frame, good }: FieldsProps & { good: Good }) {
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

export function OtherFields({ draft, put, taxClasses }: FieldsProps & { taxClasses: string[] }) {
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
            {draft.tax_class && !taxClasses.includes(draft.tax_class) && <option value={draft.tax_class}>{draft.tax_class}, no rate said</option>}
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
