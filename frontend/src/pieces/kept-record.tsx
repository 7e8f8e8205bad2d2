/** How good kept forecasts have been, in one sentence; nothing where none can be judged yet. */
import { useRecord } from "../api/queries";
import { share } from "./figures";

export function KeptRecord({ version, className = "" }: { version: number; className?: string }) {
  const { data } = useRecord(version);
  if (!data || data.forecasts === 0 || data.half_within === null) return null;
  const { forecasts, held, half_within } = data;
  const which = forecasts === 1 ? "Of 1 kept forecast that is over" : `Of ${forecasts} kept forecasts that are over`;
  return (
    <p className={className}>
      {which}, {held === forecasts ? (forecasts === 1 ? "the range held" : "all ranges held") : held === 0 ? "no range held" : `${held} ${held === 1 ? "range" : "ranges"} held`}; half were off by {share(half_within)} or less.
    </p>
  );
}
