/** How the Delivery place saves: one change after another, with what is wrong told where it was written. */
import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from "react";

import { ApiError } from "../../api/client";
import { Saves, useShown, type Change } from "../../api/saving";
import type { Delivery, DeliveryOption, FieldProblem, Frame, Named, Settings, Surcharge, Tariff, Zone } from "../../api/types";
import { changedAt } from "../../pieces/lists";
import { Slip } from "../../pieces/slip";
import { Faults, Word } from "../../pieces/words";
import { useNotice } from "../../pieces/notice";

const saves = new Saves<Delivery>("delivery");

export interface Shop {
  frame: Frame;
  goods: Named[];
  /** With all changes that are still to be sent. */
  delivery: Delivery;
  /** What was wrong with the last change; it was not kept. */
  problems: FieldProblem[];
  forget: () => void;
  /** Whether a slip is open, which then tells what is wrong itself. */
  inSlip: boolean;
  setInSlip: (open: boolean) => void;
  /** Whether it was kept. What is wrong is told where it was written, or to `tell`. */
  save: (change: Change<Delivery>, tell?: (message: string) => void) => Promise<boolean>;
}

const Context = createContext<Shop | null>(null);

export function useShop(): Shop {
  const shop = useContext(Context);
  if (!shop) throw new Error("useShop needs ShopProvider");
  return shop;
}

export function ShopProvider({ frame, goods, kept, children }: { frame: Frame; goods: Named[]; kept: Delivery; children: ReactNode }) {
  const delivery = useShown(saves, kept);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const [inSlip, setInSlip] = useState(false);
  const { fail } = useNotice();
  const shop = useMemo(
    (): Shop => ({
      frame,
      goods,
      delivery,
      problems,
      inSlip,
      setInSlip,
      forget: () => setProblems([]),
      save: async (change, tell) => {
        try {
          await saves.save(change);
          setProblems([]);
          return true;
        } catch (error) {
          if (tell && error instanceof ApiError) tell(error.message);
          else if (error instanceof ApiError && error.fields.length) setProblems(error.fields);
          else fail(error);
          return false;
        }
      },
    }),
    [frame, goods, delivery, problems, inSlip, fail],
  );
  return <Context.Provider value={shop}>{children}</Context.Provider>;
}

/** The zones as they are saved, without what is counted of them. */
export const plainZones = (delivery: Delivery): Zone[] => delivery.zones.map(({ name, places, options }) => ({ name, places, options, was: null }));

/** Saving a part of one thing, the rest of it and of its list as they are when its turn comes. */
export function useChanges() {
  const { save } = useShop();
  const zones = (make: (zones: Zone[]) => Zone[]) =>
    save({
      path: "/zones",
      body: (kept) => ({ zones: make(plainZones(kept)) }),
      shows: (before) => {
        const orders = (zone: Zone) => before.zones.find((one) => one.name === (zone.was ?? zone.name))?.orders ?? 0;
        return { ...before, zones: make(plainZones(before)).map((zone) => ({ ...zone, orders: orders(zone) })) };
      },
    });
  const zone = (at: number, make: (zone: Zone) => Partial<Zone>) => zones((all) => (all[at] ? changedAt(all, at, make(all[at])) : all));
  return {
    zones,
    zone: (at: number, part: Partial<Zone>) => zone(at, () => part),
    options: (at: number, make: (options: DeliveryOption[]) => DeliveryOption[]) => zone(at, ({ options }) => ({ options: make(options) })),
    option: (at: number, option: number, part: Partial<DeliveryOption>) =>
      zone(at, ({ options }) => ({ options: options[option] ? changedAt(options, option, part) : options })),
    tariff: (tariff: Tariff) =>
      save({
        path: "/tariffs",
        body: () => ({ tariffs: [tariff] }),
        shows: (before) => ({ ...before, tariffs: before.tariffs.map((one) => (one.tariff.name === tariff.name ? { ...one, tariff } : one)) }),
      }),
    surcharges: (surcharges: Surcharge[]) => save({ path: "/surcharges", body: () => ({ surcharges }), shows: (before) => ({ ...before, surcharges }) }),
    settings: (part: Partial<Settings>) =>
      save({
        path: "/settings",
        body: (kept) => ({ ...kept.settings, ...part }),
        shows: (before) => ({ ...before, settings: { ...before.settings, ...part } }),
      }),
  };
}

/** Which zone and option are shown, by their places. */
export interface Chosen {
  zone: number;
  option: number;
}

export type Choose = (chosen: Chosen) => void;

/** Adding an option to a zone, which is shown once it is kept. */
export function useAdding(zone: Zone, at: number, choose: Choose) {
  const change = useChanges();
  return (option: DeliveryOption) =>
    void change.options(at, (options) => [...options, option]).then((kept) => kept && choose({ zone: at, option: zone.options.length }));
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
