/** The ledger: today, the plan and the change, in the one order, adding up to what you keep. */
import type { Forecast } from "../../api/types";
import { count, money, share } from "../../pieces/figures";

export function LedgerTable({ forecast, each = false }: { forecast: Forecast; each?: boolean }) {
  return (
    <table className="figures w-full text-small">
      <thead>
        <tr>
          <th scope="col">
            <span className="sr-only">Row</span>
          </th>
          <th scope="col" className="n">
            Today
          </th>
          <th scope="col" className="n">
            Plan
          </th>
          <th scope="col" className="n">
            Change
          </th>
          {each && (
            <>
              <th scope="col" className="n">
                Today, an order
              </th>
              <th scope="col" className="n">
                Plan, an order
              </th>
            </>
          )}
        </tr>
      </thead>
      <tbody>
        {forecast.ledger.map((line) => (
          <tr key={line.key} className={line.key === "profit" ? "sum" : ""}>
            <th scope="row" className={line.key === "profit" ? "text-ink!" : "font-normal! text-ink!"}>
              {line.label}
            </th>
            <td className="n">{money(line.today, forecast)}</td>
            <td className="n">{money(line.plan, forecast)}</td>
            <td className="n">{money(line.change, forecast, { signed: true })}</td>
            {each && (
              <>
                <td className="n">{money(line.today_each, forecast)}</td>
                <td className="n">{money(line.plan_each, forecast)}</td>
              </>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What stands beside the ledger: orders, units, values. */
export function OtherFigures({ forecast }: { forecast: Forecast }) {
  const { today, plan } = forecast;
  const rows: [string, string, string][] = [
    ["Orders", count(today.orders, 1), count(plan.orders, 1)],
    ["Units", count(today.units, 1), count(plan.units, 1)],
    ["Average order value", money(today.average_order_value, forecast), money(plan.average_order_value, forecast)],
    ["Given away of goods", share(today.discount_depth), share(plan.discount_depth)],
    ["Orders that lose money", count(today.orders_losing_money, 1), count(plan.orders_losing_money, 1)],
  ];
  return (
    <table className="figures mt-3 text-small">
      <tbody>
        {rows.map(([label, now, then]) => (
          <tr key={label}>
            <th scope="row" className="font-normal! text-ink!">
              {label}
            </th>
            <td className="n">{now}</td>
            <td className="n">{then}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
