/** What the other columns do otherwise than the first, in words. */
import type { Frame, Plan } from "../../api/types";
import { Differing } from "../../offers/differing-words";
import type { Column, Otherwise } from "./columns";

interface Props {
  columns: Column[];
  /** Of the columns, over the same days. */
  plans: Plan[];
  frame: Frame;
  otherwise: (one: Otherwise) => string;
}

export function Differences({ columns, plans, frame, otherwise }: Props) {
  const first = plans[0]!;
  return (
    <div className="grid gap-4">
      <p className="text-small text-soft">Beside “{columns[0]!.name}”, the first in the row:</p>
      {columns.slice(1).map((column, n) => {
        const plan = plans[n + 1]!;
        return (
          <section key={column.key} aria-label={column.name}>
            <h3 className="font-semibold">{column.name}</h3>
            <Differing {...{ first, frame }} second={plan}>
              {column.twist && <li>In a shop with {otherwise(column.twist)}.</li>}
            </Differing>
          </section>
        );
      })}
      {columns.length < 2 && <p className="text-soft">Put another plan beside it to see what differs.</p>}
    </div>
  );
}
