/** Keeping what the forecast says now, so that Afterwards can hold it against what comes. */
import { useState } from "react";

import { keepForecast } from "../../api/queries";
import type { Plan } from "../../api/types";
import { useNotice } from "../../pieces/notice";

export function KeepForecast({ plan, sound }: { plan: Plan; sound: boolean }) {
  const { say, fail } = useNotice();
  const [busy, setBusy] = useState(false);
  const keep = async () => {
    setBusy(true);
    try {
      await keepForecast(plan);
      say(`The forecast of “${plan.name}” is kept. Afterwards holds it against what comes.`);
    } catch (error) {
      fail(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <button type="button" className="quiet text-small" disabled={busy || !sound} onClick={() => void keep()}>
      {busy ? "Keeping…" : "Keep this forecast"}
    </button>
  );
}
