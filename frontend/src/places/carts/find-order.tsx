/** One order, found by what people remember of it, and opened: what was in it, and what such an order keeps today. */
import { Dialog } from "radix-ui";
import { useState } from "react";

import { useOrder } from "../../api/queries";
import type { Frame, Order } from "../../api/types";
import { count, listed, money } from "../../pieces/figures";
import { useKey } from "../../pieces/keys";
import { OrderSearch } from "../../pieces/order-search";

/** The order another place sent for. */
const wanted = (): string => new URLSearchParams(window.location.search).get("find") ?? "";

export function FindOrder({ frame }: { frame: Frame }) {
  const [open, setOpen] = useState(wanted() !== "");
  useKey("/", "find an order", () => setOpen(true));
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="quiet text-small">
        Find an order <kbd className="font-text">/</kbd>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          className="slip fixed top-16 left-1/2 z-50 max-h-[calc(100vh-6rem)] w-[58rem] max-w-[calc(100vw-3rem)] -translate-x-1/2 overflow-y-auto"
          aria-describedby={undefined}
        >
          <Dialog.Title className="text-title">Find an order</Dialog.Title>
          <Finding frame={frame} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Finding({ frame }: { frame: Frame }) {
  const [chosen, setChosen] = useState<number | null>(null);
  const { data: order } = useOrder(chosen);
  return (
    <div className="mt-2 grid grid-cols-[minmax(0,24rem)_minmax(0,1fr)] gap-x-8 max-[820px]:grid-cols-[minmax(0,1fr)]">
      <OrderSearch {...{ frame, chosen }} begin={wanted()} take={setChosen} />
      {order ? <OpenOrder order={order} frame={frame} /> : <p className="text-small text-soft">Choose an order to see what was in it, and what such an order keeps today.</p>}
    </div>
  );
}

function LineName({ line }: { line: Order["put_in"][number] }) {
  return (
    <th scope="row" className="font-normal! text-ink!">
      {count(line.quantity)} × {line.product || line.sku} <span className="text-soft">{line.sku}</span>
    </th>
  );
}

/** Lines that are no goods ordered. */
function LinesApart({ lines, why }: { lines: Order["put_in"]; why: string }) {
  return lines.map((line) => (
    <tr key={`${why} ${line.sku}`}>
      <LineName line={line} />
      <td className="n text-soft" colSpan={2}>
        {why}
      </td>
    </tr>
  ));
}

function OpenOrder({ order, frame }: { order: Order; frame: Frame }) {
  const before = order.orders_before;
  const known = [
    order.shopper,
    before === 0 ? "first order" : before === null ? "" : `${count(before)} ${before === 1 ? "order" : "orders"} before`,
    order.zone,
    order.option,
    order.channel && `by ${order.channel}`,
    order.payment && `paid by ${order.payment}`,
    order.code && `with ${order.code}`,
    order.status,
  ].filter(Boolean);
  const got = [
    order.paid !== null && `paid ${money(order.paid, frame)} for goods`,
    order.delivery_paid !== null && `paid ${money(order.delivery_paid, frame)} for delivery`,
    order.delivery_cost !== null && `cost ${money(order.delivery_cost, frame)} to deliver`,
    order.payment_cost !== null && `cost ${money(order.payment_cost, frame)} to be paid`,
    order.refunded > 0 && `got ${money(order.refunded, frame)} back`,
    order.sent_back > 0 && `sent back ${count(order.sent_back)} ${order.sent_back === 1 ? "unit" : "units"}`,
  ].filter((one) => one !== false);
  return (
    <section aria-label={`Order ${order.number}`}>
      <h3 className="text-body">
        {order.number} <span className="text-small font-normal text-soft">{order.at}</span>
      </h3>
      <p className="text-small text-soft">{listed(known as string[])}</p>
      {got.length > 0 && <p className="text-small">It {listed(got)}.</p>}
      <table className="figures mt-2 w-full text-small">
        <tbody>
          {order.lines.map((line) => (
            <tr key={`${line.sku} ${line.price}`}>
              <LineName line={line} />
              <td className="n">{money(line.price, frame)}</td>
              <td className="n">{money(line.comes_to, frame)}</td>
            </tr>
          ))}
          <LinesApart lines={order.put_in} why="put in by an offer" />
          <LinesApart lines={order.told_twice} why="counts with its kit" />
        </tbody>
      </table>
      <table className="figures mt-3 w-full text-small">
        <caption className="text-start text-small text-soft">Such an order today, with no offer: at today’s prices and costs, over the ways it may be delivered and paid</caption>
        <tbody>
          {order.ledger
            .filter((row) => row.amount !== 0 || row.key === "profit")
            .map((row) => (
              <tr key={row.key} className={row.key === "profit" ? "sum" : ""}>
                <th scope="row" className={row.key === "profit" ? "text-ink!" : "font-normal! text-ink!"}>
                  {row.key === "profit" && row.amount < 0 ? "You lose" : row.label}
                </th>
                <td className="n">{money(row.amount, frame)}</td>
              </tr>
            ))}
        </tbody>
      </table>
    </section>
  );
}
