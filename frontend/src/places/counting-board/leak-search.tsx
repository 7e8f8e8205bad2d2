/** Leaks: carts of the mix that lose money under the plan, and a search for those a sharp-eyed shopper could build. */
import { useState } from "react";
import { useNavigate } from "react-router";

import { useLongSearch } from "../../api/long-search";
import { useNames } from "../../api/queries";
import type { Frame, Leak, LeakLine, Leaks, LeaksBody, Plan } from "../../api/types";
import { count, soMany, listed, money, share } from "../../pieces/figures";
import { NumberBox } from "../../pieces/number-box";
import { useNameOf } from "../../pieces/offer-names";
import { nameOfSku } from "../../pieces/product-picker";
import { keepCart } from "../../pieces/kept-cart";
import { withOffer } from "../../offers/offers";

interface LeakProps {
  plan: Plan;
  planId: number;
  frame: Frame;
  change: (make: (plan: Plan) => Plan) => void;
}

type Progress = Extract<LeakLine, { kind: "searched" }>;
const NOTHING_SEARCHED: Progress = { kind: "searched", share: 0, carts: 0, found: 0 };

export function LeakSearch({ plan, planId, frame, change }: LeakProps) {
  const [least, setLeast] = useState(100);
  const { progress, found, failed, start, stop } = useLongSearch<LeaksBody, Progress, Leaks>("/leaks", NOTHING_SEARCHED);
  const [of, setOf] = useState(plan);
  const search = () => {
    setOf(plan);
    start({ plan, least });
  };

  return (
    <section aria-labelledby="leaks-title" className="mt-4 border-t-[1.5px] border-line pt-3">
      <h3 id="leaks-title" className="text-body">
        Leaks
      </h3>
      <p className="text-small text-soft">Carts that lose money under this plan: those your shoppers bring, and the worst a sharp-eyed one could build of at most 12 of each product.</p>
      <div className="mt-1.5 flex items-end gap-4">
        <NumberBox label="Losing at least so much more than today" value={least} scale={10 ** frame.minor_digits} digits={frame.minor_digits} step={100} least={1} most={100_000_00} width="5.5rem" onChange={setLeast} />
        {progress ? (
          <>
            <button type="button" className="press" onClick={stop}>
              Stop
            </button>
            <span role="status" className="flex-1 text-small">
              <progress className="w-full accent-ink" max={1} value={progress.share} aria-label="How far the search is" />
              {count(progress.carts)} carts looked at, {progress.found} {progress.found === 1 ? "leak" : "leaks"}
            </span>
          </>
        ) : (
          <button type="button" className="press" onClick={search}>
            Search for leaks
          </button>
        )}
      </div>
      {failed && <p role="alert" className="mt-1 text-small text-loss-ink">{failed}</p>}
      {found && <Found {...{ plan, planId, frame, change }} leaks={found} stale={of !== plan} />}
    </section>
  );
}

function Found({ leaks, plan, planId, frame, change, stale }: LeakProps & { leaks: Leaks; stale: boolean }) {
  const nameOf = useNameOf(plan);
  const names = (ids: string[]) => listed(ids.map((id) => nameOf(id)));
  const orders = (n: number) => count(n, n < 9.95 ? 1 : 0);
  return (
    <div className="mt-2">
      {stale && <p className="text-small text-soft">The plan was changed since; search again to see what is left.</p>}
      {leaks.in_mix.slice(0, 3).map((one) => (
        <p key={one.offers.join()} className="text-small">
          Of the carts that come, {orders(one.orders)} orders ({share(one.share)}) lose {money(one.lost, frame)} under {names(one.offers)}.
        </p>
      ))}
      {leaks.leaks.length === 0 ? (
        <p className="mt-1">None of the {soMany(leaks.carts, "cart")} looked at leaks.</p>
      ) : (
        <ol className="mt-2 grid gap-2.5">
          {leaks.leaks.map((leak) => (
            <LeakItem key={JSON.stringify(leak.cart)} {...{ leak, plan, planId, frame, change }} />
          ))}
        </ol>
      )}
    </div>
  );
}

function LeakItem({ leak, plan, planId, frame, change }: LeakProps & { leak: Leak }) {
  const { data: goods } = useNames();
  const nameOf = useNameOf(plan);
  const go = useNavigate();
  const inTill = () => {
    keepCart(leak.cart);
    void go(`/till?plan=${planId}`);
  };
  const cart = listed(leak.cart.lines.map((line) => `${line.quantity} × ${nameOfSku(line.sku, goods ?? [])}`));
  const codes = leak.cart.codes.length ? `, with ${listed(leak.cart.codes)}` : "";
  return (
    <li className="grid grid-cols-[1fr_auto] gap-x-4">
      <div>
        <p>
          {cart} to {leak.cart.zone}
          {leak.cart.option && ` by ${leak.cart.option}`}
          {codes}: {listed(leak.offers.map((id) => nameOf(id)))}.
        </p>
        <p className="flex flex-wrap gap-x-4 text-small">
          <button type="button" className="quiet" onClick={inTill}>
            Open it in the Till
          </button>
          <button type="button" className="quiet" onClick={() => change((before) => ({ ...before, sharp: { share_bp: 100, cart: leak.cart, offers: leak.offers } }))}>
            Count on some who build it
          </button>
          {leak.mend ? (
            <button type="button" className="quiet text-start" onClick={() => change((before) => withOffer(before, leak.mends, (one) => ({ ...one, terms: leak.mend!.terms })))}>
              {nameOf(leak.mends)}: {lowered(leak.mend.label)}, so that it loses {leak.loses > 0 ? `at most ${money(leak.loses, frame)} more than today` : "no more than today"}
            </button>
          ) : (
            <span className="text-soft">No single change closes it.</span>
          )}
        </p>
      </div>
      <span className="text-end">
        <span className="font-semibold text-loss-ink">{money(leak.kept, frame)}</span>
        <span className="block text-small text-soft">today {money(leak.kept_today, frame)}</span>
      </span>
    </li>
  );
}

const lowered = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
