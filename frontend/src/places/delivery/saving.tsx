/** How the Delivery place saves: one change at a time, with what is wrong told where it was written. */
import { createContext, useContext, useMemo, useState, type ReactNode } from "react";

import { ApiError, ask } from "../../api/client";
import { queries, renewAll } from "../../api/queries";
import type { Delivery, DeliveryOption, FieldProblem, Frame, Good, Settings, Surcharge, Tariff, Zone } from "../../api/types";
import { Slip } from "../../pieces/slip";
import { Faults, Word } from "../../pieces/words";
import { useNotice } from "../../pieces/notice";

type Method = "PUT" | "POST" | "DELETE";

export interface Shop {
  frame: Frame;
  goods: Good[];
  delivery: Delivery;
  /** What was wrong with the last change; it was not kept. */
  problems: FieldProblem[];
  forget: () => void;
  /** Whether it was kept. */
  send: (path: string, body: unknown, method?: Method) => Promise<boolean>;
}

const Context = createContext<Shop | null>(null);

export function useShop(): Shop {
  const shop = useContext(Context);
  if (!shop) throw new Error("useShop needs ShopProvider");
  return shop;
}

export function ShopProvider({ frame, goods, delivery, children }: { frame: Frame; goods: Good[]; delivery: Delivery; children: ReactNode }) {
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const { fail } = useNotice();
  const shop = useMemo(
    (): Shop => ({
      frame,
      goods,
      delivery,
      problems,
      forget: () => setProblems([]),
      send: async (path, body, method = "PUT") => {
        try {
          queries.setQueryData(["delivery"], await ask<Delivery>(method, path, body));
          setProblems([]);
          await renewAll();
          return true;
        } catch (error) {
          if (error instanceof ApiError && error.fields.length) setProblems(error.fields);
          else fail(error);
          return false;
        }
      },
    }),
    [frame, goods, delivery, problems, fail],
  );
  return <Context.Provider value={shop}>{children}</Context.Provider>;
}

/** The zones as they are saved, without what is counted of them. */
export const plainZones = (delivery: Delivery): Zone[] => delivery.zones.map(({ name, places, options }) => ({ name, places, options, was: null }));

const changedAt = <Item,>(list: readonly Item[], at: number, part: Partial<Item>): Item[] => list.map((one, n) => (n === at ? { ...one, ...part } : one));

/** Saving a part of one thing, the rest of it and of its list as they were. */
export function useChanges() {
  const { delivery, send } = useShop();
  const zones = plainZones(delivery);
  const put = (next: Zone[]) => send("/zones", { zones: next });
  return {
    zones: put,
    zone: (at: number, part: Partial<Zone>) => put(changedAt(zones, at, part)),
    options: (at: number, options: DeliveryOption[]) => put(changedAt(zones, at, { options })),
    option: (at: number, option: number, part: Partial<DeliveryOption>) => put(changedAt(zones, at, { options: changedAt(zones[at]!.options, option, part) })),
    tariff: (tariff: Tariff) => send("/tariffs", { tariffs: [tariff] }),
    surcharges: (surcharges: Surcharge[]) => send("/surcharges", { surcharges }),
    settings: (part: Partial<Settings>) => send("/settings", { ...delivery.settings, ...part }),
  };
}

interface EditWordProps {
  title: string;
  text: string;
  width?: number;
  /** A tall slip stands beside the sentence. */
  tall?: boolean;
  /** It says nothing in particular yet, and stands back. */
  faint?: boolean;
  children: ReactNode;
}

/** A word of a sentence about delivery; what is wrong with a change is told in its slip. */
export function EditWord({ title, text, width = 340, tall = false, faint = false, children }: EditWordProps) {
  const { problems, forget } = useShop();
  const [open, setOpen] = useState(false);
  return (
    <Slip
      title={title}
      width={width}
      side={tall ? "right" : "bottom"}
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        forget();
      }}
      trigger={<Word faint={faint}>{text}</Word>}
    >
      {children}
      {open && <Faults of={problems} />}
    </Slip>
  );
}

/** What is wrong, for editors that are no slips. */
export function Wrong() {
  const { problems } = useShop();
  return <Faults of={problems} />;
}

/** Boxes for money, as `NumberBox` takes them. Costs may have parts of a minor unit. */
export function moneyBox(frame: Frame) {
  const unit = 10 ** frame.minor_digits;
  return { scale: unit, digits: frame.minor_digits, aligned: true, step: Math.max(1, unit / 10), least: 0, most: 100_000_000, unit: frame.currency, width: "5.2rem" };
}

export const KILOGRAMS = { scale: 1000, step: 500, least: 1, most: 1_000_000_000, unit: "kg", width: "5rem" };
export const PERCENT = { scale: 100, step: 100, least: 0, most: 10_000, unit: "%", width: "4.5rem" };
