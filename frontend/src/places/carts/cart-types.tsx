/** The types of carts that came: found by what is in them, renamed, put together and split. */
import { useState } from "react";

import { ask } from "../../api/client";
import { renewAll, useTypes } from "../../api/queries";
import type { Carts, CartTypes as Types, Frame } from "../../api/types";
import { soMany, money, share } from "../../pieces/figures";
import { useNotice } from "../../pieces/notice";
import { Slip } from "../../pieces/slip";
import { Word } from "../../pieces/words";

type CartType = Types["types"][number];

/** groups: by main category, for as long as no types are known. */
export function CartTypes({ groups, frame }: { groups: Carts["groups"]; frame: Frame }) {
  const { data } = useTypes();
  const { say, fail } = useNotice();
  const [busy, setBusy] = useState(false);
  const put = async (method: "POST" | "PUT", path: string, body: unknown, done: string) => {
    setBusy(true);
    try {
      await ask(method, path, body);
      await renewAll();
      say(done);
    } catch (error) {
      fail(error);
    } finally {
      setBusy(false);
    }
  };
  if (!data) return <div className="h-40" />;
  const sort = (
    <button type="button" className="quiet text-small" disabled={busy} onClick={() => void put("POST", "/types", undefined, "The carts are sorted into types.")}>
      {busy ? "Sorting…" : data.types.length ? "Sort anew" : "Find the types in these carts"}
    </button>
  );
  return (
    <section aria-labelledby="types-title" className="mt-4">
      <h3 id="types-title" className="text-body">
        {data.types.length ? "Types of carts" : "What carts are mostly of"} {sort}
      </h3>
      {data.types.length > 0 && (
        <p className="text-small text-soft">
          Which of them an order is tells {share(data.explained)} of how much one keeps more than another. One typical cart of each would keep {money(data.kept_by_types, frame)} an order; all
          carts keep {money(data.kept, frame)}.
        </p>
      )}
      <ul className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-x-8 gap-y-2 text-small">
        {data.types.map((type, at) => (
          <li key={type.name}>
            <TypeWord {...{ type, at, busy }} others={data.types} put={put} />
            <br />
            {share(type.share)} of orders, {money(type.average, frame)} each, {type.kept < 0 ? "loses" : "keeps"} {money(Math.abs(type.kept), frame)}
          </li>
        ))}
        {data.types.length === 0 &&
          groups.map((group) => (
            <li key={group.label}>
              <b>{group.label}</b>
              <br />
              {soMany(group.orders, "order")}, {money(group.average, frame)} each
            </li>
          ))}
      </ul>
    </section>
  );
}

interface TypeProps {
  type: CartType;
  at: number;
  others: readonly CartType[];
  busy: boolean;
  put: (method: "POST" | "PUT", path: string, body: unknown, done: string) => Promise<void>;
}

function TypeWord({ type, at, others, busy, put }: TypeProps) {
  const [name, setName] = useState(type.name);
  const rename = () => name.trim() && name.trim() !== type.name && void put("PUT", `/types/${at}`, { name: name.trim() }, `They are called ${name.trim()}.`);
  return (
    <Slip title={type.name} width={340} onOpenChange={(open) => open && setName(type.name)} trigger={<Word>{type.name}</Word>}>
      <p className="text-small text-soft">
        {soMany(type.orders, "order")}. Of their value: {type.holds.map(([category, part]) => `${share(part)} ${category.toLowerCase()}`).join(", ")}.
      </p>
      <label className="mt-2 block text-small text-soft">
        Name
        <input className="block w-full text-body text-ink" maxLength={80} value={name} onChange={(event) => setName(event.target.value)} onKeyDown={(event) => event.key === "Enter" && rename()} />
      </label>
      <p className="mt-2 flex gap-4">
        <button type="button" className="press" disabled={busy || !name.trim() || name.trim() === type.name} onClick={rename}>
          Rename
        </button>
        <button type="button" className="quiet" disabled={busy} onClick={() => void put("POST", `/types/${at}/split`, undefined, `${type.name} are two types now.`)}>
          Make two of it
        </button>
      </p>
      {others.length > 1 && (
        <label className="mt-2 block text-small text-soft">
          Put together with{" "}
          <select className="text-body text-ink" disabled={busy} value="" onChange={(event) => void put("POST", `/types/${at}/together`, { into: Number(event.target.value) }, `${type.name} are part of ${others[Number(event.target.value)]!.name}.`)}>
            <option value="" disabled>
              choose one
            </option>
            {others.map((other, number) => number !== at && <option key={other.name} value={number}>{other.name}</option>)}
          </select>
        </label>
      )}
    </Slip>
  );
}
