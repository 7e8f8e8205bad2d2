/** The seven places, in the order of work. A new one joins here. */
import type { ComponentType } from "react";

import type { Frame } from "../api/types";
import { TillPlace } from "./till/till";
import { AfterwardsPlace } from "./afterwards/afterwards";
import { CartsPlace } from "./carts/carts";
import { CountingBoard } from "./counting-board/counting-board";
import { DeliveryPlace } from "./delivery/delivery";
import { GoodsPlace } from "./goods/goods";
import { SideBySidePlace } from "./side-by-side/side-by-side";

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
