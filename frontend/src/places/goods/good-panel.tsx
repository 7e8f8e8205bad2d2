/** One SKU opened: what a unit leaves at each of its prices, how deep a discount may go, and everything that is kept of it. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState, type FormEvent } from "react";

import { ask } from "../../api/client";
import type { Frame, Good, GoodBody, Levels } from "../../api/types";
import { money, rate } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { bodyOf } from "./good-body";
import { CostFields, OtherFields, PriceFields } from "./good-fields";
import type { Missing } from "./goods-list";
import { Loss } from "./goods-table";
import { PriceRod } from "./price-rod";

interface Props {
  good: Good;
  frame: Frame;
  taxClasses: string[];
  /** The figure that is missing, to be written at once. */
  wanted: Missing | null;
  save: (sku: string, body: GoodBody) => Promise<void>;
  close: () => void;
}

export function GoodPanel({ good, frame, taxClasses, wanted, save, close }: Props) {
  const [draft, setDraft] = useState<GoodBody>(() => bodyOf(good));
  const form = useRef<HTMLFormElement>(null);
  const put = (part: Partial<GoodBody>) => setDraft((before) => ({ ...before, ...part }));
  useEffect(() => {
    if (wanted) form.current?.querySelector<HTMLInputElement>(`[data-field=${wanted}] input`)?.focus();
  }, [wanted]);
  const dirty = JSON.stringify(draft) !== JSON.stringify(bodyOf(good));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void save(good.sku, draft);
  };
  return (
    <aside aria-label={`${good.product || good.sku}, opened`} className="overflow-y-auto border-s-[1.5px] border-line ps-5 pe-1 text-small">
      <div className="flex items-baseline gap-3">
        <h2 className="text-title">
          {good.product || good.sku} <span className="font-normal text-soft">{good.option}</span>
        </h2>
        <button type="button" className="quiet ms-auto" onClick={close}>
          Close
        </button>
      </div>
      <p className="text-soft">{good.sku}</p>
      <Prices good={good} frame={frame} />
      <form ref={form} onSubmit={submit} className="mt-4 grid gap-3 border-t border-line pt-3">
        <PriceFields {...{ draft, put, frame }} />
        <CostFields {...{ draft, put, frame, good }} />
        <OtherFields {...{ draft, put, frame, taxClasses }} />
        <div className="sticky bottom-0 flex gap-3 bg-paper py-2">
          <button type="submit" className="press" data-main="true" disabled={!dirty}>
            Save
          </button>
          <button type="button" className="press" disabled={!dirty} onClick={() => setDraft(bodyOf(good))}>
            Put back
          </button>
        </div>
      </form>
    </aside>
  );
}

/** Every price of the SKU as a rod, held against the dearest. */
function Prices({ good, frame }: { good: Good; frame: Frame }) {
  const { data } = useQuery({ queryKey: ["goods", good.sku, "prices"], queryFn: () => ask<Levels>("GET", `/goods/prices?sku=${encodeURIComponent(good.sku)}`) });
  if (!data) return null;
  const most = Math.max(...data.levels.map((level) => level.margin?.price ?? 0), 1);
  return (
    <>
      <table className="figures mt-2 w-full">
        <caption className="sr-only">What a unit leaves at each price</caption>
        <Headings>
          <Heading>At</Heading>
          <Heading n>Price</Heading>
          <Heading className="ps-3!">Where it goes</Heading>
          <Heading n>Kept</Heading>
        </Headings>
        <tbody>
          {data.levels.map(({ label, margin }) => (
            <tr key={label}>
              <th scope="row" className="text-ink! font-normal!">
                {label}
              </th>
              <td className="n">{margin && money(margin.price, frame)}</td>
              <td className="ps-3!">{margin ? <PriceRod good={good} margin={margin} width={118} most={most} of={frame} /> : <span className="text-loss-ink">its cost is missing</span>}</td>
              <td className="n font-semibold">{margin && <Loss value={margin.kept}>{money(margin.kept, frame)}</Loss>}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Deepest good={good} frame={frame} />
    </>
  );
}

function Deepest({ good, frame }: { good: Good; frame: Frame }) {
  if (good.deepest == null) return null;
  const room = (bp: number) => (bp < 0 ? "no discount at all: it loses money as it stands" : `up to ${rate(Math.floor(bp / 10) * 10)} off`);
  return (
    <p className="mt-2">
      By itself it stands <b>{room(good.deepest)}</b>.{" "}
      {good.delivery == null || good.deepest_delivered == null ? (
        "It was not ordered yet, so nothing is known of its delivery."
      ) : (
        <>
          With its typical delivery, {money(Math.abs(good.delivery), frame)} a unit {good.delivery < 0 ? "earned" : "beyond what shoppers pay"}, <b>{room(good.deepest_delivered)}</b>.
        </>
      )}
    </p>
  );
}
