/** Figures of every column beside today: one table for the ledger, the bridge, types of cart, zones and stock. */
import type { Forecast, SideBySide, StockBeside } from "../../api/types";
import { count, days, inAHundred, isNothing, money, share } from "../../pieces/figures";
import { Heading } from "../../pieces/headings";
import type { Column } from "./columns";

interface Row {
  key: string;
  label: string;
  /** What stands in the first column of figures. */
  today: string;
  told: string[];
  sum?: boolean;
}

interface InColumnsProps {
  caption: string;
  columns: Column[];
  rows: Row[];
  /** What the first column of figures is; null for none. */
  first?: string | null;
}

export function InColumns({ caption, columns, rows, first = "Today" }: InColumnsProps) {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={caption}>
      <table className="figures w-full text-small">
        <caption className="sr-only">{caption}</caption>
        <thead>
          <tr className="align-bottom">
            <td />
            {first !== null && <Heading n>{first}</Heading>}
            {columns.map((one) => <Heading key={one.key} n className="max-w-44 text-ink!">{one.name}</Heading>)}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.key} className={row.sum ? "sum" : ""}>
              <th scope="row" className={row.sum ? "text-ink!" : "font-normal! text-ink!"}>
                {row.label}
              </th>
              {first !== null && <td className="n">{row.today}</td>}
              {row.told.map((text, at) => (
                <td key={at} className="n">
                  {text}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

export function ledgerRows({ columns }: SideBySide): Row[] {
  const first = columns[0]!;
  const rows = first.ledger.map((line, at): Row => {
    const told = columns.map((one) => one.ledger[at]!.plan);
    return { key: line.key, label: line.label, today: money(line.today, first), told: told.map((amount) => money(amount, first)), sum: line.key === "profit" };
  });
  const other = (key: string, label: string, of: (figures: Forecast["today"]) => string): Row => ({ key, label, today: of(first.today), told: columns.map((one) => of(one.plan)) });
  const shown = rows.filter((row) => row.sum || [row.today, ...row.told].some((text) => !isNothing(text)));
  return [
    ...shown,
    other("orders", "Orders", (one) => count(one.orders, 1)),
    other("average", "Average order value", (one) => money(one.average_order_value, first)),
    other("depth", "Given away of goods", (one) => share(one.discount_depth)),
    other("losing", "Orders that lose money", (one) => count(one.orders_losing_money, 1)),
    { key: "reached", label: "Orders it reaches", today: "", told: columns.map((one) => count(one.reached, 1)) },
    { key: "needed", label: "More orders needed", today: "", told: columns.map(({ more_orders: { value, verdict } }) => (value !== null ? share(value) : verdict === "always" ? "none" : verdict === "never" ? "no number would do" : "–")) },
  ];
}

export function bridgeRows({ columns }: SideBySide): Row[] {
  const first = columns[0]!;
  const whole = columns.every((one) => one.precision === "whole");
  const steps = columns.flatMap((one) => one.bridge).filter((step, at, all) => all.findIndex((other) => other.key === step.key) === at);
  const order = (key: string) => (key === "otherwise" ? -1 : 0);
  const cash = (amount: number, signed = true) => money(amount, first, { whole, signed });
  return [
    { key: "start", label: "Kept today", today: "", told: columns.map((one) => cash(one.start, false)) },
    ...steps
      .toSorted((one, other) => order(one.key) - order(other.key))
      .map((step): Row => ({ key: step.key, label: step.label, today: "", told: columns.map((one) => cash(one.bridge.find(({ key }) => key === step.key)?.amount ?? 0)) }))
      .filter((row) => row.told.some((text) => !isNothing(text))),
    { key: "end", label: "Kept under the plan", today: "", told: columns.map((one) => cash(one.end, false)), sum: true },
  ];
}

/** What each kind of cart keeps more or less than today over the days. */
export function rodRows({ columns }: SideBySide, way: "type" | "category" | "zone"): Row[] {
  const first = columns[0]!;
  const labels = [...new Set(columns.flatMap((one) => (one.rods[way] ?? []).map((rod) => rod.label)))];
  return labels.map((label) => {
    const rods = columns.map((one) => one.rods[way]?.find((rod) => rod.label === label));
    const orders = rods.find((rod) => rod !== undefined)!.share;
    return { key: label, label, today: share(orders), told: rods.map((rod) => money(rod?.change ?? 0, first, { whole: first.precision === "whole", signed: true })) };
  });
}

const MUCH = 0.5;
const SHOWN = 12;

/** Goods of which some column needs much of the stock. */
export function stockRows(found: StockBeside, of: (sku: string) => string): Row[] {
  const needs = found.columns.map((one) => new Map(one.needs.map((need) => [need.sku, need])));
  const all = new Map(found.columns.flatMap((one) => one.needs.map((need) => [need.sku, need] as const)));
  const much = (sku: string) => Math.max(...needs.map((one) => (one.get(sku)?.plan ?? 0) / Math.max(one.get(sku)?.stock ?? 1, 1)));
  return [...all.values()]
    .filter((need) => much(need.sku) >= MUCH)
    .toSorted((one, other) => much(other.sku) - much(one.sku))
    .slice(0, SHOWN)
    .map((need) => ({
      key: need.sku,
      label: `${of(need.sku)}, ${count(need.stock)} in stock`,
      today: count(need.today),
      told: needs.map((one) => {
        const here = one.get(need.sku);
        return here ? `${count(here.plan)}${here.ends ? `, until ${days(here.ends, here.ends, false)}` : ""}` : "–";
      }),
    }));
}

/** How often each column keeps more than each other. */
export function Chances({ columns, beats }: { columns: Column[]; beats: number[][] }) {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Which keeps more, how often">
      <table className="figures text-small">
        <thead>
          <tr className="align-bottom">
            <td />
            {columns.map((one) => <Heading key={one.key} n className="max-w-44 text-ink!">keeps more than {one.name}</Heading>)}
          </tr>
        </thead>
        <tbody>
          {columns.map((one, row) => (
            <tr key={one.key}>
              <th scope="row" className="max-w-72 font-normal! text-ink!">
                {one.name}
              </th>
              {columns.map((other, at) => (
                <td key={other.key} className={`n ${beats[row]![at]! > 0.5 && row !== at ? "font-semibold" : ""}`}>
                  {row === at ? "" : inAHundred(beats[row]![at]!)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

