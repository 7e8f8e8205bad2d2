/** What orders paid beside what Goods asks, where that is not the same. */
import type { Carts, Frame } from "../../api/types";
import { count, money, share } from "../../pieces/figures";
import { Slip } from "../../pieces/slip";
import { Word } from "../../pieces/words";

/** Less is not worth a sentence. */
const TOLD_FROM = 0.005;
const MONTH = new Intl.DateTimeFormat("en-GB", { month: "long", year: "numeric", timeZone: "UTC" });

export function PricesPaid({ prices, frame }: { prices: Carts["prices"]; frame: Frame }) {
  const { asked, paid, months, skus, reaching } = prices;
  const less = asked ? 1 - paid / asked : 0;
  if (Math.abs(less) < TOLD_FROM) return null;
  const moved = reaching.find((one) => one.asked !== one.paid);
  const unit = 10 ** frame.minor_digits;
  return (
    <p className="text-small">
      Orders paid{" "}
      <Slip
        title="What orders paid beside what Goods asks"
        width={460}
        trigger={
          <Word>
            {share(Math.abs(less))} {less > 0 ? "less" : "more"}
          </Word>
        }
      >
        <PaidTable title="Month" rows={months.map((one) => ({ ...one, label: MONTH.format(new Date(`${one.label}-01`)) }))} frame={frame} />
        <PaidTable title="SKU, largest difference first" rows={skus} frame={frame} />
        <p className="mt-2 text-small text-soft">
          On {count(prices.lines)} lines that tell a price. Goods asks what one unit is listed or reduced at; quantity and group prices are not looked at here.
        </p>
      </Slip>{" "}
      than Goods asks. Forecasts go by Goods.
      {moved && (
        <>
          {" "}
          {count(moved.asked)} of them reach {money(moved.threshold, frame, { whole: moved.threshold % unit === 0 })} at what Goods asks, {count(moved.paid)} did.
        </>
      )}
    </p>
  );
}

function PaidTable({ title, rows, frame }: { title: string; rows: Carts["prices"]["skus"]; frame: Frame }) {
  if (rows.length === 0) return null;
  return (
    <table className="figures mb-2 w-full text-small">
      <thead>
        <tr>
          <th scope="col">{title}</th>
          <th scope="col" className="n">Goods asks</th>
          <th scope="col" className="n">Paid</th>
          <th scope="col" className="n">Of it</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ label, asked, paid }) => (
          <tr key={label}>
            <th scope="row">{label}</th>
            <td className="n">{money(asked, frame)}</td>
            <td className="n">{money(paid, frame)}</td>
            <td className="n">{asked ? share(paid / asked) : ""}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
