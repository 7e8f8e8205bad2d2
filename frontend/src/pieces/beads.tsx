/** Beads: round amounts of money on a rod. Each kind has a pattern or shape besides its colour. */

export type BeadKind = "goods" | "delivery" | "fees" | "tax" | "away" | "kept" | "lost";

const FILL: Record<BeadKind, string> = {
  goods: "var(--color-goods)",
  delivery: "var(--color-delivery)",
  fees: "var(--color-fees)",
  tax: "var(--color-tax)",
  away: "var(--color-sheet)",
  kept: "var(--color-yellow)",
  lost: "var(--color-loss)",
};

const MARK: Record<BeadKind, string | null> = {
  goods: null,
  delivery: "M-0.5 0h1",
  fees: "M0 -0.02v0.04",
  tax: "M0 -0.5v1",
  away: null,
  kept: null,
  lost: null,
};

const LOST = "M-0.28 -0.96A1 1 0 1 0 0.28 -0.96L0 -0.25Z";

/** One bead in an SVG, `part` of it shown from the left (0 to 1). */
export function Bead({ kind, x, y, r, part = 1 }: { kind: BeadKind; x: number; y: number; r: number; part?: number }) {
  const line = { stroke: "var(--color-ink)", strokeWidth: 1.2, vectorEffect: "non-scaling-stroke" as const };
  const mark = MARK[kind];
  const shape = (
    <g transform={`scale(${r})`}>
      {kind === "lost" ? (
        <path d={LOST} fill={FILL[kind]} {...line} />
      ) : (
        <circle r={1} fill={FILL[kind]} {...line} strokeDasharray={kind === "away" ? "2.4 1.8" : undefined} />
      )}
      {mark && (
        <path
          d={mark}
          stroke="var(--color-sheet)"
          strokeWidth={kind === "fees" ? 3 : 1.5}
          strokeLinecap="round"
          vectorEffect="non-scaling-stroke"
        />
      )}
    </g>
  );
  if (part >= 0.999) return <g transform={`translate(${x} ${y})`}>{shape}</g>;
  const width = Math.max(2 * r * part, 1.2);
  return (
    <svg x={x - r - 1} y={y - r - 1} width={width + 1} height={2 * r + 2} overflow="hidden">
      <g transform={`translate(${r + 1} ${r + 1})`}>{shape}</g>
    </svg>
  );
}

export interface Strung {
  kind: BeadKind;
  /** In beads. */
  size: number;
}

/** Parts strung one after another from `x` on, rightwards. */
export function Beads({ parts, x, y, r }: { parts: Strung[]; x: number; y: number; r: number }) {
  const beads = [];
  let at = x;
  for (const { kind, size } of parts) {
    for (let left = size; left > 0.02; left -= 1) {
      const part = Math.min(left, 1);
      beads.push(<Bead key={beads.length} kind={kind} x={at + r} y={y} r={r} part={part} />);
      at += part >= 0.999 ? 2 * r + 0.6 : 2 * r * part + 1.6;
    }
  }
  return <>{beads}</>;
}

export function Legend({ kinds }: { kinds: [BeadKind, string][] }) {
  return (
    <ul className="flex flex-wrap gap-x-4 gap-y-1 text-small">
      {kinds.map(([kind, name]) => (
        <li key={kind} className="flex items-center gap-1.5">
          <svg width={14} height={14} viewBox="-7 -7 14 14" aria-hidden>
            <Bead kind={kind} x={0} y={0} r={5.6} />
          </svg>
          {name}
        </li>
      ))}
    </ul>
  );
}
