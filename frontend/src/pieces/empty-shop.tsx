/** What an empty shop shows: what to bring, example files, and one button to fill in the demo shop. */
import { useState } from "react";
import { Link } from "react-router";

import { ask } from "../api/client";
import { renewAll } from "../api/queries";
import type { Frame } from "../api/types";
import { useNotice } from "./notice";

export function EmptyShop({ frame }: { frame: Frame }) {
  const [filling, setFilling] = useState(false);
  const { say, fail } = useNotice();
  const fill = async () => {
    setFilling(true);
    try {
      await ask("POST", "/demo");
      await renewAll();
      say("Hollow Fern Potting Co. is open. Ctrl Z takes it back, step by step.");
    } catch (error) {
      fail(error);
    } finally {
      setFilling(false);
    }
  };
  return (
    <div className="mx-auto max-w-2xl px-7 py-14">
      <h1 className="text-answer">Two files, and the abacus can count</h1>
      <ol className="mt-5 grid gap-4">
        <Step done={frame.goods > 0} to="/goods" place="Goods">
          Your products: SKU, price and what each costs you.{" "}
          <a className="quiet" href="/examples/goods.csv" download>
            Example file
          </a>
        </Step>
        <Step done={frame.missing_delivery.count === 0 && frame.zones.length > 0} to="/delivery" place="Delivery">
          What you charge for delivery, and what it costs you, zone by zone; and what tax is in your prices.
        </Step>
        <Step done={frame.has_carts} to="/carts" place="Carts">
          Your orders of the last months, so the abacus knows what carts come; or sketch there what you expect.{" "}
          <a className="quiet" href="/examples/orders.csv" download>
            Example file
          </a>
        </Step>
      </ol>
      {frame.empty && (
        <p className="mt-8">
          Or look around first:{" "}
          <button type="button" className="press ms-2" data-main="true" disabled={filling} onClick={() => void fill()}>
            {filling ? "Filling in the demo shop…" : "Fill in the demo shop"}
          </button>
        </p>
      )}
    </div>
  );
}

function Step({ done, to, place, children }: { done: boolean; to: string; place: string; children: React.ReactNode }) {
  return (
    <li className="flex gap-4">
      <span aria-hidden className={`mt-1 size-4 shrink-0 rounded-bead border-2 border-ink ${done ? "bg-ink" : "bg-sheet"}`} />
      <div>
        <Link to={to} className="word">
          {place}
        </Link>
        {done && <span className="text-soft"> · done</span>}
        <p>{children}</p>
      </div>
    </li>
  );
}
