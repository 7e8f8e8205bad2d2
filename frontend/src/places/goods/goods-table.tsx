/** The goods as rows; only those in sight are drawn, so that thousands scroll like a few. */
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, type ReactNode } from "react";

import type { Frame, Good, GoodBody } from "../../api/types";
import { count, money, rate, share } from "../../pieces/figures";
import { SavedNumber } from "../../pieces/saved-number";
import { margin } from "./goods-list";
import { PriceRod, RodKey } from "./price-rod";
import type { Shelf } from "./shelf";

const ROW = 46;
const COLUMNS = "grid-cols-[minmax(9.5rem,1.35fr)_5.6rem_5.6rem_6rem_11.5rem_4.6rem_3.4rem_4.4rem_4rem_7.2rem]";
/** Beside an opened SKU, which tells the rest. */
const FEW_COLUMNS = "grid-cols-[minmax(9.5rem,1.35fr)_5.6rem_5.6rem_11.5rem_4.6rem_3.4rem]";

interface Props {
  shelf: Shelf;
  frame: Frame;
  chosen: string | null;
  choose: (sku: string | null) => void;
  /** The place to bring in sight. */
  goTo: number | null;
  save: (good: Good, part: Partial<GoodBody>) => void;
}

export function GoodsTable({ shelf, frame, chosen, choose, goTo, save }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({ count: shelf.head.found, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 12 });
  const few = chosen !== null;
  const columns = few ? FEW_COLUMNS : COLUMNS;
  useEffect(() => {
    if (goTo !== null) rows.scrollToIndex(goTo, { align: "auto" });
  }, [goTo, rows]);
  const inSight = rows.getVirtualItems();
  const [first, last] = [inSight[0]?.index ?? 0, inSight.at(-1)?.index ?? 0];
  useEffect(() => shelf.see(first, last), [shelf, first, last]);
  return (
    <div ref={scroller} role="table" aria-label="Goods" aria-rowcount={shelf.head.found + 1} tabIndex={0} className="h-full overflow-auto px-1.5 text-small">
      <div role="rowgroup" className="sticky top-0 z-10 border-b-2 border-ink bg-paper">
        <div role="row" aria-rowindex={1} className={`grid ${columns} items-end gap-x-3 pb-1 font-semibold text-soft`}>
          <Head>Product</Head>
          <Head n>List price</Head>
          <Head n>Purchase</Head>
          {!few && <Head n>Weight</Head>}
          <Head>
            <RodKey />
          </Head>
          <Head n>Kept</Head>
          <Head n>Margin</Head>
          {!few && (
            <>
              <Head n>A month</Head>
              <Head n>Stock</Head>
              <Head n>Most off, alone / delivered</Head>
            </>
          )}
        </div>
      </div>
      <div role="rowgroup" className="relative" style={{ height: rows.getTotalSize() }}>
        {inSight.map((row) => {
          const good = shelf.at(row.index);
          return (
            <div
              key={good?.sku ?? row.index}
              role="row"
              aria-rowindex={row.index + 2}
              className={`absolute top-0 left-0 grid ${columns} items-center gap-x-3 border-b border-line ${good && good.sku === chosen ? "-mx-1.5 w-[calc(100%+0.75rem)] bg-sheet px-1.5 outline-[1.5px] -outline-offset-1 outline-ink" : "w-full"}`}
              style={{ height: ROW, transform: `translateY(${row.start}px)` }}
            >
              {good ? (
                <GoodRow {...{ good, frame, save, few }} open={() => choose(good.sku === chosen ? null : good.sku)} isOpen={good.sku === chosen} />
              ) : (
                <span role="rowheader" className="text-soft">
                  …
                </span>
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}

const Head = ({ children, n = false }: { children: ReactNode; n?: boolean }) => (
  <span role="columnheader" className={n ? "text-end" : ""}>
    {children}
  </span>
);

const Cell = ({ children, strong = false }: { children: ReactNode; strong?: boolean }) => (
  <span role="cell" className={`text-end ${strong ? "font-semibold" : ""}`}>
    {children}
  </span>
);

interface RowProps {
  good: Good;
  frame: Frame;
  save: Props["save"];
  open: () => void;
  isOpen: boolean;
  few: boolean;
}

function GoodRow({ good, frame, save, open, isOpen, few }: RowProps) {
  const unit = 10 ** frame.minor_digits;
  const kit = good.kit.length > 0;
  const part = margin(good);
  const name = `${good.product || good.sku} ${good.option}`.trim();
  const price = { scale: unit, digits: frame.minor_digits, aligned: true, step: Math.max(1, unit / 10), least: 0, most: 2_000_000_000, width: "5.4rem" };
  return (
    <>
      <span role="rowheader" className="min-w-0">
        <button type="button" aria-expanded={isOpen} className="flex max-w-full gap-1.5 text-start hover:underline" title={name} onClick={open}>
          <span className="truncate font-semibold">{good.product || good.sku}</span> <span className="max-w-3/5 shrink-0 truncate text-soft">{good.option}</span>
        </button>
        <span className="block truncate text-tiny text-soft">{notes(good).join(" · ")}</span>
      </span>
      <Cell>{good.gift_only ? <span className="text-soft">gift only</span> : <SavedNumber {...price} label={`List price, ${name}`} value={good.list_price ?? null} save={(list_price) => save(good, { list_price })} />}</Cell>
      <Cell>{kit ? <Follows>{good.unit_cost == null ? null : money(good.unit_cost, frame)}</Follows> : <SavedNumber {...price} fine label={`Purchase cost, ${name}`} value={good.purchase_cost ?? null} save={(purchase_cost) => save(good, { purchase_cost })} />}</Cell>
      {!few && <Cell>{kit ? <Follows>{good.all_weight == null ? null : `${count(good.all_weight / 1000, 2)} kg`}</Follows> : <SavedNumber fine label={`Weight, ${name}`} unit="kg" scale={1000} step={100} least={0} most={2_000_000} width="4.2rem" value={good.weight ?? null} save={(weight) => save(good, { weight })} />}</Cell>}
      <span role="cell">{good.margin ? <PriceRod good={good} margin={good.margin} width={182} of={frame} /> : <span className="font-semibold text-loss-ink">{good.gift_only ? "" : "a figure is missing"}</span>}</span>
      <Cell strong>{good.margin && <Loss value={good.margin.kept}>{money(good.margin.kept, frame)}</Loss>}</Cell>
      <Cell>{part !== null && share(part)}</Cell>
      {!few && (
        <>
          <Cell>{count(good.units_a_month, good.units_a_month < 10 ? 1 : 0)}</Cell>
          <Cell>{inStock(good)}</Cell>
          <Cell>
            {good.deepest != null && (
              <>
                <Room bp={good.deepest} /> / {good.deepest_delivered == null ? "–" : <Room bp={good.deepest_delivered} />}
              </>
            )}
          </Cell>
        </>
      )}
    </>
  );
}

const Follows = ({ children }: { children: ReactNode }) => (children ? <span title="from its parts">{children}</span> : <span className="font-semibold text-loss-ink">a part lacks it</span>);

export const Loss = ({ value, children }: { value: number; children: ReactNode }) => <span className={value < 0 ? "text-loss-ink" : ""}>{children}</span>;

const Room = ({ bp }: { bp: number }) => (bp < 0 ? <b className="text-loss-ink">none</b> : <>{rate(Math.round(bp / 100) * 100)}</>);

function notes(good: Good): string[] {
  const prices = good.quantity_prices.length + good.group_prices.length;
  return [
    good.sku,
    ...(good.reduced_price != null ? ["reduced"] : []),
    ...(prices > 0 ? [`${prices} more prices`] : []),
    ...(good.kit.length > 0 ? ["kit"] : []),
    ...(good.never_discounted ? ["never discounted"] : []),
    ...good.tags,
  ];
}

/** How long the stock lasts; how much there is where none is sold. */
function inStock(good: Good): string {
  if (good.stock_weeks != null) return `${count(Math.min(good.stock_weeks, 999))} wk`;
  return good.all_stock == null ? "" : count(good.all_stock);
}
