/** A page that is made to be printed: the plan it is of, how to print it, and the plan's figures it needs. */
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";

import { ask } from "../../api/client";
import { useFrame, usePlans } from "../../api/queries";
import type { Forecast, Frame, Plan, SavedPlan } from "../../api/types";
import { useOpenPlan } from "../../pieces/plan-in-hand";

interface PaperProps {
  /** The page that tells the other half. */
  beside: { path: string; words: string };
  /** Further ways to take it along. */
  files?: ReactNode;
  children: ReactNode;
  plan: SavedPlan;
}

/** The sheet itself; what stands above it is not printed. */
export function Paper({ plan, beside, files, children }: PaperProps) {
  return (
    <div className="paper mx-auto max-w-[54rem] px-7 py-4">
      <p className="flex flex-wrap items-center gap-x-5 gap-y-2 print:hidden">
        <Link to={`/counting-board?plan=${plan.id}`} className="quiet">
          Back to the board
        </Link>
        <Link to={`${beside.path}?plan=${plan.id}`} className="quiet">
          {beside.words}
        </Link>
        <button type="button" className="press ms-auto" data-main="true" onClick={() => window.print()}>
          Print it
        </button>
        {files}
      </p>
      <div className="sheet mt-3 border-[1.5px] border-line bg-sheet px-9 py-7">{children}</div>
    </div>
  );
}

/** The plan the address names, beside the frame; nothing until both are there, and a way back where it is gone. */
export function OfPlan({ children }: { children: (saved: SavedPlan, frame: Frame) => ReactNode }) {
  const { data: frame } = useFrame();
  const { data: plans } = usePlans();
  const saved = useOpenPlan(plans?.plans);
  if (!frame || !plans) return null;
  if (!saved)
    return (
      <p className="px-7 py-14">
        There is no plan yet.{" "}
        <Link to="/counting-board" className="quiet">
          Write one on the Counting board
        </Link>
        .
      </p>
    );
  return <>{children(saved, frame)}</>;
}

export const useForecast = (plan: Plan, version: number) => useQuery({ queryKey: ["forecast", version, plan], queryFn: ({ signal }) => ask<Forecast>("POST", "/forecast", plan, signal) });

export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mt-5">
      <h2 className="border-b-[1.5px] border-ink pb-0.5 text-title break-after-avoid">{title}</h2>
      <div className="mt-2">{children}</div>
    </section>
  );
}
