/** How sure the answer is, and what each offer adds. */
import type { EachOffer, Plan, Range } from "../../api/types";
import { useFollowing } from "./use-following";

const WAIT_MS = 250;

export const useRange = (plan: Plan, sound: boolean, dataVersion: number) => useFollowing<Range>("/forecast/range", WAIT_MS, plan, sound, dataVersion);

export const useEachOffer = (plan: Plan, sound: boolean, dataVersion: number) => useFollowing<EachOffer>("/forecast/each", 2 * WAIT_MS, plan, sound, dataVersion);
