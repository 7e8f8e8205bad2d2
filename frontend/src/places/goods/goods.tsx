/** Goods: products, what they cost, what of each price is kept, and how deep a discount may go. */
import { useDeferredValue, useMemo, useRef, useState, type ReactNode } from "react";

import { ask } from "../../api/client";
import { queries, renewAll, useFrame, useGoods } from "../../api/queries";
import type { Frame, Good, GoodBody, Goods, GoodsChanged } from "../../api/types";
import { BringIn } from "../../pieces/bring-in";
import { count } from "../../pieces/figures";
import { useKey } from "../../pieces/keys";
import { useNotice } from "../../pieces/notice";
import { Slip } from "../../pieces/slip";
import { Starters, TableFiles } from "../../pieces/table-files";
import { ChangeMany } from "./change-many";
import { bodyOf, NEW_GOOD } from "./good-body";
import { GoodPanel } from "./good-panel";
import { filters, missing, ORDERS, shownGoods, type Filter, type Order } from "./goods-list";
import { GoodsTable } from "./goods-table";

export function GoodsPlace() {
  const { data: frame } = useFrame();
  const { data } = useGoods();
  if (!frame || !data) return null;
  return (
    <BringIn kind="goods" what="goods">
      {(choose) => (data.goods.length === 0 ? <NoGoods choose={choose} /> : <Shelf frame={frame} data={data} choose={choose} />)}
    </BringIn>
  );
}

function Shelf({ frame, data, choose }: { frame: Frame; data: Goods; choose: ReactNode }) {
  const [text, setText] = useState("");
  const [filter, setFilter] = useState<Filter>("all");
  const [order, setOrder] = useState<Order>("product");
  const [chosen, setChosen] = useState<string | null>(null);
  const [changing, setChanging] = useState(false);
  const find = useRef<HTMLInputElement>(null);
  const { fail } = useNotice();
  useKey("/", () => find.current?.focus());
  const wanted = useDeferredValue(text);
  const shown = useMemo(() => shownGoods(data.goods, wanted, filter, order), [data, wanted, filter, order]);
  const lacking = useMemo(() => data.goods.filter((good) => missing(good) !== null), [data]);
  const open = data.goods.find((good) => good.sku === chosen);

  const save = async (sku: string, body: GoodBody) => {
    try {
      await ask<GoodsChanged>("PUT", `/goods/one?sku=${encodeURIComponent(sku)}`, body);
      await renewAll();
    } catch (error) {
      fail(error);
      await queries.invalidateQueries({ queryKey: ["goods"] });
    }
  };
  const next = () => {
    const at = lacking.findIndex((good) => good.sku === chosen);
    const good = lacking[(at + 1) % lacking.length];
    if (!good) return;
    setFilter("all");
    setText("");
    setChosen(good.sku);
  };
  useKey("m", next);
  return (
    <div className="px-7 pt-4 pb-4">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <h1 className="text-answer">{count(data.goods.length)} goods</h1>
        {lacking.length > 0 && (
          <button type="button" className="press" onClick={next}>
            {lacking.length === 1 ? "1 lacks a figure" : `${count(lacking.length)} lack a figure`}: {open && missing(open) ? "next one" : "mend one by one"}
          </button>
        )}
        <span className="ms-auto flex items-center gap-4 text-small">
          <TableFiles kinds={[["goods", "Goods"]]} />
          <NewGood goods={data.goods} make={(sku) => void save(sku, NEW_GOOD).then(() => setChosen(sku))} />
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
          {shown.length < data.goods.length && `${count(shown.length)} shown`}
        </span>
        <button type="button" className="quiet ms-auto" aria-expanded={changing} onClick={() => setChanging(!changing)}>
          Change many at once
        </button>
      </div>
      {changing && <ChangeMany goods={shown} frame={frame} taxClasses={data.tax_classes} close={() => setChanging(false)} />}
      <div className={open ? "grid grid-cols-[1fr_25rem] gap-5" : ""}>
        {shown.length > 0 ? (
          <div className="min-w-0 overflow-x-auto">
            <GoodsTable goods={shown} frame={frame} chosen={chosen} choose={setChosen} save={(good: Good, part) => void save(good.sku, bodyOf({ ...good, ...part }))} />
          </div>
        ) : (
          <p className="mt-4 text-soft">No product matches.</p>
        )}
        {open && (
          <GoodPanel
            key={JSON.stringify(bodyOf(open)) + open.sku}
            good={open}
            frame={frame}
            taxClasses={data.tax_classes}
            wanted={missing(open)}
            save={save}
            close={() => setChosen(null)}
          />
        )}
      </div>
    </div>
  );
}

function NewGood({ goods, make }: { goods: Good[]; make: (sku: string) => void }) {
  const [sku, setSku] = useState("");
  const [open, setOpen] = useState(false);
  const taken = goods.some((good) => good.sku.toLowerCase() === sku.trim().toLowerCase());
  useKey("n", () => setOpen(true));
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
        A CSV or XLSX file with one row for each SKU: its price and what it costs you, and if you have them its product name,
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
