/** Where an order's money goes, by cart type: what the shopper pays as beads, then a post, then what is kept. */
import { useState } from "react";

import type { Forecast, Rod } from "../api/types";
import { Beads, Legend, type Strung } from "./beads";
import { money, roundUp, share, type Currency } from "./figures";
import { Heading, Headings } from "./headings";
import { cutTo, useWidth, widthOf } from "./measured";

const [ROW, R] = [30, 5.4];
const NAME = 152;
/** Where the post stands, as a share of the width. */
const POST_AT = 0.71;
const LOST_ROOM = 62;
const PITCH = 2 * R + 0.6;

const WAYS = { type: "by cart type", category: "by main category", zone: "by zone" } as const;
type Way = keyof typeof WAYS;

/** rods: of each way to sort carts. */
export function RodChart({ rods: every, of }: { rods: Forecast["rods"]; of: Currency }) {
  const [chosen, setWay] = useState<Way>("type");
  const [table, setTable] = useState(false);
  const ways = (Object.keys(WAYS) as Way[]).filter((one) => one !== "type" || every.type?.length);
  const way = ways.includes(chosen) ? chosen : "category";
  const rods = every[way] ?? [];
  return (
    <section aria-labelledby="rods-title">
      <div className="flex items-baseline justify-between">
        <h2 id="rods-title" className="text-title">
          Where an order’s money goes
        </h2>
        <div className="flex gap-4 text-small">
          {ways.map((key) => (
            <Turn key={key} on={way === key} set={() => setWay(key)}>
              {WAYS[key]}
            </Turn>
          ))}
          <span aria-hidden className="text-line">
            |
          </span>
          <Turn on={table} set={() => setTable(!table)}>
            as a table
          </Turn>
        </div>
      </div>
      {table ? <RodTable rods={rods} of={of} /> : <Rods rods={rods} of={of} />}
    </section>
  );
}

export const Turn = ({ on, set, children }: { on: boolean; set: () => void; children: string }) => (
  <button
    type="button"
    aria-pressed={on}
    onClick={set}
    className={on ? "border-b-2 border-ink font-semibold" : "border-b-2 border-transparent text-soft hover:text-ink"}
  >
    {children}
  </button>
);

function Rods({ rods, of }: { rods: Rod[]; of: Currency }) {
  const [box, width] = useWidth<HTMLDivElement>(790);
  const [post, figure] = [Math.round(width * POST_AT), width - 4];
  const unit = 10 ** of.minor_digits;
  const most = Math.max(...rods.map((rod) => rod.goods + rod.delivery + rod.fees + rod.tax + rod.given_away), 1);
  const mostKept = Math.max(...rods.map((rod) => Math.max(rod.kept, rod.today, -rod.kept * 2.6)), 1);
  const bead = roundUp((most * PITCH) / Math.max(post - NAME - LOST_ROOM - 26, 4 * PITCH) / unit) * unit;
  const keptBead = roundUp((mostKept * PITCH) / Math.max(figure - 62 - post - 16, 3 * PITCH) / unit) * unit;
  const height = rods.length * ROW + 8;
  const beadTold = `what the shopper pays goes to… a bead is ${money(bead, of, { whole: bead % unit === 0 })}`;
  const below = NAME + widthOf(beadTold, 11) > post ? 15 : 0;
  const kept = (value: number) => post + 8 + (value / keptBead) * PITCH;
  return (
    <>
      <div className="mt-1.5 mb-1">
        <Legend
          kinds={[
            ["goods", "goods"],
            ["delivery", "delivery"],
            ["fees", "fees and handling"],
            ["tax", "tax"],
            ["away", "given away"],
            ["kept", "you keep"],
            ["lost", "you lose"],
          ]}
        />
      </div>
      <div ref={box}>
      <svg width={width} height={height + 16 + below} role="list" aria-label="Cart types">
        {rods.map((rod, at) => {
          const y = at * ROW + ROW / 2 + 2;
          const paid: Strung[] = [
            { kind: "goods", size: rod.goods / bead },
            { kind: "delivery", size: rod.delivery / bead },
            { kind: "fees", size: rod.fees / bead },
            { kind: "tax", size: rod.tax / bead },
            { kind: "away", size: rod.given_away / bead },
          ];
          const lost = Math.max(0, -rod.kept / keptBead);
          return (
            <g key={rod.label} role="listitem" tabIndex={0} aria-label={rodInWords(rod, of)}>
              <title>{rodInWords(rod, of)}</title>
              <rect x={0} y={at * ROW + 2} width={width} height={ROW} fill="transparent" />
              <text x={0} y={y - 1} fontSize={12.5} fontWeight={650} fill="var(--color-ink)">
                {cutTo(rod.label, NAME - 8, 12.5)}
              </text>
              <text x={0} y={y + 11.5} fontSize={11} fill="var(--color-soft)">
                {share(rod.share)} of orders
              </text>
              <line x1={NAME} x2={figure - 60} y1={y} y2={y} stroke="var(--color-line)" strokeWidth={2} />
              <Beads parts={paid} x={NAME} y={y} r={R} />
              {lost > 0 ? (
                <Beads parts={[{ kind: "lost", size: lost }]} x={post - 8 - lost * PITCH - 2} y={y} r={R} />
              ) : (
                <Beads parts={[{ kind: "kept", size: rod.kept / keptBead }]} x={post + 8} y={y} r={R} />
              )}
              <line x1={kept(rod.today)} x2={kept(rod.today)} y1={y - 10} y2={y + 10} stroke="var(--color-ink)" strokeWidth={2} strokeDasharray="2.5 2" />
              <text x={figure} y={y + 4} textAnchor="end" fontSize={12.5} fontWeight={650} fill={rod.kept < 0 ? "var(--color-loss-ink)" : "var(--color-ink)"}>
                {money(rod.kept, of)}
              </text>
            </g>
          );
        })}
        <line x1={post} x2={post} y1={0} y2={height} stroke="var(--color-ink)" strokeWidth={4} strokeLinecap="round" />
        <text x={NAME} y={height + 11} fontSize={11} fill="var(--color-soft)">
          {beadTold}
        </text>
        <text x={figure} y={height + 11 + below} textAnchor="end" fontSize={11} fill="var(--color-soft)">
          a bead is {money(keptBead, of, { whole: keptBead % unit === 0 })} · dashes: today
        </text>
      </svg>
      </div>
    </>
  );
}

function rodInWords(rod: Rod, of: Currency): string {
  const tell = (amount: number) => money(amount, of);
  return (
    `${rod.label}, an average order: the shopper pays ${tell(rod.pays)}; goods ${tell(rod.goods)}, delivery ${tell(rod.delivery)}, ` +
    `fees and handling ${tell(rod.fees)}, tax ${tell(rod.tax)}; given away ${tell(rod.given_away)}; ` +
    `you keep ${tell(rod.kept)}, today ${tell(rod.today)}`
  );
}

function RodTable({ rods, of }: { rods: Rod[]; of: Currency }) {
  const columns: [string, keyof Rod][] = [
    ["Pays", "pays"],
    ["Goods", "goods"],
    ["Delivery", "delivery"],
    ["Fees", "fees"],
    ["Tax", "tax"],
    ["You keep", "kept"],
    ["Today", "today"],
    ["Given away", "given_away"],
  ];
  return (
    <table className="figures mt-2 w-full text-small">
      <Headings>
        <Heading>An average order of</Heading>
        <Heading n>Orders</Heading>
        {columns.map(([label]) => <Heading key={label} n>{label}</Heading>)}
      </Headings>
      <tbody>
        {rods.map((rod) => (
          <tr key={rod.label}>
            <th scope="row" className="text-ink!">
              {rod.label}
            </th>
            <td className="n">{share(rod.share)}</td>
            {columns.map(([label, key]) => (
              <td key={label} className="n">
                {money(rod[key] as number, of)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
