/** How the Delivery place saves: one change at a time, with what is wrong told where it was written. */
import { createContext, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from "react";

import { ApiError, ask } from "../../api/client";
import { queries, renewAll } from "../../api/queries";
import type { Delivery, DeliveryOption, FieldProblem, Frame, Good, Settings, Surcharge, Tariff, Zone } from "../../api/types";
import { changedAt } from "../../pieces/lists";
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
  /** Whether a slip is open, which then tells what is wrong itself. */
  inSlip: boolean;
  setInSlip: (open: boolean) => void;
  /**
   * Whether it was kept. Changes are sent one after another; `expected` is what they come to and is shown at once, so
   * that the next one is made of it.
   */
  send: (path: string, body: unknown, method?: Method, expected?: Partial<Delivery>) => Promise<boolean>;
}

const Context = createContext<Shop | null>(null);

export function useShop(): Shop {
  const shop = useContext(Context);
  if (!shop) throw new Error("useShop needs ShopProvider");
  return shop;
}

export function ShopProvider({ frame, goods, delivery, children }: { frame: Frame; goods: Good[]; delivery: Delivery; children: ReactNode }) {
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [inSlip, setInSlip] = useState(false);
  const { fail } = useNotice();
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const newest = useRef(0);
  const shop = useMemo(
    (): Shop => ({
      frame,
      goods,
      delivery,
      problems,
      inSlip,
      setInSlip,
      forget: () => setProblems([]),
      send: (path, body, method = "PUT", expected = {}) => {
        newest.current += 1;
        const mine = newest.current;
        queries.setQueryData<Delivery>(["delivery"], (before) => before && { ...before, ...expected });
        const sent = queue.current.then(async () => {
          try {
            const told = await ask<Delivery>(method, path, body);
            setProblems([]);
            if (mine === newest.current) {
              queries.setQueryData(["delivery"], told);
              await renewAll();
            }
            return true;
          } catch (error) {
            if (error instanceof ApiError && error.fields.length) setProblems(error.fields);
            else fail(error);
            await queries.invalidateQueries({ queryKey: ["delivery"], exact: true });
            return false;
          }
        });
        queue.current = sent;
        return sent;
      },
    }),
    [frame, goods, delivery, problems, inSlip, fail],
  );
  return <Context.Provider value={shop}>{children}</Context.Provider>;
}

/** The zones as they are saved, without what is counted of them. */
export const plainZones = (delivery: Delivery): Zone[] => delivery.zones.map(({ name, places, options }) => ({ name, places, options, was: null }));

/** Saving a part of one thing, the rest of it and of its list as they were. */
export function useChanges() {
  const { delivery, send } = useShop();
  const zones = plainZones(delivery);
  const put = (next: Zone[]) => {
    const orders = (zone: Zone) => delivery.zones.find((one) => one.name === (zone.was ?? zone.name))?.orders ?? 0;
    return send("/zones", { zones: next }, "PUT", { zones: next.map((zone) => ({ ...zone, orders: orders(zone) })) });
  };
  return {
    zones: put,
    zone: (at: number, part: Partial<Zone>) => put(changedAt(zones, at, part)),
    options: (at: number, options: DeliveryOption[]) => put(changedAt(zones, at, { options })),
    option: (at: number, option: number, part: Partial<DeliveryOption>) => put(changedAt(zones, at, { options: changedAt(zones[at]!.options, option, part) })),
    tariff: (tariff: Tariff) =>
      send("/tariffs", { tariffs: [tariff] }, "PUT", {
        tariffs: delivery.tariffs.map((one) => (one.tariff.name === tariff.name ? { ...one, tariff } : one)),
      }),
    surcharges: (surcharges: Surcharge[]) => send("/surcharges", { surcharges }, "PUT", { surcharges }),
    settings: (part: Partial<Settings>) => {
      const settings = { ...delivery.settings, ...part };
      return send("/settings", settings, "PUT", { settings });
    },
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
  children: ReactNode | ((close: () => void) => ReactNode);
}

/** A word of a sentence about delivery; what is wrong with a change is told in its slip. */
export function EditWord({ title, text, width = 340, tall = false, faint = false, children }: EditWordProps) {
  const { problems, forget, setInSlip } = useShop();
  const [open, setOpen] = useState(false);
  const show = (next: boolean) => {
    setOpen(next);
    setInSlip(next);
    forget();
  };
  // a word that was renamed is another one, and its slip is gone
  useEffect(() => (open ? () => setInSlip(false) : undefined), [open, setInSlip]);
  return (
    <Slip
      title={title}
      width={width}
      side={tall ? "right" : "bottom"}
      open={open}
      onOpenChange={show}
      trigger={<Word faint={faint}>{text}</Word>}
    >
      {typeof children === "function" ? children(() => show(false)) : children}
      {open && <Faults of={problems} />}
    </Slip>
  );
}

/** What is wrong, for editors that are no slips. */
export function Wrong() {
  const { problems, inSlip } = useShop();
  return inSlip ? null : <Faults of={problems} />;
}

/** Boxes for money, as `NumberBox` takes them. Costs may have parts of a minor unit. */
export function moneyBox(frame: Frame) {
  const unit = 10 ** frame.minor_digits;
  return { scale: unit, digits: frame.minor_digits, aligned: true, step: Math.max(1, unit / 10), least: 0, most: 100_000_000, unit: frame.currency, width: "5.2rem" };
}

export const KILOGRAMS = { scale: 1000, step: 500, least: 1, most: 1_000_000_000, unit: "kg", width: "5rem" };
export const PERCENT = { scale: 100, step: 100, least: 0, most: 10_000, unit: "%", width: "4.5rem" };
