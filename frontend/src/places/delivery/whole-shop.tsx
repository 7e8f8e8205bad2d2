/** The whole shop: its name and currency, what an order costs to pick, pack and take back, and what offers may do. */
import { useEffect, useId, useState, type ReactNode } from "react";

import type { Settings } from "../../api/types";
import { Labelled } from "../../pieces/labelled";
import { SavedNumber } from "../../pieces/saved-number";
import { Ticks } from "../../pieces/words";
import { AnotherShop } from "./another-shop";
import { moneyBox, PERCENT, useChanges, useShop, Wrong } from "./saving";

const LENGTH = { scale: 1, step: 1, least: 3, most: 30, width: "4rem" };
const HELD = { scale: 1, step: 1, least: 1, most: 1000, width: "4rem" } as const;

export function WholeShop() {
  const { frame, delivery } = useShop();
  const { settings } = delivery;
  const change = useChanges();
  const put = (part: Partial<Settings>) => void change.settings(part);
  const box = { ...moneyBox(frame), fine: true, showLabel: true, mayBeEmpty: false };
  const channels = [...new Set([...frame.shoppers.channels, ...settings.commission_channels])];
  const cost = (key: "picking_per_order" | "picking_per_unit" | "packaging_cost" | "return_postage" | "return_handling", label: string) => (
    <SavedNumber {...box} label={label} value={settings[key]} save={(value) => value !== null && put({ [key]: value })} />
  );
  const choose = <Key extends "percent_of" | "delivery_from" | "self_applying" | "code_letters">(key: Key, label: string, options: [Settings[Key], string][]) => (
    <Labelled label={label}>
      {(id) => (
        <select id={id} value={settings[key]} onChange={(event) => put({ [key]: event.target.value })}>
          {options.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      )}
    </Labelled>
  );
  return (
    <div className="grid max-w-6xl grid-cols-3 gap-10 max-[1000px]:grid-cols-2 max-[760px]:grid-cols-1">
      <Group title="The shop">
        <TextBox label="Name" value={settings.name} most={80} save={(name) => put({ name })} />
        <TextBox label="Currency" value={settings.currency} most={3} save={(currency) => put({ currency })} />
        <AnotherShop />
        <h2 className="mt-2 text-title">Commission</h2>
        <p className="text-small text-soft">Each product’s rate is set at Goods.</p>
        {channels.length > 0 && (
          <Ticks label="Asked only through (all, if none is ticked)" shown all={channels} ticked={settings.commission_channels} onChange={(commission_channels) => put({ commission_channels })} />
        )}
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={settings.commission_returned} onChange={(event) => put({ commission_returned: event.target.checked })} />
          Given back when goods come back
        </label>
        <Wrong />
      </Group>
      <Group title="Picking, packaging, returns">
        <div className="flex flex-wrap gap-x-4 gap-y-2">
          {cost("picking_per_order", "Picking an order")}
          {cost("picking_per_unit", "and each unit")}
        </div>
        <div className="flex flex-wrap gap-x-4 gap-y-2">
          {cost("packaging_cost", "Packaging a parcel")}
          <SavedNumber showLabel fine mayBeEmpty={false} scale={1} step={10} least={0} most={100_000} unit="g" width="5rem" label="which weighs" value={settings.packaging_weight} save={(packaging_weight) => packaging_weight !== null && put({ packaging_weight })} />
        </div>
        <div className="flex flex-wrap gap-x-4 gap-y-2">
          {cost("return_postage", "Postage of a return")}
          {cost("return_handling", "and handling it")}
        </div>
        <SavedNumber showLabel mayBeEmpty={false} {...PERCENT} label="Part of a returned product’s cost you can sell again" value={settings.resale_bp} save={(resale_bp) => resale_bp !== null && put({ resale_bp })} />
      </Group>
      <Group title="Offers">
        {choose("percent_of", "Percentages off are taken from", [
          ["net", "what earlier offers left"],
          ["standing", "the price before offers"],
        ])}
        {choose("delivery_from", "Free delivery looks at", [
          ["net", "the goods after offers"],
          ["standing", "the goods before offers"],
        ])}
        {choose("self_applying", "Offers without a code", [
          ["any", "any number on one order"],
          ["one", "only one on an order"],
        ])}
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={settings.codes_with_self_applying} onChange={(event) => put({ codes_with_self_applying: event.target.checked })} />
          Codes go together with offers without a code
        </label>
        <SavedNumber showLabel mayBeEmpty={false} scale={1} step={1} least={1} most={8} width="4rem" label="Codes an order may use" value={settings.codes_per_order} save={(codes_per_order) => codes_per_order !== null && put({ codes_per_order })} />
        <h3 className="mt-1 font-semibold">Codes your shop’s software takes</h3>
        <div className="flex flex-wrap gap-x-4 gap-y-2">
          <SavedNumber showLabel mayBeEmpty={false} {...LENGTH} label="Shortest" value={settings.code_shortest} save={(code_shortest) => code_shortest !== null && put({ code_shortest })} />
          <SavedNumber showLabel mayBeEmpty={false} {...LENGTH} label="Longest" value={settings.code_longest} save={(code_longest) => code_longest !== null && put({ code_longest })} />
        </div>
        {choose("code_letters", "Letters", [
          ["any", "of any script"],
          ["a_to_z", "A to Z only"],
        ])}
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={settings.code_marks === null} onChange={(event) => put({ code_marks: event.target.checked ? null : "-" })} />
          Any marks beside letters and digits
        </label>
        {settings.code_marks !== null && <TextBox label="Only these marks" value={settings.code_marks} most={20} mayBeEmpty save={(code_marks) => put({ code_marks })} />}
        <div className="flex flex-wrap gap-x-4 gap-y-2">
          <SavedNumber showLabel mayBeEmpty {...HELD} label="Most offers without a code at once" value={settings.most_by_itself} save={(most_by_itself) => put({ most_by_itself })} />
          <SavedNumber showLabel mayBeEmpty {...HELD} label="Most with a code" value={settings.most_by_code} save={(most_by_code) => put({ most_by_code })} />
        </div>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={settings.zone_known} onChange={(event) => put({ zone_known: event.target.checked })} />
          It knows where a cart goes before check-out
        </label>
        <SavedNumber showLabel mayBeEmpty scale={100} step={100} least={0} most={10_000} width="5rem" unit="%" label="Orders of shoppers without an account, or not signed in" value={settings.unknown_bp} save={(unknown_bp) => put({ unknown_bp })} />
        <p className="text-small text-soft">What is beyond it can be planned with; the Counting board tells that it does not fit.</p>
      </Group>
    </div>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  const id = useId();
  return (
    <section aria-labelledby={id} className="grid content-start gap-3">
      <h2 id={id} className="text-title">
        {title}
      </h2>
      {children}
    </section>
  );
}

interface TextProps {
  label: string;
  value: string;
  most: number;
  mayBeEmpty?: boolean;
  save: (value: string) => void;
}

function TextBox({ label, value, most, mayBeEmpty = false, save }: TextProps) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const done = () => {
    const next = text.trim();
    if ((next || mayBeEmpty) && next !== value) save(next);
    else setText(value);
  };
  return (
    <Labelled label={label}>
      {(id) => <input id={id} className="w-full" value={text} maxLength={most} onChange={(event) => setText(event.target.value)} onBlur={done} onKeyDown={(event) => event.key === "Enter" && done()} />}
    </Labelled>
  );
}
