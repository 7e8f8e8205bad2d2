/** Delivery: what shoppers are charged and what carriers charge you, where the two part, and the shop's settings. */
import { Tabs } from "radix-ui";
import { useState, type ReactNode } from "react";

import { useDelivery, useFrame, useNames, useTaken } from "../../api/queries";
import type { Frame } from "../../api/types";
import { BringIn } from "../../pieces/bring-in";
import { soMany, money, share } from "../../pieces/figures";
import { TableFiles, type TableKind } from "../../pieces/table-files";
import { OptionsBoard } from "./options-board";
import { PaymentBoard } from "./payment-board";
import { ShopProvider, useShop } from "./saving";
import { SurchargesBoard } from "./surcharges-board";
import { TariffsBoard } from "./tariffs-board";
import { TaxBoard } from "./tax-board";
import { WholeShop } from "./whole-shop";

interface Board {
  key: string;
  title: string;
  /** What a file dropped on it is read as. */
  kind: Exclude<TableKind, "goods">;
  what: string;
  board: () => ReactNode;
}

const BOARDS: Board[] = [
  { key: "zones", title: "Zones and options", kind: "charges", what: "delivery charges", board: OptionsBoard },
  { key: "tariffs", title: "Carriers’ tariffs", kind: "tariffs", what: "tariffs", board: TariffsBoard },
  { key: "surcharges", title: "Surcharges", kind: "surcharges", what: "surcharges", board: SurchargesBoard },
  { key: "tax", title: "Tax", kind: "charges", what: "delivery charges", board: TaxBoard },
  { key: "payment", title: "Payment", kind: "charges", what: "delivery charges", board: PaymentBoard },
  { key: "shop", title: "The whole shop", kind: "charges", what: "delivery charges", board: WholeShop },
];

const FILES: [TableKind, string][] = [
  ["charges", "Delivery charges"],
  ["tariffs", "Tariffs"],
  ["surcharges", "Surcharges"],
];

export function DeliveryPlace() {
  const { data: frame } = useFrame();
  const { data: delivery } = useDelivery();
  const { data: goods } = useNames();
  const [board, setBoard] = useState("zones");
  if (!frame || !delivery || !goods) return null;
  const { kind, what } = BOARDS.find((one) => one.key === board)!;
  return (
    <ShopProvider frame={frame} goods={goods} kept={delivery}>
      <BringIn kind={kind} what={what}>
        {(choose) => (
          <Tabs.Root value={board} onValueChange={setBoard} className="px-7 pt-4 pb-8">
            <Answer frame={frame} />
            <div className="mt-3 flex min-h-11 flex-wrap items-end gap-x-6 gap-y-2 border-b-[1.5px] border-line">
              <Tabs.List aria-label="Parts of Delivery" className="flex flex-wrap gap-x-5">
                {BOARDS.map((one) => (
                  <Tabs.Trigger
                    key={one.key}
                    value={one.key}
                    className="-mb-[1.5px] border-b-[3px] border-transparent pb-1 whitespace-nowrap text-soft hover:text-ink data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink"
                  >
                    {one.title}{" "}
                    {frame.to_say.some((board) => board === one.key) && (
                      <span className="ms-1 rounded-bead border-[1.5px] border-ink bg-sheet px-1.5 text-tiny">
                        1<span className="sr-only"> to say</span>
                      </span>
                    )}
                  </Tabs.Trigger>
                ))}
              </Tabs.List>
              <span className="ms-auto flex items-center gap-4 pb-1.5 text-small">
                <TableFiles kinds={FILES} />
                {["zones", "tariffs", "surcharges"].includes(board) && choose}
              </span>
            </div>
            {BOARDS.map(({ key, board: Content }) => (
              <Tabs.Content key={key} value={key} className="pt-3">
                <Content />
              </Tabs.Content>
            ))}
          </Tabs.Root>
        )}
      </BringIn>
    </ShopProvider>
  );
}

/** What delivery did to the profit of the days counted. */
function Answer({ frame }: { frame: Frame }) {
  const { data } = useTaken();
  const { delivery } = useShop();
  const orders = data?.options.reduce((sum, one) => sum + one.orders, 0) ?? 0;
  if (!data || orders === 0) return <h1 className="text-answer">What delivery earns and costs</h1>;
  const charged = data.options.reduce((sum, one) => sum + one.charged, 0);
  const cost = data.options.reduce((sum, one) => sum + one.cost, 0);
  const left = charged - cost;
  const before = data.profit - left;
  const cash = (amount: number) => money(amount, frame, { whole: true });
  const used = data.options.filter((one) => one.orders > 0);
  const bare = used.filter((one) => delivery.zones.find((zone) => zone.name === one.zone)?.options.find((option) => option.name === one.option)?.tariffs.length === 0);
  return (
    <>
      <h1 className="text-answer">
        {bare.length === used.length ? (
          <>
            Shoppers paid <b>{cash(charged)}</b> for delivery; what it costs you is not set yet.
          </>
        ) : left < 0 ? (
          <>
            Delivery took <b>{cash(-left)}</b> of your profit{before > 0 && <>, {share(-left / before)} of what was there before it</>}.
          </>
        ) : (
          <>
            Delivery added <b>{cash(left)}</b> to your profit.
          </>
        )}
      </h1>
      <p className="mt-1 text-soft">
        Over the {soMany(data.counted_days, "day")} counted, before any offer: shoppers paid {cash(charged)} without tax, carriers asked for {cash(cost)}, and{" "}
        {cash(data.profit)} was kept in all.{bare.length > 0 && ` ${soMany(bare.length, "option")} without a tariff ${bare.length === 1 ? "counts" : "count"} as costing nothing.`}
      </p>
    </>
  );
}
