/** Orders found by what people remember of one: a number, a shopper, a code, a SKU, a day or a value. */
import { useState } from "react";

import { useFoundOrders } from "../api/queries";
import type { Frame } from "../api/types";
import { count, money, sign } from "./figures";

interface OrderSearchProps {
  frame: Frame;
  /** What is looked for to begin with. */
  begin?: string;
  /** The one that is open, where one stays so. */
  chosen?: number | null;
  take: (order: number) => void;
}

export function OrderSearch({ frame, begin = "", chosen, take }: OrderSearchProps) {
  const [text, setText] = useState(begin);
  const { data } = useFoundOrders(text.trim(), true);
  const first = data?.orders[0];
  const round = frame.round_amount / 10 ** frame.minor_digits;
  return (
    <div>
      <input
        autoFocus
        aria-label="Order number, shopper, code, SKU or day"
        placeholder={`Number, shopper, code, SKU, day (2026-03-01) or value (${sign(frame)}${40 * round}-${60 * round})`}
        className="w-full"
        maxLength={80}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter" && first) take(first.id);
        }}
      />
      {data && (
        <>
          <p className="mt-1 text-small text-soft" aria-live="polite">
            {data.found === 0 ? "No order is found." : `${count(data.found)} ${data.found === 1 ? "order" : "orders"}${data.found > data.orders.length ? "; the newest:" : ""}`}
          </p>
          <ul className="mt-1 grid grid-cols-[minmax(0,1fr)] gap-0.5">
            {data.orders.map((one) => (
              <li key={one.id}>
                <button type="button" aria-pressed={chosen === undefined ? undefined : one.id === chosen} className={`choice flex w-full justify-between gap-3 text-start text-small ${one.id === chosen ? "font-semibold" : ""}`} onClick={() => take(one.id)}>
                  <span className="truncate">
                    {one.number}{" "}
                    <span className="text-soft">
                      {one.at} · {one.zone}
                    </span>
                  </span>
                  <span>{money(one.value, frame)}</span>
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
