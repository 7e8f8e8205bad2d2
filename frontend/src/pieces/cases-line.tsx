/** How many of a plan's cases come out otherwise than they are to. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { ask } from "../api/client";
import type { CaseTold, Plan } from "../api/types";

export const useCases = (plan: Plan, version: number) =>
  useQuery({
    queryKey: ["till", "cases", version, plan],
    queryFn: ({ signal }) => ask<{ cases: CaseTold[] }>("POST", "/till/cases", plan, signal),
    enabled: plan.cases.length > 0,
  });

export function CasesLine({ plan, planId, version }: { plan: Plan; planId: number; version: number }) {
  const { data } = useCases(plan, version);
  const broken = data?.cases.filter((one) => !one.holds) ?? [];
  if (plan.cases.length === 0 || broken.length === 0) return null;
  return (
    <Link to={`/till?plan=${planId}&look=cases`} className="quiet text-small text-loss-ink" title={broken.map((one) => `${one.name}: ${one.says}`).join("\n")}>
      {broken.length === 1 ? `The case “${broken[0]!.name}” comes out otherwise` : `${broken.length} of ${plan.cases.length} cases come out otherwise`}
    </Link>
  );
}
