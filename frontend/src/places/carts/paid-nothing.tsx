/** Units of orders that nobody paid for: what offers put in, and what no offer explains. */
import { Link } from "react-router";
import type { Carts } from "../../api/types";
import { count } from "../../pieces/figures";

export function PaidNothing({ told }: { told: Carts["paid_nothing"] }) {
  const { put_in: putIn, unexplained } = told;
  return (
    <>
      {putIn > 0 && (
        <p className="text-small">
          {count(putIn)} {putIn === 1 ? "unit that an offer put in counts" : "units that offers put in count"} as no goods ordered.
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
    </>
  );
}
