/** A zone and one of its options as sentences; every part that can be set is a word in them. */
import { useState, type FormEvent } from "react";

import { useToldOfDelivery } from "../../api/queries";
import type { DeliveryOption, Zone } from "../../api/types";
import { cash, kilograms, listed, rate } from "../../pieces/figures";
import { namesIn } from "../../pieces/lists";
import { SavedNumber } from "../../pieces/saved-number";
import { CarriesWords } from "./carries-word";
import { ChargeWord } from "./charge-word";
import { freshOption } from "./fresh-option";
import { meantTariff } from "./meant-tariff";
import { areNamed, sharesNamed } from "./named-shares";
import { NewName } from "./new-name";
import { type Choose, EditWord, KILOGRAMS, moneyBox, PERCENT, useAdding, useChanges, useShop } from "./saving";
import { TariffWords } from "./tariff-words";

interface ZoneProps {
  zone: Zone & { orders: number };
  at: number;
  choose: Choose;
}

export function ZoneSentence({ zone, at, choose }: ZoneProps) {
  const change = useChanges();
  const add = useAdding(zone, at, choose);
  const places = zone.places.length ? listed(zone.places) : "no place but its own name";
  return (
    <p className="text-sentence mt-3 border-t border-line pt-2">
      <NameWord title="Name of the zone" name={zone.name} put={(name) => change.zone(at, { name, was: zone.name })} /> is orders that name it, or{" "}
      <EditWord title="Countries and regions of the zone" text={places} tall>
        <PlacesBox places={zone.places} put={(next) => void change.zone(at, { places: next })} />
      </EditWord>
      .{" "}
      {zone.options.length > 0 && (
        <>
          Of its orders, <SharesWord zone={zone} at={at} />.{" "}
        </>
      )}
      <NewName title="A further option" button="Add an option" taken={zone.options.map((one) => one.name)} make={(name) => add(freshOption(name, zone.options.length ? 0 : 10_000))} />
      {zone.orders === 0 && (
        <button type="button" className="quiet ms-3 text-small" onClick={() => void change.zones((all) => all.toSpliced(at, 1))}>
          Take {zone.name} away
        </button>
      )}
    </p>
  );
}

interface OptionProps {
  zone: Zone;
  zoneAt: number;
  option: DeliveryOption;
  at: number;
  choose: Choose;
}

export function OptionSentence({ zone, zoneAt, option, at, choose }: OptionProps) {
  const { frame, delivery } = useShop();
  const change = useChanges();
  const meant = option.tariffs.length === 0 ? meantTariff(delivery.tariffs.map((one) => one.tariff.name), zone.name, option.name) : undefined;
  const put = (part: Partial<DeliveryOption>) => void change.option(zoneAt, at, part);
  return (
    <p className="text-sentence mt-2 border-t border-line pt-2">
      For <NameWord title="Name of the option" name={option.name} put={(name) => change.option(zoneAt, at, { name })} /> to {zone.name} shoppers pay{" "}
      <ChargeWord charge={option.charge} put={(charge) => put({ charge })} />, and{" "}
      <EditWord title="Free from" text={option.free_from == null ? "never go free" : `nothing from ${cash(option.free_from, frame)}`}>
        <SavedNumber showLabel {...moneyBox(frame)} step={frame.round_amount} least={1} most={2_000_000_000} label="Goods worth, from which it is free" value={option.free_from} save={(free_from) => put({ free_from })} />
        <p className="mt-2 text-small text-soft">Leave it empty, and it is never free by itself.</p>
      </EditWord>
      . It is used{" "}
      <EditWord title="From what weight on" text={option.from_weight == null ? "for any weight" : `from ${kilograms(option.from_weight)} on`}>
        <SavedNumber showLabel {...KILOGRAMS} label="Only for orders that weigh at least" value={option.from_weight} save={(from_weight) => put({ from_weight })} />
        <p className="mt-2 text-small text-soft">Leave it empty, and it is offered for orders of any weight.</p>
      </EditWord>{" "}
      and goes by <TariffWords option={option} put={put} />
      {meant !== undefined && (
        <>
          {" "}
          <button type="button" className="quiet text-small" onClick={() => put({ tariffs: [meant] })}>
            take the tariff {meant}
          </button>
        </>
      )}
      . It takes <CarriesWords carries={option.carries} put={(carries) => put({ carries })} />.{" "}
      <button
        type="button"
        className="quiet text-small"
        onClick={() => {
          choose({ zone: zoneAt, option: 0 });
          void change.options(zoneAt, (options) => options.toSpliced(at, 1));
        }}
      >
        Take {option.name} away
      </button>
    </p>
  );
}

function SharesWord({ zone, at }: { zone: Zone; at: number }) {
  const change = useChanges();
  const { data } = useToldOfDelivery();
  const told = data?.options.filter((one) => one.zone === zone.name).map(({ option, orders }) => ({ name: option, orders })) ?? [];
  const named = sharesNamed(zone.options.map((one) => one.name), told);
  const whole = zone.options.reduce((sum, one) => sum + one.share_bp, 0);
  const text = listed(zone.options.map((one) => `${rate(whole ? Math.round((one.share_bp / whole) * 1000) * 10 : 10_000 / zone.options.length)} choose ${one.name}`));
  return (
    <EditWord title="How many choose each" text={text}>
      <div className="grid gap-2">
        {zone.options.map((one, n) => (
          <SavedNumber key={one.name} showLabel mayBeEmpty={false} {...PERCENT} label={one.name} value={one.share_bp} save={(share_bp) => share_bp !== null && void change.option(at, n, { share_bp })} />
        ))}
      </div>
      <p className="mt-2 text-small text-soft">Used where an order does not say how it went. What they come to together counts as everybody; those who cannot have an option choose among the others.</p>
      {named && (
        <p className="mt-2 text-small">
          Of the orders that name theirs, {listed(zone.options.map((one, n) => `${rate(Math.round(named[n]! / 10) * 10)} chose ${one.name}`))}.{" "}
          {!areNamed(zone.options.map((one) => one.share_bp), named) && (
            <button type="button" className="quiet" onClick={() => void change.options(at, (options) => options.map((one, n) => ({ ...one, share_bp: named[n] ?? one.share_bp })))}>
              Take these
            </button>
          )}
        </p>
      )}
    </EditWord>
  );
}

function PlacesBox({ places, put }: { places: string[]; put: (places: string[]) => void }) {
  const [text, setText] = useState(places.join("\n"));
  const done = () => {
    const next = namesIn(text);
    if (next.join("\n") !== places.join("\n")) put(next);
  };
  return (
    <label className="block text-small text-soft">
      As orders name them, one a line
      <textarea rows={6} className="mt-1 w-full text-body text-ink" value={text} onChange={(event) => setText(event.target.value)} onBlur={done} />
    </label>
  );
}

function NameWord({ title, name, put }: { title: string; name: string; put: (name: string) => Promise<boolean> }) {
  const [text, setText] = useState(name);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const next = text.trim();
    if (next && next !== name) void put(next);
  };
  return (
    <EditWord title={title} text={name}>
      <form className="flex gap-2" onSubmit={submit}>
        <input autoFocus aria-label={title} className="w-44" maxLength={80} value={text} onChange={(event) => setText(event.target.value)} />
        <button type="submit" className="press" disabled={!text.trim() || text.trim() === name}>
          Save
        </button>
      </form>
    </EditWord>
  );
}

export function NewZone({ choose }: { choose: Choose }) {
  const { delivery } = useShop();
  const change = useChanges();
  const { zones } = delivery;
  return (
    <p className="mt-3 border-t border-line pt-2 text-small">
      <NewName
        title="A further zone"
        button="Add a zone"
        taken={zones.map((zone) => zone.name)}
        make={(name) => void change.zones((all) => [...all, { name, places: [], options: [], was: null }]).then((kept) => kept && choose({ zone: zones.length, option: 0 }))}
      />
    </p>
  );
}
