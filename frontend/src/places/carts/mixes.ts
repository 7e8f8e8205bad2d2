/** The mixes of carts to expect: which one is open, how it is changed and saved, and what it comes to. */
import { useEffect, useState } from "react";

import { ApiError } from "../../api/client";
import { useMixes, useMixSeen, usePlans } from "../../api/queries";
import { Saves, useShown } from "../../api/saving";
import type { FieldProblem, Mixes, MixSeen, MixTerms, SavedPlan } from "../../api/types";
import { daysAfter, today } from "../../pieces/iso-days";
import { USUAL } from "../../pieces/mix-names";
import { useNotice } from "../../pieces/notice";
import { planInHand } from "../../pieces/plan-in-hand";

export const NOTHING_CORRECTED: MixTerms = {
  counted: "all",
  last_days: 90,
  first_day: null,
  last_day: null,
  left_out: [],
  weekday_bp: [],
  month_bp: [],
  named: [],
  growth_bp: 0,
  growth_low_bp: null,
  growth_high_bp: null,
  segments: [],
  orders_a_day: null,
  sketched: [],
};

export interface Days {
  first_day: string;
  last_day: string;
}

export interface Mix {
  name: string;
  names: string[];
  /** How many plans use it. */
  plans: number;
  terms: MixTerms;
  /** Shown at once, saved in its turn. */
  change: (part: Partial<MixTerms>) => void;
  /** Shown, and saved with what is changed next: for a bead under way. */
  draft: (part: Partial<MixTerms>) => void;
  choose: (name: string) => void;
  keepAs: (name: string) => void;
  forget: () => void;
  history: Days;
  days: Days;
  setDays: (days: Days) => void;
  seen: MixSeen | undefined;
  /** Whether the merchant asked for a place to sketch. */
  isSketching: boolean;
  sketch: () => void;
  problems: FieldProblem[];
}

const saves = new Saves<Mixes>("mixes");

/** Two days after one of them was changed: the other gives way where they would cross. */
export function inOrder(before: Days, { first_day = before.first_day, last_day = before.last_day }: Partial<Days>): Days {
  if (first_day <= last_day) return { first_day, last_day };
  return first_day === before.first_day ? { first_day: last_day, last_day } : { first_day, last_day: first_day };
}

/** The days of the plan in hand, or of the first plan that is still to come, or else the fortnight after today. */
function usualDays(plans: SavedPlan[]): Days {
  const now = today();
  const byDay = plans.map(({ plan }) => plan).sort((a, b) => a.first_day.localeCompare(b.first_day));
  return [planInHand(plans)?.plan, ...byDay].find((plan) => plan && plan.last_day >= now) ?? { first_day: now, last_day: daysAfter(now, 13) };
}

/** history: the first and last day there are orders of, null where there are none; undefined while that is not known. */
export function useMix(history: Days | null | undefined): Mix | null {
  const { data } = useMixes();
  const kept = useShown(saves, data ?? { version: -1, mixes: [] });
  const { data: plans } = usePlans();
  const { fail } = useNotice();
  const [name, setName] = useState(USUAL);
  const [chosenDays, setDays] = useState<Days | null>(null);
  const [draft, setDraft] = useState<Partial<MixTerms>>({});
  const [isSketching, setSketching] = useState(false);
  const [problems, setProblems] = useState<FieldProblem[]>([]);
  const mix = kept.mixes.find((one) => one.name === name) ?? kept.mixes[0];
  const terms = { ...(mix?.terms ?? NOTHING_CORRECTED), ...draft };
  const days = chosenDays ?? usualDays(plans?.plans ?? []);
  const { data: seen, error } = useMixSeen(terms, days.first_day, days.last_day, history !== undefined && (history !== null || terms.sketched.length > 0) && Boolean(mix) && days.first_day <= days.last_day);
  useEffect(() => {
    setDraft({});
    setSketching(false);
  }, [name]);
  if (!mix) return null;

  const save = async (path: string, method: "PUT" | "DELETE", body: MixTerms | null, as: string) => {
    try {
      await saves.save({
        path,
        method,
        instead: `${method} ${as}`,
        body: () => (body ? { name: as, terms: body } : undefined),
        shows: (before) => ({ ...before, mixes: shown(before.mixes, as, body) }),
      });
      setProblems([]);
    } catch (wrong) {
      if (wrong instanceof ApiError && wrong.fields.length) setProblems(wrong.fields);
      else fail(wrong);
    }
  };
  return {
    name: mix.name,
    names: kept.mixes.map((one) => one.name),
    plans: mix.plans,
    terms,
    change: (part) => {
      const next = { ...terms, ...part };
      setDraft({});
      void save("/mixes", "PUT", next, mix.name);
    },
    draft: (part) => setDraft((before) => ({ ...before, ...part })),
    choose: setName,
    keepAs: (as) => void save("/mixes", "PUT", terms, as).then(() => setName(as)),
    forget: () => void save(`/mixes?name=${encodeURIComponent(mix.name)}`, "DELETE", null, mix.name),
    history: history ?? days,
    days,
    setDays,
    seen,
    isSketching: isSketching || terms.sketched.length > 0,
    sketch: () => setSketching(true),
    problems: [...problems, ...(error instanceof ApiError ? error.fields : [])],
  };
}

function shown(mixes: Mixes["mixes"], name: string, terms: MixTerms | null): Mixes["mixes"] {
  if (!terms) return name === USUAL ? mixes.map((one) => (one.name === name ? { ...one, terms: NOTHING_CORRECTED } : one)) : mixes.filter((one) => one.name !== name);
  if (!mixes.some((one) => one.name === name)) return [...mixes, { name, terms, plans: 0 }];
  return mixes.map((one) => (one.name === name ? { ...one, terms } : one));
}
