/** One plan on the board: what is typed, what it comes to, what is wrong with it, and saving it. */
import { useCallback, useEffect, useRef, useState } from "react";

import { ApiError, ask } from "../../api/client";
import { keepPlan, queries } from "../../api/queries";
import type { FieldProblem, Forecast, Plan, SavedPlan } from "../../api/types";
import { useKeys } from "../../pieces/keys";
import { useAsksBeforeLeaving } from "../../pieces/leaving";
import { useNotice } from "../../pieces/notice";

const SAVE_AFTER_MS = 450;
const NO_PROBLEMS: FieldProblem[] = [];

/** A forecast, and the plan it is of. */
export interface Told {
  forecast: Forecast;
  of: Plan;
}

export interface Board {
  plan: Plan;
  change: (make: (plan: Plan) => Plan) => void;
  /** Of the plan as it is typed, or of one before until that comes. */
  told: Told | null;
  problems: FieldProblem[];
  /** Why there is no forecast at all, such as no orders to count. */
  stuck: string;
  /** Something typed is not in the shop file yet. */
  saving: boolean;
}

export function useBoard(saved: SavedPlan, dataVersion: number): Board {
  const [plan, setPlan] = useState(saved.plan);
  const [told, setTold] = useState<Told | null>(null);
  const [problems, setProblems] = useState(NO_PROBLEMS);
  const [stuck, setStuck] = useState("");
  const [saving, setSaving] = useState(false);
  const { fail } = useNotice();
  const { beforeUndo } = useKeys();
  const revision = useRef(saved.revision);
  const unsaved = useRef<Plan | null>(null);
  const underWay = useRef<Promise<void>>(Promise.resolve());
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);

  // Somebody changed the plan elsewhere, or a change was taken back: the server's plan counts.
  useEffect(() => {
    if (saved.revision !== revision.current && !unsaved.current) {
      revision.current = saved.revision;
      setPlan(saved.plan);
    }
  }, [saved]);

  const save = useCallback(async () => {
    clearTimeout(timer.current);
    underWay.current = underWay.current.then(async () => {
      const toSave = unsaved.current;
      if (!toSave) return;
      unsaved.current = null;
      try {
        const body = { revision: revision.current, plan: toSave };
        const answer = await ask<SavedPlan>("PUT", `/plans/${saved.id}`, body);
        revision.current = answer.revision;
        keepPlan(answer);
      } catch (error) {
        fail(error);
        if (error instanceof ApiError && error.status !== 422) void queries.invalidateQueries({ queryKey: ["plans"] });
      } finally {
        setSaving(unsaved.current !== null);
      }
    });
    await underWay.current;
  }, [saved.id, fail]);

  // What makes no sense yet was never saved: the last saved plan comes back. Anything else is saved first.
  const unsound = useRef(false);
  unsound.current = problems.length > 0;
  const lastSaved = useRef(saved.plan);
  lastSaved.current = saved.plan;
  useEffect(() => {
    beforeUndo.current = async () => {
      if (unsound.current) {
        setPlan(lastSaved.current);
        return true;
      }
      await save();
      return false;
    };
    return () => {
      beforeUndo.current = null;
      void save();
    };
  }, [beforeUndo, save]);

  useAsksBeforeLeaving(
    useCallback(() => {
      void save();
      return saving;
    }, [save, saving]),
  );

  useEffect(() => {
    const asked = new AbortController();
    ask<Forecast>("POST", "/forecast", plan, asked.signal)
      .then((answer) => {
        setTold({ forecast: answer, of: plan });
        setProblems(NO_PROBLEMS);
        setStuck("");
        if (unsaved.current) {
          clearTimeout(timer.current);
          timer.current = setTimeout(() => void save(), SAVE_AFTER_MS);
        }
      })
      .catch((error: unknown) => {
        if (asked.signal.aborted) return;
        setSaving(false);
        if (error instanceof ApiError && error.status === 422) {
          clearTimeout(timer.current);
          unsaved.current = null;
          setProblems(error.fields);
        } else if (error instanceof ApiError && error.status === 409) {
          setStuck(error.message);
        } else fail(error);
      });
    return () => asked.abort();
  }, [plan, dataVersion, save, fail]);

  const change = useCallback((make: (plan: Plan) => Plan) => {
    setSaving(true);
    setPlan((before) => {
      const after = make(before);
      unsaved.current = after;
      return after;
    });
  }, []);

  return { plan, change, told, problems, stuck, saving };
}
