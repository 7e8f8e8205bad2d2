/** Orders by what an offer counts, around its thresholds, beside those expected without it as a dashed line. */
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";

import type { Frame, Learned, Terms } from "../../api/types";
import { count, soMany, money } from "../../pieces/figures";
import { useWidth } from "../../pieces/measured";
import { toppedUp } from "../../offers/responses";

const [TOP, BOTTOM] = [8, 96];
const LETTERS = 11;
/** Bins put together, so that single prices do not hide the course. */
const TOGETHER = 3;

interface Bin {
  start: number;
  had: number;
  would_be: number;
}

function together(bins: Bin[], threshold: number): Bin[] {
  const width = bins.length > 1 ? bins[1]!.start - bins[0]!.start : 1;
  const size = bins.length > 60 ? TOGETHER : 1;
  const at = Math.round((threshold - (bins[0]?.start ?? 0)) / width);
  const skipped = bins.slice(((at % size) + size) % size);
  return Array.from({ length: Math.floor(skipped.length / size) }, (_, number) => {
    const some = skipped.slice(number * size, (number + 1) * size);
    return { start: some[0]!.start, had: some.reduce((so, one) => so + one.had, 0), would_be: some.reduce((so, one) => so + one.would_be, 0) };
  });
}

export function AroundThreshold({ learned: { around, thresholds: asked }, terms, frame }: { learned: Learned; terms: Terms | null; frame: Frame }) {
  const [box, width] = useWidth<HTMLElement>(400);
  const thresholds = asked.length > 0 ? asked : [around[0]!.start];
  const threshold = thresholds[0]!;
  const tell = (value: number) => (terms && toppedUp(terms) !== "spend" ? count(value) : money(value, frame, { whole: true }));
  const bins = together(around, threshold);
  const last = bins.at(-1)!;
  const step = bins.length > 1 ? bins[1]!.start - bins[0]!.start : 1;
  const x = scaleLinear([bins[0]!.start, last.start + step], [0, width]);
  const y = scaleLinear([0, Math.max(...bins.map((one) => Math.max(one.had, one.would_be)), 1)], [BOTTOM, TOP]);
  const would = line<Bin>().x((one) => x(one.start + step / 2)).y((one) => y(one.would_be))(bins);
  const below = bins.filter((one) => one.start < threshold);
  const missing = below.reduce((so, one) => so + one.would_be - one.had, 0);
  const says = `Orders by what they came to: ${count(Math.max(missing, 0))} fewer than expected below ${tell(threshold)}`;
  return (
    <figure ref={box}>
      <svg width={width} height={BOTTOM + 20} role="img" aria-label={says}>
        {bins.map((one) => (
          <g key={one.start}>
            <title>{`from ${tell(one.start)}: ${soMany(one.had, "order")}, ${count(one.would_be, 1)} expected`}</title>
            <rect x={x(one.start) + 0.5} width={Math.max(x(one.start + step) - x(one.start) - 1, 1)} y={y(one.had)} height={BOTTOM - y(one.had)} fill="var(--color-goods)" />
          </g>
        ))}
        <path d={would ?? ""} fill="none" stroke="var(--color-ink)" strokeWidth={1.8} strokeDasharray="4 3" />
        {thresholds.map((one) => (
          <g key={one}>
            <line x1={x(one)} x2={x(one)} y1={TOP - 6} y2={BOTTOM + 4} stroke="var(--color-ink)" strokeWidth={2} />
            <text x={x(one)} y={BOTTOM + 16} fontSize={LETTERS} textAnchor="middle" fontWeight={600} fill="var(--color-ink)">
              {tell(one)}
            </text>
          </g>
        ))}
        <text x={0} y={BOTTOM + 16} fontSize={LETTERS} fill="var(--color-soft)">
          {tell(bins[0]!.start)}
        </text>
        <text x={width} y={BOTTOM + 16} fontSize={LETTERS} textAnchor="end" fill="var(--color-soft)">
          {tell(last.start + step)}
        </text>
      </svg>
      <figcaption className="text-small text-soft">{says} (dashes).</figcaption>
    </figure>
  );
}
