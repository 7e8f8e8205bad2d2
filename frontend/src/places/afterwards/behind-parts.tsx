/** What each part of the difference between a kept forecast and what came is made of: days, or orders. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { ask } from "../../api/client";
import type { Against, Behind } from "../../api/types";
import { count, days, money } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { Slip } from "../../pieces/slip";

/** Rings an order up at the Till, by its id. */
export type InTill = (order: number) => Promise<void>;

interface Props {
  against: Against;
  kept: number;
  inTill: InTill | null;
}

export function BehindParts({ against, kept, inTill }: Props) {
  const parts = against.split.filter((one) => one.amount !== 0);
  if (parts.length === 0) return null;
  return (
    <p className="flex flex-wrap gap-x-4 gap-y-1 text-small">
      <span className="text-soft">What is behind it:</span>
      {parts.map((one) => (
        <Slip
          key={one.key}
          title={one.label}
          width={560}
          trigger={
            <button type="button" className="quiet">
              {one.label.charAt(0).toLowerCase() + one.label.slice(1)}
            </button>
          }
        >
          <BehindOne {...{ against, kept, inTill }} part={one.key} />
        </Slip>
      ))}
    </p>
  );
}

function BehindOne({ against, kept, inTill, part }: Props & { part: Behind["key"] }) {
  const { data, error } = useQuery({
    queryKey: ["behind", kept, part, against],
    queryFn: ({ signal }) => ask<Behind>("GET", `/kept/${kept}/${part}`, undefined, signal),
  });
  if (error) return <p role="alert">{error.message}</p>;
  if (!data) return <p role="status" className="min-h-24 text-small text-soft">Looking at the orders…</p>;
  const cash = (amount: number) => money(amount, against, { signed: true });
  return (
    <div className="text-small">
      <p className="text-soft">
        {data.says}
        {data.each !== null && `: ${money(data.each, against)}`}. Together: <strong className="text-ink">{cash(data.amount)}</strong>.
      </p>
      <table className="figures mt-1 w-full">{data.days.length > 0 ? <Days {...{ data, cash }} /> : <Orders {...{ data, cash, inTill }} />}</table>
    </div>
  );
}

interface Rows {
  data: Behind;
  cash: (amount: number) => string;
}

const Days = ({ data, cash }: Rows) => (
  <>
    <Headings>
      {["Day", "orders expected", "came", "adds"].map((words, at) => <Heading key={words} n={at > 0}>{words}</Heading>)}
    </Headings>
    <tbody>
      {data.days.map((one) => (
        <tr key={one.day}>
          <th scope="row" className="font-normal!">
            {days(one.day, one.day, false)}
          </th>
          <td className="n">{count(one.orders_expected, 1)}</td>
          <td className="n">{count(one.orders)}</td>
          <td className="n">{cash(one.amount)}</td>
        </tr>
      ))}
    </tbody>
  </>
);

function Orders({ data, cash, inTill }: Rows & { inTill: InTill | null }) {
  return (
    <>
      {data.orders.length > 0 && (
        <Headings>
          <Heading>Order</Heading>
          <Heading>Day</Heading>
          <Heading unseen>At the Till</Heading>
          <Heading n>adds</Heading>
        </Headings>
      )}
      <tbody>
        {data.orders.map((one) => (
          <tr key={one.order_id}>
            <th scope="row" className="font-normal!">
              <Link className="quiet" to={`/carts?find=${encodeURIComponent(one.number)}`}>
                {one.number}
              </Link>
            </th>
            <td>{days(one.day, one.day, false)}</td>
            <td>{inTill && <AtTheTill number={one.number} see={() => void inTill(one.order_id)} />}</td>
            <td className="n">{cash(one.amount)}</td>
          </tr>
        ))}
        {data.others > 0 && (
          <tr>
            <th scope="row" className="font-normal!" colSpan={3}>
              {count(data.others)} {data.orders.length ? "more orders" : data.others === 1 ? "order" : "orders"}
            </th>
            <td className="n">{cash(data.others_amount)}</td>
          </tr>
        )}
      </tbody>
    </>
  );
}

export const AtTheTill = ({ number, see }: { number: string; see: () => void }) => (
  <button type="button" className="quiet" onClick={see}>
    see it at the Till<span className="sr-only">: {number}</span>
  </button>
);
