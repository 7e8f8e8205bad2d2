/** Carts: what to expect, the spread of it with thresholds marked, and the orders that came. */
import { useCarts, useFrame } from "../../api/queries";
import type { Carts, Frame } from "../../api/types";
import { BringIn } from "../../pieces/bring-in";
import { count, soMany, days, money, share } from "../../pieces/figures";
import { CartTypes } from "./cart-types";
import { ExpectedCarts } from "./expected-carts";
import { FindOrder } from "./find-order";
import { Imports } from "./imports";
import { useMix } from "./mixes";
import { PaidNothing } from "./paid-nothing";
import { PricesPaid } from "./prices-paid";
import { SentBack } from "./sent-back";
import { Spread } from "./spread";
import { Together } from "./together";
import { WhenAndWho } from "./when-and-who";

export function CartsPlace() {
  const { data: frame } = useFrame();
  const { data } = useCarts();
  const mix = useMix(data && (data.orders > 0 ? data : null));
  if (!frame || !data) return null;
  return (
    <BringIn kind="orders" what="orders">
      {(choose, fetchNew) =>
        data.orders === 0 && !mix?.isSketching ? (
          <div className="mx-auto max-w-2xl px-7 py-14">
            <h1 className="text-answer">Bring in the orders that came</h1>
            <p className="mt-3">
              A CSV, XLSX or ODS file with a row for each line of an order, or one for each order: order number, date and time, SKU,
              quantity, and if you have them what was paid, discounts, codes, shopper, country, delivery and payment. Column names
              can be your own; you see how they are read before anything is saved. Drop the file anywhere on this page, or choose it:
              several at once, where one tells orders and others their lines, payments, codes or returns.
            </p>
            {frame.goods === 0 && (
              <p className="mt-2">Bring in your products at Goods first: orders name them by SKU.</p>
            )}
            <p className="mt-5 flex items-center gap-5">
              {choose}
              <a className="quiet" href="/examples/orders.csv" download>
                Example file
              </a>
            </p>
            {frame.goods > 0 && mix && (
              <p className="mt-4">
                No orders yet?{" "}
                <button type="button" className="press ms-1" onClick={mix.sketch}>
                  Sketch the carts you expect
                </button>
              </p>
            )}
            {data.imports.length > 0 && (
              <p className="mt-3 text-soft">
                You took back what came in <Imports imports={data.imports} />.
              </p>
            )}
          </div>
        ) : (
          <div className="px-7 pt-4 pb-10">
            <div className="flex items-start justify-between gap-6">
              {mix ? <ExpectedCarts {...{ mix, frame }} hasHistory={data.orders > 0} /> : <div />}
              {choose}
            </div>
            {mix && <Spread {...{ mix, frame }} carts={data} />}
            {mix && <WhenAndWho {...{ mix, frame }} />}
            {mix && <Together {...{ mix }} />}
            {data.orders > 0 && <WhatCame {...{ data, frame, fetchNew }} />}
          </div>
        )
      }
    </BringIn>
  );
}

function WhatCame({ data, frame, fetchNew }: { data: Carts; frame: Frame; fetchNew: () => void }) {
  const whose = [
    ...(data.first_share === null ? [] : [`${share(data.first_share)} are first orders`]),
    ...(data.with_code ? [`${share(data.with_code / data.orders)} used a code`] : []),
  ];
  return (
    <>
      <h2 className="mt-5 text-title">
        What came: {soMany(data.orders, "order")}, {money(data.average, frame)} each on average
      </h2>
      <p className="text-small text-soft">
        {days(data.first_day, data.last_day)}: {count(data.orders / data.counted_days, 1)} a day,{" "}
        {soMany(data.units_each, "unit", 1)} an order; half are under {money(data.median, frame)}. {whose.length > 0 && `${whose.join(", ")}. `}
        Values are goods at today’s prices.
        {data.imports.length > 0 && (
          <>
            {" "}
            They came in <Imports imports={data.imports} />.
          </>
        )}{" "}
        <FindOrder frame={frame} /> ·{" "}
        <button type="button" className="quiet" onClick={fetchNew}>
          Fetch new orders
        </button>
      </p>
      <PaidNothing told={data.paid_nothing} />
      {data.sent_back && <SentBack sent={data.sent_back} />}
      <PricesPaid prices={data.prices} going={data.going_prices} frame={frame} />
      <CartTypes groups={data.groups} frame={frame} />
    </>
  );
}
