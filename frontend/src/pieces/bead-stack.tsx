/** Flat beads stacked on an upright rod. */

export type Look = "kept" | "away" | "gain" | "loss";

/** Flat beads on an upright rod between two heights; the last one may be part of one. */
export function BeadStack({ x, across, high, low, bead, look }: { x: number; across: number; high: number; low: number; bead: number; look: Look }) {
  const tall = Math.max(low - high, 1.5);
  const fill = { kept: "var(--color-yellow)", gain: "var(--color-yellow)", away: "var(--color-sheet)", loss: "var(--color-loss)" }[look];
  const beads = [];
  for (let up = 0; up < tall - 0.2; up += bead) {
    const height = Math.min(bead, tall - up);
    beads.push(
      <rect
        key={up}
        x={x - across / 2}
        y={low - up - height + 0.5}
        width={across}
        height={Math.max(height - 0.8, 1)}
        rx={Math.min(5, height / 2)}
        fill={fill}
        stroke="var(--color-ink)"
        strokeWidth={1.1}
        strokeDasharray={look === "away" ? "3 2" : undefined}
      />,
    );
    if (look === "loss" && height > 5)
      beads.push(<path key={`n${up}`} d={`M${x - 5} ${low - up - height + 0.5}l5 4.5l5 -4.5z`} fill="var(--color-paper)" stroke="var(--color-ink)" strokeWidth={1} />);
  }
  return <>{beads}</>;
}
