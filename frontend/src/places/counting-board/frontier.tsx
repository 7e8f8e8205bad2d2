/** Plans by what they give away and what they keep against today: a bead each, the plan as it stands dashed. */
import { scaleLinear } from "d3-scale";

import type { Judged } from "../../api/types";
import { Bead } from "../../pieces/beads";
import { money, type Currency } from "../../pieces/figures";
import { useWidth } from "../../pieces/measured";

const [HEIGHT, LEFT, RIGHT, TOP, BOTTOM] = [170, 78, 24, 16, 34];

interface Props {
  base: Judged;
  plans: Judged[];
  of: Currency;
  chosen: number;
  choose: (at: number) => void;
}

export function Frontier({ base, plans, of, chosen, choose }: Props) {
  const [box, width] = useWidth<HTMLDivElement>(680);
  const all = [base, ...plans];
  const given = all.map((one) => one.given);
  const impacts = all.map((one) => one.impact);
  const [least, most] = [Math.min(...impacts), Math.max(...impacts)];
  // Where all of them are far from what today keeps, they could not be told apart beside it.
  const far = Math.min(Math.abs(least), Math.abs(most)) > 2 * (most - least) && least < 0 === most < 0;
  const kept = far ? [least, most] : [least, most, 0];
  const wide = Math.max(...given) - Math.min(...given) || 1;
  const x = scaleLinear([Math.min(...given) - wide * 0.04, Math.max(...given) + wide * 0.04], [LEFT, width - RIGHT]);
  const y = scaleLinear([Math.min(...kept), Math.max(...kept)], [HEIGHT - BOTTOM - 8, TOP + 8]);
  const cash = (amount: number, signed = false) => money(amount, of, { whole: true, signed });
  const told = (one: Judged) => `gives away ${cash(one.given)} and keeps ${cash(Math.abs(one.impact))} ${one.impact < 0 ? "less" : "more"} than today`;
  return (
    <div ref={box}>
      <svg width={width} height={HEIGHT} role="group" aria-label="Plans by what they give away and what they keep">
        {(far ? [least, most] : [0]).map((level) => (
          <g key={level}>
            <line x1={LEFT - 10} x2={width - RIGHT} y1={y(level)} y2={y(level)} stroke={level ? "var(--color-line)" : "var(--color-ink)"} strokeWidth={2} />
            <text x={LEFT - 14} y={y(level) + 4} textAnchor="end" fontSize={11.5} fill="var(--color-ink)">
              {level ? cash(level, true) : "as today"}
            </text>
          </g>
        ))}
        <line x1={LEFT - 10} x2={width - RIGHT} y1={HEIGHT - BOTTOM + 6} y2={HEIGHT - BOTTOM + 6} stroke="var(--color-line)" strokeWidth={2} />
        {x.ticks(5).map((tick) => (
          <text key={tick} x={x(tick)} y={HEIGHT - BOTTOM + 20} textAnchor="middle" fontSize={11.5} fill="var(--color-soft)">
            {cash(tick)}
          </text>
        ))}
        <text x={width - RIGHT} y={HEIGHT - 2} textAnchor="end" fontSize={11.5} fill="var(--color-soft)">
          given away
        </text>
        <g>
          <title>The plan as it stands {told(base)}</title>
          <circle cx={x(base.given)} cy={y(base.impact)} r={9} fill="var(--color-sheet)" stroke="var(--color-ink)" strokeDasharray="3 2" strokeWidth={1.6} />
        </g>
        {plans.map((one, at) => (
          <g
            key={at}
            role="button"
            tabIndex={0}
            aria-pressed={at === chosen}
            aria-label={`A plan that ${told(one)}`}
            className="cursor-pointer"
            onClick={() => choose(at)}
            onKeyDown={(event) => {
              if (event.key !== "Enter" && event.key !== " ") return;
              event.preventDefault();
              choose(at);
            }}
          >
            <title>It {told(one)}</title>
            {at === chosen && <circle cx={x(one.given)} cy={y(one.impact)} r={13} fill="none" stroke="var(--color-ink)" strokeWidth={2} />}
            <Bead kind={one.impact < 0 ? "lost" : "kept"} x={x(one.given)} y={y(one.impact)} r={9} />
          </g>
        ))}
      </svg>
    </div>
  );
}
