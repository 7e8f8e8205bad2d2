/** The ledger: today, the plan and the change, in the one order, adding up to what you keep. */
import type { ReactNode } from "react";

import type { Forecast } from "../api/types";
import { money, type Currency } from "./figures";
import { Heading, Headings } from "./headings";
import { Slip } from "./slip";

interface Props {
  rows: Forecast["ledger"];
  of: Currency;
  /** Tell an average order too. */
  each?: boolean;
  /** Rows of other figures. */
  below?: ReactNode;
  /** The working behind a row, of today or the plan. */
  working?: (figure: string) => ReactNode;
}

export function LedgerTable({ rows, of, each = false, below, working }: Props) {
  const opened = (figure: string, title: string, text: string) =>
    working ? (
      <Slip title={title} width={420} trigger={<button type="button" className="border-b border-dotted border-soft">{text}</button>}>
        {working(figure)}
      </Slip>
    ) : (
      text
    );
  const key = (who: string, line: Props["rows"][number]) => (line.key === "profit" ? who : `${who}/${line.key}`);
  return (
    <table className="figures w-full text-small">
      <Headings>
        <Heading unseen>Row</Heading>
        <Heading n>Today</Heading>
        <Heading n>Plan</Heading>
        <Heading n>Change</Heading>
        {each && (
          <>
            <Heading n>Today, an order</Heading>
            <Heading n>Plan, an order</Heading>
          </>
        )}
      </Headings>
      <tbody>
        {rows.map((line) => (
          <tr key={line.key} className={line.key === "profit" ? "sum" : ""}>
            <th scope="row" className={line.key === "profit" ? "text-ink!" : "font-normal! text-ink!"}>
              {line.label}
            </th>
            <td className="n">{line.today === 0 ? money(0, of) : opened(key("today", line), `${line.label}, today`, money(line.today, of))}</td>
            <td className="n">{line.plan === 0 ? money(0, of) : opened(key("plan", line), `${line.label}, under the plan`, money(line.plan, of))}</td>
            <td className="n">{money(line.change, of, { signed: true })}</td>
            {each && (
              <>
                <td className="n">{money(line.today_each, of)}</td>
                <td className="n">{money(line.plan_each, of)}</td>
              </>
            )}
          </tr>
        ))}
      </tbody>
      {below}
    </table>
  );
}
