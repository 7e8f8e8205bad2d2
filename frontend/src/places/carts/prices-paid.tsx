/** What orders paid beside what Goods asks, where that is not the same. */
import { useState } from "react";

import { ask } from "../../api/client";
import { renewAll } from "../../api/queries";
import type { Carts, Frame } from "../../api/types";
import { cash, count, soMany, money, share } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { useNotice } from "../../pieces/notice";
import { NumberBox } from "../../pieces/number-box";
import { Slip } from "../../pieces/slip";
import { Word } from "../../pieces/words";

/** Less is not worth a sentence. */
const TOLD_FROM = 0.005;
const MONTH = new Intl.DateTimeFormat("en-GB", { month: "long", year: "numeric", timeZone: "UTC" });

export function PricesPaid({ prices, going, frame }: { prices: Carts["prices"]; going: number; frame: Frame }) {
  const { asked, paid, months, skus, reaching } = prices;
  const less = asked ? 1 - paid / asked : 0;
  if (Math.abs(less) < TOLD_FROM) return going > 0 ? <p className="text-small"><GoingPrices going={going} /></p> : null;
  const moved = reaching.find((one) => one.asked !== one.paid);
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
          On {soMany(prices.lines, "line")} that tell a price. Goods asks what one unit is listed or reduced at; quantity and group prices are not looked at here.
        </p>
      </Slip>{" "}
      than Goods asks. Forecasts go by Goods. <GoingPrices going={going} />
      {moved && (
        <>
          {" "}
          {count(moved.asked)} of them reach {cash(moved.threshold, frame)} at what Goods asks, {count(moved.paid)} did.
        </>
      )}
    </p>
  );
}

/** Goods that really sell at other prices than their list prices: those stand in their place. */
function GoingPrices({ going }: { going: number }) {
  const [days, setDays] = useState(90);
  const [open, setOpen] = useState(false);
  const { say, fail } = useNotice();
  const put = async (last_days: number | null) => {
    try {
      await ask("PUT", "/goods/going", { last_days, skus: null });
      setOpen(false);
      await renewAll();
      say(last_days === null ? "Forecasts go by list prices." : "Forecasts go by what was paid of late.");
    } catch (error) {
      fail(error);
    }
  };
  return (
    <Slip title="What goods really sell at" width={380} open={open} onOpenChange={setOpen} trigger={<Word faint={going === 0}>{going ? `${soMany(going, "good")} ${going === 1 ? "stands" : "stand"} at a going price` : "Go by what was paid"}</Word>}>
      <p className="text-small text-soft">
        If you sell below your list prices all year, let the price orders paid of late stand in for them: as a going price, which is not a reduced one. Single goods can be set at Goods, by <i>Change many at once</i>.
      </p>
      <div className="mt-2">
        <NumberBox label="What was paid in the last" value={days} scale={1} step={7} least={1} most={3_660} unit="days" buttons onChange={setDays} />
      </div>
      <p className="mt-2 flex gap-4">
        <button type="button" className="press" onClick={() => void put(days)}>
          Keep as going prices
        </button>
        {going > 0 && (
          <button type="button" className="quiet" onClick={() => void put(null)}>
            List prices as they are
          </button>
        )}
      </p>
    </Slip>
  );
}

function PaidTable({ title, rows, frame }: { title: string; rows: Carts["prices"]["skus"]; frame: Frame }) {
  if (rows.length === 0) return null;
  return (
    <table className="figures mb-2 w-full text-small">
      <Headings>
        <Heading>{title}</Heading>
        <Heading n>Goods asks</Heading>
        <Heading n>Paid</Heading>
        <Heading n>Of it</Heading>
      </Headings>
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
