/** The working behind a figure: its formula in words, and the figures that add up to it, which open in their turn. */
import { useEffect, useState } from "react";
import { Link } from "react-router";

import { ApiError, ask } from "../../api/client";
import type { Forecast, Plan, WorkingOf } from "../../api/types";
import { count, money } from "../../pieces/figures";

interface Props {
  plan: Plan;
  /** The figure it begins with. */
  figure: string;
  of: Forecast;
}

export function Working({ plan, figure, of }: Props) {
  const [way, setWay] = useState([figure]);
  const [told, setTold] = useState<WorkingOf | null>(null);
  const [failed, setFailed] = useState("");
  const key = way.at(-1)!;

  useEffect(() => {
    const asked = new AbortController();
    ask<WorkingOf>("POST", "/forecast/working", { plan, key }, asked.signal)
      .then((answer) => {
        setTold(answer);
        setFailed("");
      })
      .catch((error: unknown) => {
        if (!asked.signal.aborted) setFailed(error instanceof ApiError ? error.message : "The working could not be found.");
      });
    return () => asked.abort();
  }, [plan, key]);

  if (failed) return <p role="alert" className="text-small text-loss-ink">{failed}</p>;
  if (!told) return <p role="status" className="min-h-24 text-small text-soft">Finding the working…</p>;
  const cash = (amount: number) => money(amount, of);
  return (
    <div className="text-small" aria-busy={told.key !== key}>
      {way.length > 1 && (
        <button type="button" className="quiet mb-1" onClick={() => setWay(way.slice(0, -1))}>
          ← back
        </button>
      )}
      <p>
        {way.length > 1 && <b>{told.name} · </b>}
        <span className="text-soft">{told.formula}.</span>
      </p>
      <table className="figures mt-1 w-full">
        <tbody>
          {told.parts
            .filter((part) => part.amount !== 0)
            .map((part) => (
              <tr key={part.key}>
                <td>
                  {part.opens ? (
                    <button type="button" className="quiet text-start" onClick={() => setWay([...way, part.key])}>
                      {part.sign < 0 ? "less " : ""}
                      {part.name}
                    </button>
                  ) : (
                    `${part.sign < 0 ? "less " : ""}${part.name}`
                  )}
                </td>
                <td className="n">{part.amount === null ? count(part.value, 1) : cash(part.amount)}</td>
              </tr>
            ))}
          {told.orders !== null && told.each !== null && (
            <>
              <tr>
                <td>orders</td>
                <td className="n">{count(told.orders, 2)}</td>
              </tr>
              <tr>
                <td>times what one comes to</td>
                <td className="n">{cash(told.each)}</td>
              </tr>
            </>
          )}
          <tr className="sum">
            <th scope="row">{told.parts.length ? "adds up to" : "comes to"}</th>
            <td className="n">{told.amount === null ? count(told.value, 1) : cash(told.amount)}</td>
          </tr>
        </tbody>
      </table>
      {told.carts.length > 0 && (
        <p className="mt-2 text-soft">
          Like the orders{" "}
          {told.carts.map((cart, at) => (
            <span key={cart.order_id}>
              {at > 0 && ", "}
              <Link className="quiet" to={`/carts?find=${encodeURIComponent(cart.number)}`}>
                {cart.number}
              </Link>
            </span>
          ))}
          .
        </p>
      )}
    </div>
  );
}
