/** A row's name that opens it beside the table; the one that is open has the yellow bead. */
import type { ReactNode } from "react";

export function Pick({ isChosen, pick, children }: { isChosen: boolean; pick: () => void; children: ReactNode }) {
  return (
    <button type="button" aria-pressed={isChosen} className={`flex items-center gap-2 text-start hover:underline ${isChosen ? "font-semibold" : ""}`} onClick={pick}>
      <svg width={13} height={13} viewBox="-7 -7 14 14" className="shrink-0" aria-hidden>
        <circle r={5.5} fill={isChosen ? "var(--color-yellow)" : "var(--color-sheet)"} stroke="var(--color-ink)" strokeWidth={1.3} />
      </svg>
      {children}
    </button>
  );
}
