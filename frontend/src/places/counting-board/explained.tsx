/** What explains the answer: from today to the plan, and where an order's money goes. */
import { Tabs } from "radix-ui";
import { memo } from "react";
import { Link } from "react-router";

import type { Forecast, Frame, Plan } from "../../api/types";
import { Bridge } from "../../pieces/bridge";
import { LedgerTable } from "../../pieces/ledger-table";
import { RodChart } from "../../pieces/rod-chart";
import { TabWords } from "../../pieces/tab-words";
import { OtherFigures } from "./other-figures";
import { ByDay, StockNeeded } from "./over-time";
import { Working } from "./working";

interface Props {
  plan: Plan;
  forecast: Forecast;
  frame: Frame;
  /** The forecast is that of the plan, and not of one before. */
  answered: boolean;
  change: (make: (plan: Plan) => Plan) => void;
}

/** Drawn anew only when its figures change, not with every key. */
export const Explained = memo(function Explained({ plan, forecast, frame, answered, change }: Props) {
  return (
    <div className="grid min-w-0 max-w-[1500px] grid-cols-[minmax(0,1fr)] content-start gap-3 overflow-y-auto px-6 py-3.5">
      <Tabs.Root defaultValue="bridge">
        <div className="flex items-baseline justify-between">
          <h2 className="text-title">From today to the plan</h2>
          <TabWords label="From today to the plan" words={[["bridge", "bridge"], ["ledger", "ledger"], ["days", "by day"], ["stock", "stock"]]} />
        </div>
        <Tabs.Content value="bridge">
          <Bridge start={forecast.start} steps={forecast.bridge} of={forecast} whole={forecast.precision === "whole"} />
        </Tabs.Content>
        <Tabs.Content value="ledger" className="mt-1">
          <LedgerTable rows={forecast.ledger} of={forecast} each below={<OtherFigures forecast={forecast} />} working={(figure) => <Working {...{ plan, figure }} of={forecast} />} />
        </Tabs.Content>
        <Tabs.Content value="days">
          <ByDay {...{ plan, forecast, frame, answered }} />
        </Tabs.Content>
        <Tabs.Content value="stock">
          <StockNeeded {...{ plan, forecast, frame, change, answered }} />
        </Tabs.Content>
      </Tabs.Root>
      <RodChart rods={forecast.rods} of={forecast} />
      {forecast.caveats.length > 0 && (
        <p className="text-small text-soft">
          {forecast.caveats.join(" ")} <Link to="/goods" className="quiet">Mend it at Goods</Link>,{" "}
          <Link to="/delivery" className="quiet">Delivery</Link> or <Link to="/carts" className="quiet">Carts</Link>.
        </p>
      )}
    </div>
  );
});
