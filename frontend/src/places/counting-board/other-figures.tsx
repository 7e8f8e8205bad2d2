/** What stands below the ledger: orders, units, values. */
import type { Forecast } from "../../api/types";
import { count, isNothing, money, share } from "../../pieces/figures";

export function OtherFigures({ forecast }: { forecast: Forecast }) {
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
          <td className="n">{then > now && !isNothing(tell(then - now)) ? `+${tell(then - now)}` : tell(then - now)}</td>
          <td />
          <td />
        </tr>
      ))}
    </tbody>
  );
}
