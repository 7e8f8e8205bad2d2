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
      {each && <OtherFigures forecast={forecast} />}
    </table>
  );
}

/** What stands below the ledger: orders, units, values. */
function OtherFigures({ forecast }: { forecast: Forecast }) {
  const { today, plan } = forecast;
  const fine = (value: number) => count(value, 1);
  const cash = (value: number) => money(value, forecast);
  const rows: [string, number, number, (value: number) => string][] = [
    ["Orders", today.orders, plan.orders, fine],
    ["Units", today.units, plan.units, fine],
    ["Average order value", today.average_order_value, plan.average_order_value, cash],
    ["Given away of goods", today.discount_depth, plan.discount_depth, share],
    ["Orders that lose money", today.orders_losing_money, plan.orders_losing_money, fine],
  ];
  return (
    <tbody>
      {rows.map(([label, now, then, tell]) => (
        <tr key={label}>
          <th scope="row" className="font-normal! text-ink!">
            {label}
          </th>
          <td className="n">{tell(now)}</td>
          <td className="n">{tell(then)}</td>
          <td className="n">{then > now ? `+${tell(then - now)}` : tell(then - now)}</td>
          <td />
          <td />
        </tr>
      ))}
    </tbody>
  );
}
