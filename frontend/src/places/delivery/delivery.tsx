/** Delivery in its simplest form: what shoppers are charged and what it costs you, zone by zone; and the shop's settings. */
import { useId, useState, type ReactNode } from "react";

import { ApiError, ask } from "../../api/client";
import { queries, renewAll, useDelivery, useFrame } from "../../api/queries";
import type { Delivery, FieldProblem, Frame, Settings, Zone } from "../../api/types";
import { count, money } from "../../pieces/figures";
import { useNotice } from "../../pieces/notice";
import { NumberBox } from "../../pieces/number-box";

const LARGEST = 100_000_000;

export function DeliveryPlace() {
  const { data: frame } = useFrame();
  const { data } = useDelivery();
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const { fail } = useNotice();
  if (!frame || !data) return null;

  const send = async (path: string, body: unknown) => {
    try {
      queries.setQueryData(["delivery"], await ask<Delivery>("PUT", path, body));
      setProblems([]);
      await renewAll();
    } catch (error) {
      if (error instanceof ApiError && error.fields.length) setProblems(error.fields);
      else fail(error);
    }
  };
  const zones: Zone[] = data.zones.map(({ name, charge, free_from, cost }) => ({ name, charge, free_from, cost, was: null }));
  return (
    <div className="grid grid-cols-[1fr_360px] gap-10 px-7 pt-4 pb-10">
      <section aria-labelledby="zones-title">
        <h1 id="zones-title" className="text-answer">
          What delivery earns and costs
        </h1>
        <p className="mt-1 max-w-2xl text-soft">
          One charge, one free-from value and one cost for each zone. Orders name the zone they went to.
        </p>
        {problems.map((one) => (
          <p key={one.pointer} role="alert" className="mt-2 text-loss-ink">
            {one.message} {one.mend}
          </p>
        ))}
        <Zones zones={zones} orders={data.zones.map((zone) => zone.orders)} frame={frame} save={(next) => void send("/zones", { zones: next })} />
      </section>
      <ShopSettings key={JSON.stringify(data.settings)} settings={data.settings} frame={frame} save={(next) => void send("/settings", next)} />
    </div>
  );
}

function Zones({ zones, orders, frame, save }: { zones: Zone[]; orders: number[]; frame: Frame; save: (zones: Zone[]) => void }) {
  const put = (at: number, part: Partial<Zone>) => save(zones.map((zone, n) => (n === at ? { ...zone, ...part } : zone)));
  const unit = 10 ** frame.minor_digits;
  const box = (at: number, key: "charge" | "free_from" | "cost", label: string) => (
    <SavedNumber
      label={`${label}, ${zones[at]!.name}`}
      value={zones[at]![key] ?? null}
      unit={unit}
      least={key === "free_from" ? 1 : 0}
      fine={key === "cost"}
      save={(value) => put(at, { [key]: value })}
    />
  );
  const name = (): string => {
    for (let n = zones.length + 1; ; n += 1) if (!zones.some((zone) => zone.name === `Zone ${n}`)) return `Zone ${n}`;
  };
  return (
    <>
      <table className="figures mt-4">
        <thead>
          <tr>
            <th scope="col">Zone</th>
            <th scope="col">Shoppers pay</th>
            <th scope="col">Free from</th>
            <th scope="col">It costs you</th>
            <th scope="col">An order leaves</th>
            <th scope="col" className="n">
              Orders
            </th>
            <th scope="col">
              <span className="sr-only">Take away</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {zones.map((zone, at) => (
            <tr key={zone.name}>
              <td>
                <SavedText label={`Name of zone ${at + 1}`} value={zone.name} save={(next) => put(at, { name: next, was: zone.name })} />
              </td>
              <td>{box(at, "charge", "Shoppers pay")}</td>
              <td>{box(at, "free_from", "Free from")}</td>
              <td>{box(at, "cost", "It costs you")}</td>
              <td>
                <Gap zone={zone} frame={frame} />
              </td>
              <td className="n">{count(orders[at] ?? 0)}</td>
              <td className="ps-4!">
                {!orders[at] && (
                  <button type="button" className="quiet text-small" onClick={() => save(zones.toSpliced(at, 1))}>
                    Take away<span className="sr-only"> {zone.name}</span>
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <button
        type="button"
        className="press mt-4"
        onClick={() => save([...zones, { name: name(), charge: null, free_from: null, cost: null, was: null }])}
      >
        Add a zone
      </button>
    </>
  );
}

/** What the charge without tax leaves after the cost of delivery. */
function Gap({ zone, frame }: { zone: Zone; frame: Frame }) {
  const { data } = useDelivery();
  if (zone.charge == null || zone.cost == null || !data) return <span className="text-loss-ink">missing</span>;
  const { prices_with_tax, tax_bp } = data.settings;
  const net = prices_with_tax ? zone.charge / (1 + tax_bp / 10_000) : zone.charge;
  return (
    <span className="text-small">
      <b className={net < zone.cost ? "text-loss-ink" : ""}>{money(net - zone.cost, frame)}</b> charged, {money(-zone.cost, frame)} free
    </span>
  );
}

/** A number saved when the box is left or Enter is pressed. */
function SavedNumber({ label, value, unit, least, fine, save }: { label: string; value: number | null; unit: number; least: number; fine: boolean; save: (value: number | null) => void }) {
  const [draft, setDraft] = useState(value);
  const [was, setWas] = useState(value);
  if (was !== value) {
    setWas(value);
    setDraft(value);
  }
  const done = () => draft !== value && save(draft);
  return (
    <span onBlur={done} onKeyDown={(event) => event.key === "Enter" && done()}>
      <NumberBox label={label} hideLabel fine={fine} value={draft} scale={unit} digits={Math.round(Math.log10(unit))} step={Math.max(1, unit / 2)} least={least} most={LARGEST} onChange={setDraft} onClear={() => setDraft(null)} />
    </span>
  );
}

function SavedText({ label, value, save }: { label: string; value: string; save: (value: string) => void }) {
  const [draft, setDraft] = useState(value);
  const done = () => {
    const next = draft.trim();
    if (next && next !== value) save(next);
    else setDraft(value);
  };
  return (
    <input
      aria-label={label}
      className="w-40"
      value={draft}
      maxLength={60}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => event.key === "Enter" && done()}
    />
  );
}

function ShopSettings({ settings, frame, save }: { settings: Settings; frame: Frame; save: (settings: Settings) => void }) {
  const [draft, setDraft] = useState(settings);
  const put = (part: Partial<Settings>) => setDraft((before) => ({ ...before, ...part }));
  const unit = 10 ** frame.minor_digits;
  const dirty = JSON.stringify(draft) !== JSON.stringify(settings);
  return (
    <form
      aria-labelledby="settings-title"
      className="grid content-start gap-3 border-s-[1.5px] border-line ps-8"
      onSubmit={(event) => {
        event.preventDefault();
        save(draft);
      }}
    >
      <h2 id="settings-title" className="text-title">
        The whole shop
      </h2>
      <Labelled label="Name">
        {(id) => <input id={id} className="w-full" value={draft.name} maxLength={80} required onChange={(event) => put({ name: event.target.value })} />}
      </Labelled>
      <div className="flex gap-4">
        <Labelled label="Currency">
          {(id) => <input id={id} className="w-20 uppercase" value={draft.currency} maxLength={3} required onChange={(event) => put({ currency: event.target.value })} />}
        </Labelled>
        <NumberBox label="Tax rate" value={draft.tax_bp} scale={100} step={100} least={0} most={10_000} unit="%" onChange={(tax_bp) => put({ tax_bp })} />
      </div>
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={draft.prices_with_tax} onChange={(event) => put({ prices_with_tax: event.target.checked })} />
        Prices and charges are with tax
      </label>
      <div className="flex gap-4">
        <NumberBox label="Payment, share" value={draft.payment_bp} scale={100} step={10} least={0} most={10_000} unit="%" onChange={(payment_bp) => put({ payment_bp })} />
        <NumberBox label="and for each order" value={draft.payment_fixed} scale={unit} step={Math.max(1, unit / 20)} least={0} most={LARGEST} unit={frame.currency} fine digits={frame.minor_digits} onChange={(payment_fixed) => put({ payment_fixed })} />
      </div>
      <NumberBox label="Picking and packing an order" value={draft.picking_per_order} scale={unit} step={Math.max(1, unit / 20)} least={0} most={LARGEST} unit={frame.currency} fine digits={frame.minor_digits} onChange={(picking_per_order) => put({ picking_per_order })} />
      <Labelled label="Percentages off are taken from">
        {(id) => (
          <select id={id} value={draft.percent_of} onChange={(event) => put({ percent_of: event.target.value as Settings["percent_of"] })}>
            <option value="net">what earlier offers left</option>
            <option value="standing">the price before offers</option>
          </select>
        )}
      </Labelled>
      <Labelled label="Free delivery looks at">
        {(id) => (
          <select id={id} value={draft.delivery_from} onChange={(event) => put({ delivery_from: event.target.value as Settings["delivery_from"] })}>
            <option value="net">the goods after offers</option>
            <option value="standing">the goods before offers</option>
          </select>
        )}
      </Labelled>
      <Labelled label="Offers without a code">
        {(id) => (
          <select id={id} value={draft.self_applying} onChange={(event) => put({ self_applying: event.target.value as Settings["self_applying"] })}>
            <option value="any">any number on one order</option>
            <option value="one">only one on an order</option>
          </select>
        )}
      </Labelled>
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={draft.codes_with_self_applying} onChange={(event) => put({ codes_with_self_applying: event.target.checked })} />
        Codes go together with offers without a code
      </label>
      <NumberBox label="Codes an order may use" value={draft.codes_per_order} scale={1} step={1} least={1} most={8} width="4rem" onChange={(codes_per_order) => put({ codes_per_order: Math.round(codes_per_order) })} />
      <div>
        <button type="submit" className="press" data-main="true" disabled={!dirty}>
          Save
        </button>
      </div>
    </form>
  );
}

function Labelled({ label, children }: { label: string; children: (id: string) => ReactNode }) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-small text-soft">
        {label}
      </label>
      {children(id)}
    </div>
  );
}
