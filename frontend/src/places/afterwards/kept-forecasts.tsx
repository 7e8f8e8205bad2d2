/** Forecasts that were kept, and what became of each. */
import { useState } from "react";

import { ask } from "../../api/client";
import { queries, useAgainst, useRecord } from "../../api/queries";
import type { Frame, KeptLine, KeptRecord as Recorded, SavedPlan } from "../../api/types";
import { days, money } from "../../pieces/figures";
import { KeptRecord } from "../../pieces/kept-record";
import { useNotice } from "../../pieces/notice";
import { HeldAgainst } from "./held-against";
import type { PastOffers } from "./use-past";

interface Props {
  kept: KeptLine[];
  frame: Frame;
  plans: SavedPlan[];
  past: PastOffers;
}

const STATES: Record<KeptLine["state"], string> = { over: "over", under_way: "under way", to_come: "still to come" };
const MOMENT = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", year: "numeric" });

export function KeptForecasts({ kept, frame, plans, past }: Props) {
  const firstHeld = kept.find((one) => one.state !== "to_come")?.id ?? null;
  const [chosen, choose] = useState<number | null>(null);
  const open = kept.some((one) => one.id === chosen) ? chosen : firstHeld;
  const { data, error } = useAgainst(open, frame.data_version);
  const became = new Map(useRecord(frame.data_version).data?.became.map((one) => [one.id, one]));
  const { fail } = useNotice();
  const remove = async (id: number) => {
    try {
      queries.setQueryData(["kept"], await ask("DELETE", `/kept/${id}`));
      await queries.invalidateQueries({ queryKey: ["frame"] });
      await queries.invalidateQueries({ queryKey: ["kept", "record"] });
    } catch (problem) {
      fail(problem);
    }
  };
  return (
    <>
      {open !== null && error && <p className="mt-2 text-loss-ink">{error.message}</p>}
      {data && open !== null && !error && <HeldAgainst kept={open} against={data} {...{ plans, past }} />}
      <h2 className="mt-5 text-title">Forecasts you kept</h2>
      <KeptRecord version={frame.data_version} className="text-small text-soft" />
      <ul className="mt-1 grid gap-0.5">
        {kept.map((one) => (
          <li key={one.id} className={`grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-4 ${one.id === open ? "font-semibold" : ""}`}>
            {one.state === "to_come" ? (
              <span className="px-2 py-1">{said(one, frame)}</span>
            ) : (
              <button type="button" aria-pressed={one.id === open} className="choice text-start" onClick={() => choose(one.id)}>
                {said(one, frame, became.get(one.id))}
              </button>
            )}
            <button type="button" className="quiet text-small" onClick={() => void remove(one.id)}>
              Keep no more<span className="sr-only">: {one.plan}, kept {MOMENT.format(new Date(one.at))}</span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

const said = (one: KeptLine, frame: Frame, became?: Recorded["became"][number]) => {
  const tell = (amount: number) => money(amount, frame, { whole: true });
  const came = became ? `; ${tell(became.kept)} came, ${became.inside ? "inside" : "outside"} its range` : "";
  return `${one.plan} · ${days(one.first_day, one.last_day)}, ${STATES[one.state]} · kept ${MOMENT.format(new Date(one.at))}: ${tell(one.profit)} expected${one.knew ? ", when its days were known" : ""}${came}`;
};
