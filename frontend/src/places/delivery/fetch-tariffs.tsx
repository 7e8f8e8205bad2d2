/** Fetching tariffs from the carriers' quote service, into the options of a zone if wanted. */
import { Dialog } from "radix-ui";
import { useState } from "react";

import { ApiError, ask } from "../../api/client";
import type { Services } from "../../api/types";
import { count, kilograms, money } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { useNotice } from "../../pieces/notice";
import { useChanges, useShop } from "./saving";

export function FetchTariffs() {
  const [open, setOpen] = useState(false);
  const [found, setFound] = useState<Services | null>(null);
  const [fault, setFault] = useState("");
  const load = async () => {
    setFault("");
    setFound(null);
    try {
      setFound(await ask<Services>("GET", "/carriers"));
    } catch (error) {
      setFault(error instanceof ApiError ? error.message : String(error));
    }
  };
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        if (next) void load();
      }}
    >
      <Dialog.Trigger className="quiet">Fetch from carriers</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content className="slip fixed top-16 left-1/2 z-50 max-h-[calc(100vh-6rem)] w-[52rem] -translate-x-1/2 overflow-y-auto" aria-describedby={undefined}>
          <Dialog.Title className="text-title">Tariffs the carriers have on offer</Dialog.Title>
          {!found && !fault && (
            <p role="status" className="mt-2 text-soft">
              Asking the carriers…
            </p>
          )}
          {fault && (
            <div role="alert" className="mt-2">
              <p className="text-loss-ink">{fault}</p>
              <button type="button" className="press mt-3" onClick={() => void load()}>
                Ask again
              </button>
            </div>
          )}
          {found && <Offered services={found} setFault={setFault} close={() => setOpen(false)} />}
          <Dialog.Close className="quiet mt-3">Leave it</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Offered({ services: { services, address }, setFault, close }: { services: Services; setFault: (text: string) => void; close: () => void }) {
  const { frame, delivery, save } = useShop();
  const change = useChanges();
  const held = new Set(delivery.tariffs.map((one) => one.tariff.name));
  const [ticked, setTicked] = useState<string[]>(services.map((one) => one.service).filter((name) => held.has(name)));
  const [into, setInto] = useState("");
  const [busy, setBusy] = useState(false);
  const { say } = useNotice();
  const options = delivery.zones.flatMap((zone, at) => zone.options.map((option, n) => ({ zone: zone.name, at, n, name: option.name })));
  const fetchThem = async () => {
    setBusy(true);
    setFault("");
    const to = into === "" ? undefined : options[Number(into)];
    const fetched = await save({ path: "/carriers/fetch", method: "POST", body: () => ({ services: ticked }) }, setFault);
    if (fetched && to) {
      await change.options(to.at, (held) => held.map((one, n) => (n === to.n ? { ...one, tariffs: [...new Set([...one.tariffs, ...ticked])] } : one)));
    }
    setBusy(false);
    if (!fetched) return;
    say(`${count(ticked.length)} tariffs fetched and kept with today’s date.`);
    close();
  };
  return (
    <>
      <p className="text-small text-soft">From {address}. What you tick is kept here with the date it was fetched.</p>
      <table className="figures mt-2 w-full">
        <Headings>
          <Heading>Service</Heading>
          <Heading>Carrier</Heading>
          <Heading>To</Heading>
          <Heading n>From</Heading>
          <Heading n>Heaviest</Heading>
          <Heading className="ps-4!">Here</Heading>
        </Headings>
        <tbody>
          {services.map((one) => (
            <tr key={one.service}>
              <th scope="row" className="text-ink! font-normal!">
                <label className="flex items-center gap-2">
                  <input type="checkbox" checked={ticked.includes(one.service)} onChange={(event) => setTicked(event.target.checked ? [...ticked, one.service] : ticked.filter((name) => name !== one.service))} />
                  {one.service}
                </label>
              </th>
              <td>{one.carrier}</td>
              <td>{one.to.join(", ")}</td>
              <td className="n">{money(one.steps[0]!.price, frame)}</td>
              <td className="n">{one.heaviest_grams ? kilograms(one.heaviest_grams) : "any"}</td>
              <td className="ps-4! text-soft">{held.has(one.service) ? "kept; renewed" : "new"}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3 flex flex-wrap items-center gap-3">
        <label className="text-small">
          Let them serve{" "}
          <select value={into} onChange={(event) => setInto(event.target.value)}>
            <option value="">nothing more for now</option>
            {options.map((one, n) => (
              <option key={`${one.zone} ${one.name}`} value={n}>
                {one.zone} · {one.name}
              </option>
            ))}
          </select>
        </label>
        <button type="button" className="press" data-main="true" disabled={busy || ticked.length === 0} onClick={() => void fetchThem()}>
          {busy ? "Fetching…" : `Fetch ${count(ticked.length)}`}
        </button>
      </p>
    </>
  );
}
