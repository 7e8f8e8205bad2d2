/** A unit's price as one rod: cost, fees, tax, and what is kept; below cost the loss is notched. */
import type { Good, Margin } from "../../api/types";
import { Bead } from "../../pieces/beads";
import { money, type Currency } from "../../pieces/figures";

const COSTS = [
  ["purchase_cost", "purchase"],
  ["freight_cost", "inbound freight"],
  ["duty_cost", "duty"],
  ["packaging_cost", "packaging"],
  ["other_cost", "other cost"],
] as const;

/** The marks of the beads, so that colour is not all that tells them apart. */
const MARK: Record<string, string> = { fees: "M0 -0.1v0.2", tax: "M0 -2.6v5.2" };

interface Part {
  words: string;
  kind: "goods" | "fees" | "tax" | "yellow";
  amount: number;
}

/** What a price goes to, in the order of the rod. A kit's cost is one bead: its parts have their own rods. */
function parts(margin: Margin, good: Good): Part[] {
  const costs = good.kit.length > 0 ? [] : COSTS.flatMap(([key, words]): Part[] => (good[key] ? [{ words, kind: "goods", amount: good[key] }] : []));
  return [
    ...(costs.length > 0 ? costs : [{ words: "cost", kind: "goods", amount: margin.cost } as const]),
    { words: "fees and returns", kind: "fees", amount: margin.fees },
    { words: "tax", kind: "tax", amount: margin.tax },
  ];
}

interface Props {
  margin: Margin;
  good: Good;
  width: number;
  /** The price that fills the whole width, so that rods beside each other can be held against each other. */
  most?: number;
  of: Currency;
}

export function PriceRod({ margin, good, width, most, of }: Props) {
  const { kept } = margin;
  const spent = parts(margin, good);
  const room = kept < 0 ? width - 18 : width - 4;
  const whole = spent.reduce((sum, { amount }) => sum + Math.max(amount, 0), 0) + Math.max(kept, 0);
  const scale = room / Math.max(most ?? whole, 1);
  const beads: Part[] = kept < 0 ? spent : [...spent, { words: "kept", kind: "yellow", amount: kept }];
  let x = 2;
  return (
    <svg width={width} height={16} role="img" aria-label={[...spent, { words: "kept", amount: kept }].map(({ words, amount }) => `${words} ${money(amount, of)}`).join(", ")}>
      <line x1={0} x2={width} y1={8} y2={8} stroke="var(--color-line)" strokeWidth={2} />
      {beads.map(({ words, kind, amount }) => {
        const size = Math.max(amount, 0) * scale;
        const at = x;
        x += size;
        return (
          <g key={words}>
            <title>{`${words} ${money(amount, of)}`}</title>
            <rect x={at} y={2.5} width={Math.max(size - 1, 0)} height={11} rx={Math.min(5, size / 2)} fill={`var(--color-${kind})`} stroke="var(--color-ink)" />
            {size > 7 && MARK[kind] && <path d={MARK[kind]} transform={`translate(${at + (size - 1) / 2} 8)`} stroke="var(--color-sheet)" strokeWidth={kind === "fees" ? 3 : 1.5} strokeLinecap="round" />}
          </g>
        );
      })}
      {kept < 0 && <path d={`M${x - 1} 2.5h14l-5 5.5l5 5.5h-14z`} fill="var(--color-loss)" stroke="var(--color-ink)" />}
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
