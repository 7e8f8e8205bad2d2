/** Messages that were sent, as beads by how many of them and how many answered; and what a next one may do, sent to so many. */
import { scaleLinear, scaleLog } from "d3-scale";
import { area, line } from "d3-shape";

import type { NextOfKind, NextSent } from "../../api/types";
import { count, rate } from "../../pieces/figures";
import { useWidth } from "../../pieces/measured";

const [TOP, BOTTOM, LEFT] = [8, 104, 44];
const LETTERS = 11;
const BEAD = 4.5;

export function AnswersBySent({ next: { before, by_sent: points } }: { next: NextOfKind }) {
  const [box, width] = useWidth<HTMLElement>(400);
  const share = (one: NextOfKind["before"][number]) => (one.used / one.of) * 10_000;
  const most = Math.max(...before.map(share), ...points.map((one) => one.high), 1);
  const x = scaleLog([points[0]!.sent, points.at(-1)!.sent], [LEFT + BEAD, width - BEAD]);
  const y = scaleLinear([0, most], [BOTTOM, TOP]).nice(3);
  const range = area<NextSent>().x((one) => x(one.sent)).y0((one) => y(one.low)).y1((one) => y(one.high))(points);
  const likely = line<NextSent>().x((one) => x(one.sent)).y((one) => y(one.likely))(points);
  const says = `Answers of ${count(before.length)} before, by how many were sent; of a next one the line, and nine times in ten the field`;
  return (
    <figure ref={box} className="max-w-[44rem]">
      <svg width={width} height={BOTTOM + 20} role="img" aria-label={says}>
        {y.ticks(3).map((tick) => (
          <g key={tick}>
            <line x1={LEFT} x2={width} y1={y(tick)} y2={y(tick)} stroke="var(--color-line)" />
            <text x={LEFT - 6} y={y(tick) + 4} fontSize={LETTERS} textAnchor="end" fill="var(--color-soft)">
              {rate(tick)}
            </text>
          </g>
        ))}
        <path d={range ?? ""} fill="var(--color-goods)" opacity={0.35} />
        <path d={likely ?? ""} fill="none" stroke="var(--color-ink)" strokeWidth={1.8} strokeDasharray="4 3" />
        {points.map((one) => (
          <rect key={one.sent} x={x(one.sent) - 8} width={16} y={TOP} height={BOTTOM - TOP} fill="transparent">
            <title>{one.says}</title>
          </rect>
        ))}
        {before.map((one, at) => (
          <circle key={at} cx={x(one.of)} cy={y(share(one))} r={BEAD} fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth={1.4}>
            <title>{`${count(one.used)} of ${count(one.of)} answered, ${rate(share(one))}`}</title>
          </circle>
        ))}
        {[points[0]!, points.at(-1)!].map((one, at) => (
          <text key={one.sent} x={x(one.sent)} y={BOTTOM + 16} fontSize={LETTERS} textAnchor={at ? "end" : "start"} fill="var(--color-soft)">
            {count(one.sent)} sent
          </text>
        ))}
      </svg>
      <figcaption className="text-small text-soft">{says}.</figcaption>
    </figure>
  );
}
