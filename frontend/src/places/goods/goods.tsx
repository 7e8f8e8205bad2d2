/** Goods: products, what they cost, what of each price is kept, and how deep a discount may go. */
import { useDeferredValue, useRef, useState, type ReactNode } from "react";

import { ask } from "../../api/client";
import { useFrame, useNames } from "../../api/queries";
import type { Frame, Good, GoodBody, NextSku } from "../../api/types";
import { BringIn } from "../../pieces/bring-in";
import { count, soMany } from "../../pieces/figures";
import { useKey } from "../../pieces/keys";
import { useNotice } from "../../pieces/notice";
import { Slip } from "../../pieces/slip";
import { Starters, TableFiles } from "../../pieces/table-files";
import { ChangeMany } from "./change-many";
import { bodyOf, NEW_GOOD } from "./good-body";
import { GoodPanel } from "./good-panel";
import { filters, missing, ORDERS, shownBy, type Filter, type Order } from "./goods-list";
import { GoodsTable } from "./goods-table";
import { saveGood, useGood, useShelf } from "./shelf";

export function GoodsPlace() {
  const { data: frame } = useFrame();
  if (!frame) return null;
  return (
    <BringIn kind="goods" what="goods">
      {(choose) => (frame.goods === 0 ? <NoGoods choose={choose} /> : <AllGoods frame={frame} choose={choose} />)}
    </BringIn>
  );
}

function AllGoods({ frame, choose }: { frame: Frame; choose: ReactNode }) {
  const [text, setText] = useState("");
  const [filter, setFilter] = useState<Filter>("all");
  const [order, setOrder] = useState<Order>("product");
  const [chosen, setChosen] = useState<string | null>(null);
  const [goTo, setGoTo] = useState<number | null>(null);
  const [changing, setChanging] = useState(false);
  const find = useRef<HTMLInputElement>(null);
  const { fail } = useNotice();
  useKey("/", "find a product", () => find.current?.focus());
  const looked = shownBy(useDeferredValue(text), filter);
  const shelf = useShelf({ ...looked, by: order });
  const { data: open } = useGood(chosen);

  const save = (sku: string, part: Partial<GoodBody>, fresh?: GoodBody) => saveGood(sku, part, fresh).catch(fail);
  const next = async () => {
    const { sku, place } = await ask<NextSku>("GET", `/goods/lacking?after=${encodeURIComponent(chosen ?? "")}`);
    if (sku === null) return;
    setFilter("all");
    setText("");
    setOrder("product");
    setChosen(sku);
    setGoTo(place);
  };
  useKey("m", "to the next missing figure", () => void next().catch(fail));
  if (!shelf)
    return (
      <p role="status" className="px-7 pt-6 text-soft">
        Laying out {soMany(frame.goods, "good")}…
      </p>
    );
  const { goods_in_all: all, found, lacking, tax_classes: taxClasses } = shelf.head;
  return (
    <div className="flex h-[calc(100vh-var(--spacing-top))] min-h-96 flex-col px-7 pt-4">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <h1 className="text-answer">{soMany(all, "good")}</h1>
        {lacking > 0 && (
          <button type="button" className="press" onClick={() => void next().catch(fail)}>
            {lacking === 1 ? "1 lacks a figure" : `${count(lacking)} lack a figure`}: {open && missing(open) ? "next one" : "mend one by one"}
          </button>
        )}
        <span className="ms-auto flex items-center gap-4 text-small">
          <TableFiles kinds={[["goods", "Goods"]]} />
          <NewGood make={(sku) => void save(sku, NEW_GOOD, NEW_GOOD).then(() => setChosen(sku))} />
          {choose}
        </span>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2 text-small">
        <label className="flex items-center gap-2">
          Find{" "}
          <kbd className="rounded-slip border border-soft px-1 text-tiny" aria-hidden>
            /
          </kbd>
          <input ref={find} type="search" value={text} onChange={(event) => setText(event.target.value)} className="w-44" />
        </label>
        <label>
          Show{" "}
          <select value={filter} onChange={(event) => setFilter(event.target.value as Filter)}>
            {filters(frame).map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <label>
          by{" "}
          <select aria-label="Sort by" value={order} onChange={(event) => setOrder(event.target.value as Order)}>
            {ORDERS.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <span role="status" className="text-soft">
          {found < all && `${count(found)} shown`}
        </span>
        <button type="button" className="quiet ms-auto" aria-expanded={changing} onClick={() => setChanging(!changing)}>
          Change many at once
        </button>
      </div>
      {changing && <ChangeMany shown={looked} many={found} frame={frame} taxClasses={taxClasses} close={() => setChanging(false)} />}
      <div className={`mt-3 grid min-h-0 flex-1 grid-rows-[minmax(0,1fr)] ${open ? "grid-cols-[1fr_25rem] gap-5" : ""}`}>
        {found > 0 ? (
          <div className="-mx-1.5 min-w-0 overflow-x-auto">
            <GoodsTable shelf={shelf} frame={frame} chosen={chosen} choose={setChosen} goTo={goTo} save={(good: Good, part) => void save(good.sku, part)} />
          </div>
        ) : (
          <p className="mt-1 text-soft">No product matches.</p>
        )}
        {open && (
          <GoodPanel
            key={JSON.stringify(bodyOf(open)) + open.sku}
            good={open}
            frame={frame}
            taxClasses={taxClasses}
            wanted={missing(open)}
            save={save}
            close={() => setChosen(null)}
          />
        )}
      </div>
    </div>
  );
}

function NewGood({ make }: { make: (sku: string) => void }) {
  const [sku, setSku] = useState("");
  const [open, setOpen] = useState(false);
  const { data: names } = useNames();
  const taken = names?.some((good) => good.sku.toLowerCase() === sku.trim().toLowerCase()) ?? false;
  useKey("n", "a new SKU", () => setOpen(true));
  return (
    <Slip title="A new SKU" open={open} onOpenChange={setOpen} trigger={<button type="button" className="quiet">New SKU</button>}>
      <form
        className="grid gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (!sku.trim() || taken) return;
          make(sku.trim());
          setSku("");
          setOpen(false);
        }}
      >
        <label>
          SKU <input autoFocus value={sku} maxLength={120} aria-invalid={taken} onChange={(event) => setSku(event.target.value)} />
        </label>
        {taken && <p role="alert" className="text-small text-loss-ink">Goods has this SKU already. Choose another.</p>}
        <button type="submit" className="press justify-self-start" disabled={!sku.trim() || taken}>
          Add it
        </button>
      </form>
    </Slip>
  );
}

function NoGoods({ choose }: { choose: ReactNode }) {
  return (
    <div className="mx-auto max-w-2xl px-7 py-14">
      <h1 className="text-answer">Bring in what you sell</h1>
      <p className="mt-3">
        A CSV, XLSX or ODS file with one row for each SKU: its price and what it costs you, and if you have them its product name,
        option, weight, size, categories, stock and more. Column names can be your own; you see how they are read before
        anything is saved. Drop the file anywhere on this page, or choose it.
      </p>
      <p className="mt-5 flex items-center gap-5">
        {choose}
        <Starters kind="goods" />
      </p>
    </div>
  );
}
