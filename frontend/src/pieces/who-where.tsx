/** Which shoppers and which places are meant, in words, and the choices behind those words. */
import { useState } from "react";

import type { Frame, Where, Who } from "../api/types";
import { count, listed } from "./figures";
import { Labelled } from "./labelled";
import { namesIn } from "./lists";
import { NumberBox } from "./number-box";
import { Choices, InOut, Ticks } from "./words";

export const ANYBODY: Who = {
  groups: [],
  except_groups: [],
  tags: [],
  except_tags: [],
  shoppers: [],
  except_shoppers: [],
  first_order: false,
  nth_order: null,
  days_since: null,
};

export const ANYWHERE: Where = { zones: [], except_zones: [], channels: [], payments: [], currencies: [] };

const ordinal = (n: number): string => `${n}${n % 100 > 10 && n % 100 < 14 ? "th" : (["th", "st", "nd", "rd"][n % 10] ?? "th")}`;

/** Empty where anybody is meant. */
/** full: shoppers of a list by name. */
export function whoInWords(who: Who, full = false): string {
  const told: string[] = [];
  if (who.first_order) told.push("first orders");
  if (who.nth_order != null) told.push(`shoppers from their ${ordinal(who.nth_order)} order on`);
  if (who.days_since != null) told.push(`shoppers whose last order was ${count(who.days_since)} or more days ago`);
  if (who.groups.length) told.push(`the group ${listed(who.groups, "or")}`);
  if (who.tags.length) told.push(`shoppers tagged ${listed(who.tags, "or")}`);
  const some = (ids: string[]) => `the shoppers ${ids.join(" / ")}`;
  if (who.shoppers.length) told.push(full ? some(who.shoppers) : `${count(who.shoppers.length)} ${who.shoppers.length === 1 ? "shopper" : "shoppers"} on a list`);
  const not = [...who.except_groups.map((name) => `the group ${name}`), ...who.except_tags.map((name) => `those tagged ${name}`)];
  if (who.except_shoppers.length) not.push(full ? some(who.except_shoppers) : `${count(who.except_shoppers.length)} on a list`);
  const only = told.length ? `only for ${listed(told)}` : "";
  return [only, not.length ? `not for ${listed(not)}` : ""].filter(Boolean).join(", ");
}

/** Empty where anywhere is meant. */
export function whereInWords(where: Where): string {
  const told: string[] = [];
  if (where.zones.length) told.push(`only to ${listed(where.zones, "or")}`);
  if (where.except_zones.length) told.push(`not to ${listed(where.except_zones, "or")}`);
  if (where.channels.length) told.push(`only through ${listed(where.channels, "or")}`);
  if (where.payments.length) told.push(`only when paid by ${listed(where.payments, "or")}`);
  return told.join(", ");
}

interface WhoProps {
  who: Who;
  frame: Frame;
  put: (change: Partial<Who>) => void;
}

export function WhoChoices({ who, frame, put }: WhoProps) {
  const which = who.first_order ? "first" : who.nth_order != null ? "nth" : who.days_since != null ? "since" : "any";
  return (
    <>
      <Choices
        label="On which order"
        value={which}
        onChange={(next) =>
          put({
            first_order: next === "first",
            nth_order: next === "nth" ? 2 : null,
            days_since: next === "since" ? 60 : null,
          })
        }
        options={[
          ["any", "On any order"],
          ["first", "On a shopper’s first order"],
          ["nth", "From a later order on"],
          ["since", "When the last order is some time ago"],
        ]}
      />
      <div className="mt-1 ps-8">
        {who.nth_order != null && <NumberBox label="From which order on" value={who.nth_order} scale={1} step={1} least={1} most={1000} width="5rem" onChange={(nth_order) => put({ nth_order })} />}
        {who.days_since != null && <NumberBox label="At least so long ago" value={who.days_since} scale={1} step={10} least={1} most={3660} unit="days" width="5rem" onChange={(days_since) => put({ days_since })} />}
      </div>
      <InOut label="Groups" all={frame.shoppers.groups} wanted={who.groups} unwanted={who.except_groups} onChange={(groups, except_groups) => put({ groups, except_groups })} />
      <InOut label="Tags" all={frame.shoppers.tags} wanted={who.tags} unwanted={who.except_tags} onChange={(tags, except_tags) => put({ tags, except_tags })} />
      <Names label="Only these shoppers, a send list" names={who.shoppers} onChange={(shoppers) => put({ shoppers })} />
      <Names label="Not these shoppers" names={who.except_shoppers} onChange={(except_shoppers) => put({ except_shoppers })} />
    </>
  );
}

function Names({ label, names, onChange }: { label: string; names: string[]; onChange: (names: string[]) => void }) {
  const [text, setText] = useState(names.join("\n"));
  return (
    <Labelled className="mt-2" label={`${label}, one a line`}>
      {(id) => (
        <textarea
          id={id}
          rows={2}
          className="w-full"
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            onChange(namesIn(event.target.value));
          }}
        />
      )}
    </Labelled>
  );
}

interface WhereProps {
  where: Where;
  frame: Frame;
  put: (change: Partial<Where>) => void;
}

export function WhereChoices({ where, frame, put }: WhereProps) {
  return (
    <>
      <InOut label="Zones" all={frame.zones} wanted={where.zones} unwanted={where.except_zones} onChange={(zones, except_zones) => put({ zones, except_zones })} />
      {frame.shoppers.channels.length > 0 && <Ticks label="Only through these channels" shown all={frame.shoppers.channels} ticked={where.channels} onChange={(channels) => put({ channels })} />}
      {frame.shoppers.payments.length > 0 && <Ticks label="Only when paid by" shown all={frame.shoppers.payments} ticked={where.payments} onChange={(payments) => put({ payments })} />}
    </>
  );
}
