/** Why an offer does not reach the rest: the near misses first, all reasons on a slip. */
import type { OfferReach } from "../api/types";
import { count } from "./figures";
import { Heading, Headings } from "./headings";
import { Slip } from "./slip";

const SHOWN = 2;

/** reached, orders: of the plan's days, those it reaches and all. */
export function ReasonLine({ causes: every, reached, orders: all }: Pick<OfferReach, "causes" | "reached" | "orders">) {
  const orders = (n: number) => count(n, n < 9.95 ? 1 : 0);
  const causes = every.filter((one) => one.orders >= 0.05);
  if (causes.length === 0) return null;
  const near = causes.filter((one) => one.near);
  const first = [...near, ...causes.filter((one) => !one.near)].slice(0, SHOWN);
  return (
    <p className="text-small text-soft">
      Not the rest: {first.map((one) => `${one.text}, ${orders(one.orders)}`).join(" · ")}
      {causes.length > SHOWN && (
        <>
          {" · "}
          <Slip
            title="Why it does not reach the rest"
            width={400}
            trigger={
              <button type="button" className="quiet">
                all reasons
              </button>
            }
          >
            <table className="figures w-full">
              <Headings>
                <Heading>Reason</Heading>
                <Heading n>Orders</Heading>
              </Headings>
              <tbody>
                {causes.map((one) => (
                  <tr key={one.text}>
                    <td>
                      {one.text}
                      {one.near && <span className="text-soft">, a near miss</span>}
                    </td>
                    <td className="n">{orders(one.orders)}</td>
                  </tr>
                ))}
                <tr className="sum">
                  <td>Reached</td>
                  <td className="n">{orders(reached)}</td>
                </tr>
                <tr>
                  <td>Orders of the plan’s days</td>
                  <td className="n">{orders(all)}</td>
                </tr>
              </tbody>
            </table>
          </Slip>
        </>
      )}
    </p>
  );
}
