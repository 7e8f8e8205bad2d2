/** Carts: the orders that came, and the spread of their values with the free-delivery values marked. */
import { scaleLinear } from "d3-scale";

import { useCarts, useFrame } from "../../api/queries";
import type { Carts, Frame } from "../../api/types";
import { BringIn } from "../../pieces/bring-in";
import { count, days, money, roundUp, share } from "../../pieces/figures";
import { useWidth } from "../../pieces/measured";
import { ExpectedCarts } from "./expected-carts";
import { Imports } from "./imports";
import { useMix } from "./mixes";

/** Pixels between two labels of an axis. */
const LABEL_ROOM = 76;

export function CartsPlace() {
  const { data: frame } = useFrame();
  const { data } = useCarts();
  const mix = useMix(data && data.orders > 0 ? data : null);
  if (!frame || !data) return null;
  return (
    <BringIn kind="orders" what="orders">
      {(choose) =>
        data.orders === 0 ? (
          <div className="mx-auto max-w-2xl px-7 py-14">
            <h1 className="text-answer">Bring in the orders that came</h1>
            <p className="mt-3">
              A CSV file with one row for each line of an order: order number, date and time, SKU, quantity, and if you have them
              unit price, zone, shopper, first order and the code used. What belongs to the order can stand on every row or only on
              its first. Drop the file anywhere on this page, or choose it.
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
            {data.imports.length > 0 && (
              <p className="mt-3 text-soft">
                You took back what came in <Imports imports={data.imports} />.
              </p>
            )}
          </div>
        ) : (
          <div className="px-7 pt-4 pb-10">
            <div className="flex items-start justify-between gap-6">
              {mix ? <ExpectedCarts {...{ mix, frame }} /> : <div />}
              {choose}
            </div>
            <h2 className="mt-5 text-title">
              What came: {count(data.orders)} orders, {money(data.average, frame)} each on average
            </h2>
            <p className="text-small text-soft">
              {days(data.first_day, data.last_day)}: {count(data.orders / data.counted_days, 1)} a day, {count(data.units_each, 1)}{" "}
                  units an order; half are under {money(data.median, frame)}. {share(data.first_orders / data.orders)} are first
              orders, {share(data.with_code / data.orders)} used a code. Values are goods at today’s prices.
              {data.imports.length > 0 && (
                <>
                  {" "}
                  They came in <Imports imports={data.imports} />.
                </>
              )}
            </p>
            <Spread data={data} frame={frame} />
            <Groups data={data} frame={frame} />
          </div>
        )
      }
    </BringIn>
  );
}

function Spread({ data, frame }: { data: Carts; frame: Frame }) {
  const [box, width] = useWidth<HTMLElement>(1220);
  const [height, base, top] = [270, 232, 30];
  const most = Math.max(...data.bands.map((band) => band.orders), 1);
  const last = data.bands.at(-1)!.high;
  const x = scaleLinear([0, last], [8, width - 80]);
  const y = scaleLinear([0, most], [base, top]);
  const unit = 10 ** frame.minor_digits;
  const whole = { whole: data.bands[0]!.high % unit === 0 };
  const each = x(data.bands[0]!.high) - x(0);
  const marks = data.bands.filter((_, at) => at % Math.ceil((data.bands.length * LABEL_ROOM) / width) === 0);
  const beads = Math.max(1, Math.ceil(roundUp(most / 24)));
  return (
    <section aria-labelledby="spread-title" className="mt-3" ref={box}>
      <h3 id="spread-title" className="text-body">
        How much is in a cart <span className="text-small font-normal text-soft">a bead is {count(beads)} orders · dashes: delivery is free from there</span>
      </h3>
      <svg width={width} height={height} role="img" aria-label={`Carts by value; most lie from ${money(0, frame)} to ${money(last, frame)}`}>
        {data.bands.map((band) => {
          const stack = [];
          const step = Math.abs(y(beads) - y(0));
          for (let n = 0; n * beads < band.orders; n += 1) {
            const part = Math.min(1, (band.orders - n * beads) / beads);
            stack.push(
              <rect key={n} x={x(band.low) + 1.5} width={Math.max(each - 3, 1)} y={base - n * step - step * part + 0.6} height={Math.max(step * part - 1.2, 0.8)} rx={Math.min(3.5, step / 2, each / 3)} fill="var(--color-goods)" stroke="var(--color-ink)" />,
            );
          }
          return (
            <g key={band.low}>
              <title>{`${money(band.low, frame, whole)} to ${money(band.high, frame, whole)}: ${count(band.orders)} orders`}</title>
              {stack}
            </g>
          );
        })}
        <line x1={0} x2={width} y1={base + 1} y2={base + 1} stroke="var(--color-ink)" strokeWidth={2} />
        {marks.map((band) => (
          <text key={band.low} x={x(band.low)} y={base + 18} fontSize={12} textAnchor={band.low === 0 ? "start" : "middle"} fill="var(--color-soft)">
            {money(band.low, frame, whole)}
          </text>
        ))}
        {data.above > 0 && (
          <text x={width - 4} y={base - 6} fontSize={12} textAnchor="end" fill="var(--color-soft)">
            {count(data.above)} above
          </text>
        )}
        {data.thresholds
          .filter((value) => value < last)
          .map((value) => (
            <g key={value}>
              <line x1={x(value)} x2={x(value)} y1={top - 8} y2={base} stroke="var(--color-ink)" strokeWidth={2} strokeDasharray="3 3" />
              <text x={x(value) + 6} y={top} fontSize={12.5} fontWeight={650} fill="var(--color-ink)">
                {money(value, frame, { whole: value % unit === 0 })}
              </text>
            </g>
          ))}
      </svg>
    </section>
  );
}

function Groups({ data, frame }: { data: Carts; frame: Frame }) {
  return (
    <section aria-labelledby="groups-title" className="mt-3">
      <h3 id="groups-title" className="text-body">
        What carts are mostly of
      </h3>
      <ul className="mt-2 flex flex-wrap gap-x-8 gap-y-2 text-small">
        {data.groups.map((group) => (
          <li key={group.label}>
            <b>{group.label}</b>
            <br />
            {count(group.orders)} orders, {money(group.average, frame)} each
          </li>
        ))}
      </ul>
    </section>
  );
}
