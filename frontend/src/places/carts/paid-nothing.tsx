/** Units of orders that nobody paid for: what offers put in, what kits are made of, and what nothing explains. */
import { Link } from "react-router";

import { ask } from "../../api/client";
import { renewAll } from "../../api/queries";
import type { Carts } from "../../api/types";
import { count, listed, soMany } from "../../pieces/figures";
import { useNotice } from "../../pieces/notice";

type Told = Carts["paid_nothing"];

export function PaidNothing({ told }: { told: Told }) {
  const { put_in: putIn, unexplained, told_twice: twice, kits } = told;
  return (
    <>
      {putIn > 0 && (
        <p className="text-small">
          {count(putIn)} {putIn === 1 ? "unit that an offer put in counts" : "units that offers put in count"} as no goods ordered.
        </p>
      )}
      {twice > 0 && (
        <p className="text-small">
          {count(twice)} {twice === 1 ? "unit" : "units"} told beside {twice === 1 ? "its kit counts" : "their kits count"} with {twice === 1 ? "it" : "them"}, and not again.
        </p>
      )}
      {unexplained > 0 && (
        <p className="text-small">
          Nothing was paid for {count(unexplained)} {unexplained === 1 ? "unit" : "units"} of goods that have a price; they count as ordered at that price. If an offer put
          them in,{" "}
          <Link to="/afterwards" className="quiet">
            tell it at Afterwards
          </Link>
          .
        </p>
      )}
      <KitsTold kits={kits} />
    </>
  );
}

const SHOWN = 3;

/** Kits that orders tell of and Goods does not. */
function KitsTold({ kits }: Pick<Told, "kits">) {
  const { say, fail } = useNotice();
  const take = async (some: Told["kits"]) => {
    try {
      await ask("POST", "/goods/kits", { skus: some.map((one) => one.sku) });
      await renewAll();
      say(some.length === 1 ? `${nameOf(some[0]!)} is a kit: its parts count with it.` : `${soMany(some.length, "SKU")} are kits: their parts count with them.`);
    } catch (error) {
      fail(error);
    }
  };
  return (
    <>
      {kits.slice(0, SHOWN).map((kit) => (
        <p key={kit.sku} className="text-small">
          {nameOf(kit)} looks like a kit: {soMany(kit.orders, "order")} {kit.orders === 1 ? "tells" : "tell"} {listed(kit.parts.map((part) => `${count(part.units)} × ${nameOf(part)}`))} beside it, for
          nothing.{" "}
          <button type="button" className="quiet" onClick={() => void take([kit])}>
            It is made of them
          </button>
        </p>
      ))}
      {kits.length > SHOWN && (
        <p className="text-small">
          {soMany(kits.length - SHOWN, "SKU")} more {kits.length - SHOWN === 1 ? "looks" : "look"} so, too.{" "}
          <button type="button" className="quiet" onClick={() => void take(kits)}>
            All {count(kits.length)} are kits
          </button>
        </p>
      )}
    </>
  );
}

const nameOf = ({ product, sku }: { product: string; sku: string }) => product || sku;
