/** The seven places, in the order of work. A new one joins here. */
import { lazy, type ComponentType } from "react";

import type { Frame } from "../api/types";
import { CountingBoard } from "./counting-board/counting-board";

/** A place that is fetched when somebody goes there: the first load stays light. */
const later = (fetch: () => Promise<ComponentType>) => lazy(async () => ({ default: await fetch() }));

const GoodsPlace = later(async () => (await import("./goods/goods")).GoodsPlace);
const DeliveryPlace = later(async () => (await import("./delivery/delivery")).DeliveryPlace);
const CartsPlace = later(async () => (await import("./carts/carts")).CartsPlace);
const TillPlace = later(async () => (await import("./till/till")).TillPlace);
const SideBySidePlace = later(async () => (await import("./side-by-side/side-by-side")).SideBySidePlace);
const AfterwardsPlace = later(async () => (await import("./afterwards/afterwards")).AfterwardsPlace);

export interface PlaceEntry {
  path: string;
  name: string;
  Place: ComponentType;
  /** Whether the place holds something, which fills its bead. */
  filled: (frame: Frame) => boolean;
  /** What is still missing there, which its bead counts. */
  missing?: (frame: Frame) => { count: number; says: string };
}

export const PLACES: PlaceEntry[] = [
  { path: "/goods", name: "Goods", Place: GoodsPlace, filled: (f) => f.goods > 0, missing: (f) => f.missing_goods },
  {
    path: "/delivery",
    name: "Delivery",
    Place: DeliveryPlace,
    filled: (f) => f.zones.length > 0,
    missing: (f) => f.missing_delivery,
  },
  { path: "/carts", name: "Carts", Place: CartsPlace, filled: (f) => f.has_carts },
  { path: "/counting-board", name: "Counting board", Place: CountingBoard, filled: (f) => f.plans > 0 },
  { path: "/till", name: "Till", Place: TillPlace, filled: (f) => f.has_carts && f.plans > 0 },
  { path: "/side-by-side", name: "Side by side", Place: SideBySidePlace, filled: (f) => f.has_carts && f.plans > 1 },
  { path: "/afterwards", name: "Afterwards", Place: AfterwardsPlace, filled: (f) => f.past > 0 || f.kept > 0 },
];
