/** A unit's price as one rod: cost, fees, tax, and what is kept; below cost the loss is notched. */
import type { Margin } from "../../api/types";
import { Bead } from "../../pieces/beads";
import { money, type Currency } from "../../pieces/figures";

const PARTS = [
  ["cost", "goods", "cost"],
  ["fees", "fees", "fees and returns"],
  ["tax", "tax", "tax"],
] as const;

/** `most`: the price that fills the whole width, so that rods beside each other can be held against each other. */
export function PriceRod({ margin, width, most, of }: { margin: Margin; width: number; most?: number; of: Currency }) {
  const { kept } = margin;
  const room = kept < 0 ? width - 18 : width - 4;
  const spent = PARTS.reduce((sum, [key]) => sum + Math.max(margin[key], 0), 0);
  const scale = room / Math.max(most ?? spent + Math.max(kept, 0), 1);
  let x = 2;
  const told = [...PARTS.map(([key, , words]) => `${words} ${money(margin[key], of)}`), `kept ${money(kept, of)}`].join(", ");
  const bead = (key: string, value: number, kind: string) => {
    const size = value * scale;
    const at = x;
    x += size;
    return <rect key={key} x={at} y={2.5} width={Math.max(size - 1, 0)} height={11} rx={Math.min(5, size / 2)} fill={`var(--color-${kind})`} stroke="var(--color-ink)" />;
  };
  return (
    <svg width={width} height={16} role="img" aria-label={told}>
      <line x1={0} x2={width} y1={8} y2={8} stroke="var(--color-line)" strokeWidth={2} />
      {PARTS.map(([key, kind]) => bead(key, Math.max(margin[key], 0), kind))}
      {kept >= 0 ? bead("kept", kept, "yellow") : <path d={`M${x - 1} 2.5h14l-5 5.5l5 5.5h-14z`} fill="var(--color-loss)" stroke="var(--color-ink)" />}
    </svg>
  );
}

export function RodKey() {
  return (
    <span className="inline-flex gap-2.5">
      {([["goods", "cost"], ["fees", "fees"], ["tax", "tax"], ["kept", "kept"]] as const).map(([kind, words]) => (
        <span key={kind} className="inline-flex items-center gap-1 font-normal">
          <svg width={12} height={12} viewBox="-6 -6 12 12" aria-hidden>
            <Bead kind={kind} x={0} y={0} r={4.8} />
          </svg>
          {words}
        </span>
      ))}
    </span>
  );
}
