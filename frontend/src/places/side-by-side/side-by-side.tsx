/** Side by side: plans held against each other and against today, over the days and the carts of the first one. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { DropdownMenu, Tabs } from "radix-ui";
import { useState, type ReactNode } from "react";
import { Link, useSearchParams } from "react-router";

import { ApiError, ask } from "../../api/client";
import { useFrame, useNames, usePlans } from "../../api/queries";
import type { Frame, HowSure, Part, SavedPlan, SideBySide, StockBeside } from "../../api/types";
import { EmptyShop } from "../../pieces/empty-shop";
import { soMany, days, money } from "../../pieces/figures";
import { moved } from "../../pieces/lists";
import { mixInWords, USUAL } from "../../pieces/mix-names";
import { nameOfSku } from "../../pieces/product-picker";
import { EVERYTHING } from "../../pieces/scope-word";
import { Turn } from "../../pieces/rod-chart";
import { TabWords } from "../../pieces/tab-words";
import { AheadMap } from "./ahead-map";
import { addressOf, columnsOf, MOST_COLUMNS, keepStanding, standing, type Chosen, type Column, type Otherwise } from "./columns";
import { Differences } from "./differences";
import { bridgeRows, Chances, InColumns, ledgerRows, rodRows, stockRows } from "./in-columns";
import { OtherwiseWord, otherwiseInWords } from "./otherwise-words";
import { PlansRod } from "./plans-rod";
import { YearStrip } from "./year-strip";

export function SideBySidePlace() {
  const { data: frame } = useFrame();
  const { data: plans } = usePlans();
  if (!frame || !plans) return null;
  if (frame.empty || !frame.has_carts) return <EmptyShop frame={frame} />;
  if (plans.plans.length === 0)
    return (
      <div className="mx-auto max-w-2xl px-7 py-14">
        <h1 className="text-answer">No plan to hold against another yet</h1>
        <p className="mt-3">
          Here plans stand beside each other and beside today. Write one on the{" "}
          <Link to="/counting-board" className="quiet">
            Counting board
          </Link>
          .
        </p>
      </div>
    );
  return <Beside frame={frame} saved={plans.plans} />;
}

/** What is asked of the columns, the last answer staying until there is another. */
function useBeside<Answer>(path: string, columns: Column[], frame: Frame) {
  const body = { columns: columns.map(({ name, plan, twist }) => ({ name, plan, twist })) };
  return useQuery({
    queryKey: ["side by side", path, frame.data_version, body],
    queryFn: ({ signal }) => ask<Answer>("POST", `/side-by-side${path}`, body, signal),
    placeholderData: keepPreviousData,
  });
}

function Beside({ frame, saved }: { frame: Frame; saved: SavedPlan[] }) {
  const { data: goods } = useNames();
  const [search, setSearch] = useSearchParams();
  const chosen = standing(search.get("columns"), saved);
  const overYear = search.get("look") === "year";
  const look = (
    <p className="flex gap-5 px-7 pt-3 text-small">
      {(
        [
          ["", "Side by side"],
          ["year", "Over the year"],
        ] as const
      ).map(([key, words]) => (
        <Turn key={key} on={overYear === (key === "year")} set={() => setSearch(key ? { look: key } : {})}>
          {words}
        </Turn>
      ))}
    </p>
  );
  const columns = columnsOf(chosen, saved, (one) => otherwiseInWords(one, frame, goods ?? []));
  const choose = (next: Chosen[]) => {
    keepStanding(next);
    setSearch({ columns: addressOf(next) }, { replace: true });
  };
  if (overYear)
    return (
      <div className="mx-auto max-w-[1500px]">
        {look}
        <div className="px-7 pt-2 pb-8">
          <h1 className="text-answer font-semibold">Offers over the year</h1>
          <YearStrip {...{ frame, saved }} />
        </div>
      </div>
    );
  if (columns.length === 0)
    return (
      <div className="px-7 py-6">
        <p className="text-answer">Nothing stands here.</p>
        <p className="mt-2">
          <AddColumn {...{ saved, chosen, choose }} setFresh={() => undefined} />
        </p>
      </div>
    );
  return (
    <div className="mx-auto max-w-[1500px]">
      {look}
      <Told {...{ frame, saved, chosen, columns, choose }} />
    </div>
  );
}

interface ToldProps {
  frame: Frame;
  saved: SavedPlan[];
  chosen: Chosen[];
  columns: Column[];
  choose: (chosen: Chosen[]) => void;
}

function Told({ frame, saved, chosen, columns, choose }: ToldProps) {
  /** The column that was just put here with something otherwise, whose slip stands open. */
  const [fresh, setFresh] = useState<number | null>(null);
  const { data: found, error } = useBeside<SideBySide>("", columns, frame);
  const { data: sure } = useBeside<HowSure>("/range", columns, frame);
  if (error) return <Wrong error={error} {...{ columns, choose }} />;
  if (!found) return <p className="px-7 py-6 text-answer">Counting…</p>;
  // An answer of other columns than those that stand here now stays for a moment.
  const shown = found.columns.length === columns.length ? found : null;
  const ranges = sure && sure.columns.length === columns.length ? sure.columns : null;
  const first = columns[0]!.plan;
  return (
    <div className="px-7 pt-2 pb-8">
      <p className="flex flex-wrap items-baseline gap-x-2">
        <span className="font-head text-title font-semibold">{columns.length === 1 ? "1 plan" : `${columns.length} side by side`}</span>
        <span aria-hidden>·</span>
        <span>{days(found.first_day, found.last_day)}</span>
        <span aria-hidden>·</span>
        <span className="text-soft">
          {soMany(found.columns[0]!.today.orders, "order")} expected of {mixInWords(first.mix || USUAL)}: the days and carts of the first in the row
        </span>
      </p>
      <h1 className="mt-1 max-w-[60rem] text-answer font-semibold" data-testid="answer" aria-live="polite">
        <Answer parts={found.answer} frame={frame} whole={found.columns.every((one) => one.precision === "whole")} />
      </h1>
      {shown ? (
        <PlansRod {...{ columns }} forecasts={shown.columns} sure={ranges} of={frame} todo={(at) => <Todo {...{ at, chosen, columns, frame, choose, fresh, setFresh }} />} />
      ) : (
        <p role="status" className="mt-3 min-h-40 text-soft">
          Counting…
        </p>
      )}
      <p className="mt-2">
        <AddColumn {...{ saved, chosen, choose, setFresh }} />
      </p>
      {shown && <Details found={shown} {...{ columns, frame }} beats={ranges?.map((one) => one.beats) ?? null} />}
    </div>
  );
}

/** Says which column cannot be forecast and lets it be taken away. */
function Wrong({ error, columns, choose }: { error: Error; columns: Column[]; choose: (chosen: Chosen[]) => void }) {
  const fault = error instanceof ApiError ? error.fields[0] : undefined;
  const at = Number(/^\/columns\/(\d+)/.exec(fault?.pointer ?? "")?.[1] ?? -1);
  const column = columns[at];
  return (
    <div role="alert" className="px-7 py-6">
      <p className="text-answer">{column ? `“${column.name}” cannot stand here` : "This cannot be counted"}</p>
      <p className="mt-2">{fault ? `${fault.message} ${fault.mend}` : error.message}</p>
      {column && (
        <p className="mt-3">
          <button type="button" className="press" onClick={() => choose(columns.filter((_, n) => n !== at).map((one) => one.chosen))}>
            Take it away
          </button>
        </p>
      )}
    </div>
  );
}

function Answer({ parts, frame, whole }: { parts: Part[]; frame: Frame; whole: boolean }): ReactNode {
  return parts.map((part, at) => {
    if (part.kind === "words") return <span key={at}>{part.text}</span>;
    if (part.kind !== "money") return null;
    return (
      <span key={at} className={`border-b-[3px] whitespace-nowrap ${part.lost ? "border-loss" : "border-yellow"}`}>
        {money(part.amount, frame, { whole }) + part.after}
      </span>
    );
  });
}

interface TodoProps {
  at: number;
  chosen: Chosen[];
  columns: Column[];
  frame: Frame;
  choose: (chosen: Chosen[]) => void;
  fresh: number | null;
  setFresh: (at: number | null) => void;
}

/** What can be done with a column. */
function Todo({ at, chosen, columns, frame, choose, fresh, setFresh }: TodoProps) {
  const column = columns[at]!;
  const { plan, otherwise } = column.chosen;
  const put = (next: Otherwise) => choose(chosen.with(at, { plan, otherwise: next }));
  const beside = (next: Otherwise) => {
    choose(chosen.toSpliced(at + 1, 0, { plan, otherwise: next }));
    setFresh(at + 1);
  };
  const named = (words: string) => (
    <>
      {words}
      <span className="sr-only">: {column.name}</span>
    </>
  );
  return (
    <>
      {plan !== null && (
        <Link to={`/counting-board?plan=${plan}`} className="quiet">
          {named("board")}
        </Link>
      )}
      {otherwise ? (
        <OtherwiseWord words="change it" name={column.name} plan={column.plan} {...{ otherwise, frame }} open={fresh === at} onOpenChange={(open) => setFresh(open ? at : null)} onChange={put} />
      ) : (
        chosen.length < MOST_COLUMNS && <OtherwiseWord words="otherwise…" name={column.name} plan={column.plan} otherwise={null} frame={frame} onChange={beside} />
      )}
      {at > 0 && (
        <button type="button" className="quiet" onClick={() => choose(moved(chosen, at, at - 1))}>
          {named("up")}
        </button>
      )}
      {chosen.length > 1 && (
        <button type="button" className="quiet" onClick={() => choose(chosen.toSpliced(at, 1))}>
          {named("take away")}
        </button>
      )}
    </>
  );
}

function AddColumn({ saved, chosen, choose, setFresh }: Pick<ToldProps, "saved" | "chosen" | "choose"> & Pick<TodoProps, "setFresh">) {
  if (chosen.length >= MOST_COLUMNS) return <span className="text-small text-soft">Six stand here: take one away to put another in its place.</span>;
  const put = (plan: number | null, otherwise: Otherwise | null = null) => choose([...chosen, { plan, otherwise }]);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="press">Put another beside them</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="slip min-w-60" align="start" sideOffset={6}>
          {saved.map((one) => (
            <DropdownMenu.Item key={one.id} className="choice" onSelect={() => put(one.id)}>
              {one.plan.name}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1.5 border-t border-line" />
          <DropdownMenu.Item className="choice" onSelect={() => {
              put(null, { kind: "prices", change_bp: 200, on: EVERYTHING });
              setTimeout(() => setFresh(chosen.length), 0); // once the menu has given the focus back
            }}
          >
            Today, with one thing otherwise
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const TABS = [
  ["differs", "what differs"],
  ["ledger", "ledger"],
  ["bridge", "bridge"],
  ["carts", "by cart type"],
  ["zones", "by zone"],
  ["stock", "stock"],
  ["chances", "which beats which"],
  ["map", "which response decides"],
] as const;

function Details({ found, columns, frame, beats }: { found: SideBySide; columns: Column[]; frame: Frame; beats: number[][] | null }) {
  const { data: goods } = useNames();
  const way = found.columns[0]!.rods.type?.length ? "type" : "category";
  return (
    <Tabs.Root defaultValue="differs" className="mt-5">
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h2 className="text-title">Held against each other</h2>
        <TabWords label="Held against each other" words={TABS} />
      </div>
      <div className="mt-2">
        <Tabs.Content value="differs">
          <Differences {...{ columns, frame }} otherwise={(one) => otherwiseInWords(one, frame, goods ?? [])} plans={found.plans as SavedPlan["plan"][]} />
        </Tabs.Content>
        <Tabs.Content value="ledger">
          <InColumns caption="The ledger of each" columns={columns} rows={ledgerRows(found)} />
        </Tabs.Content>
        <Tabs.Content value="bridge">
          <InColumns caption="From today to each" columns={columns} rows={bridgeRows(found)} first={null} />
        </Tabs.Content>
        <Tabs.Content value="carts">
          <ByCarts caption="What each type of cart keeps more or less than today" rows={rodRows(found, way)} {...{ columns }} />
        </Tabs.Content>
        <Tabs.Content value="zones">
          <ByCarts caption="What each zone keeps more or less than today" rows={rodRows(found, "zone")} {...{ columns }} />
        </Tabs.Content>
        <Tabs.Content value="stock">
          <Stock {...{ columns, frame }} />
        </Tabs.Content>
        <Tabs.Content value="chances">{beats ? <Chances {...{ columns, beats }} /> : <p className="text-soft">Drawing…</p>}</Tabs.Content>
        <Tabs.Content value="map">
          <AheadMap {...{ columns, found, frame }} />
        </Tabs.Content>
      </div>
    </Tabs.Root>
  );
}

const ByCarts = ({ caption, columns, rows }: { caption: string; columns: Column[]; rows: ReturnType<typeof rodRows> }) => (
  <>
    <InColumns {...{ caption, columns, rows }} first="of orders" />
    <p className="mt-1 text-small text-soft">{caption}, extra orders included; what a plan costs besides its carts is of none of them.</p>
  </>
);

function Stock({ columns, frame }: { columns: Column[]; frame: Frame }) {
  const { data } = useBeside<StockBeside>("/days", columns, frame);
  const { data: goods } = useNames();
  if (!data || data.columns.length !== columns.length) return <p className="text-soft">Going through the days…</p>;
  const rows = stockRows(data, (sku) => nameOfSku(sku, goods ?? []));
  if (rows.length === 0) return <p className="text-soft">None of them needs half of anything that is in stock.</p>;
  return (
    <>
      <InColumns caption="Units needed of what is in stock" columns={columns} rows={rows} />
      <p className="mt-1 text-small text-soft">Goods of which one of them needs half of the stock or more, and until when it lasts where it runs out.</p>
    </>
  );
}
