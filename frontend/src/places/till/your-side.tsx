/** Your side of a cart: where its money goes today and under the plan, as beads and as the ledger. */
import type { Frame, Outcome, Way } from "../../api/types";
import { Beads, Legend, type Strung } from "../../pieces/beads";
import { cash, money, roundUp } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { useWidth } from "../../pieces/measured";

const [R, ROW] = [6, 46];
const PITCH = 2 * R + 0.6;
/** Room for what is kept, as a figure. */
const FIGURE = 58;

const of = ({ ledger }: Outcome, ...keys: string[]): number => -ledger.filter((row) => keys.includes(row.key)).reduce((all, row) => all + row.amount, 0);

export const givenAway = (outcome: Outcome): number =>
  [...outcome.lines.flatMap((line) => line.taken_off), ...outcome.delivery_taken_off].reduce((all, one) => all + one.amount, 0) + outcome.put_in.reduce((all, one) => all + one.saved, 0);

const paid = (outcome: Outcome): [Strung["kind"], number][] => [
  ["goods", of(outcome, "goods_cost", "put_in_cost")],
  ["delivery", of(outcome, "delivery_cost")],
  ["fees", of(outcome, "picking", "payment", "commission", "returns")],
  ["tax", outcome.tax],
  ["away", givenAway(outcome)],
];

export function YourSide({ way, frame }: { way: Way; frame: Frame }) {
  const rods = [
    { name: "Today", outcome: way.today },
    { name: "Plan", outcome: way.plan },
  ];
  return (
    <>
      <Legend kinds={[["goods", "goods"], ["delivery", "delivery"], ["fees", "fees and handling"], ["tax", "tax"], ["away", "given away"], ["kept", "you keep"], ["lost", "you lose"]]} />
      <CartRods rods={rods} frame={frame} />
      <SideLedger way={way} frame={frame} />
    </>
  );
}

function CartRods({ rods, frame }: { rods: { name: string; outcome: Outcome }[]; frame: Frame }) {
  const [box, width] = useWidth<HTMLDivElement>(400);
  const unit = 10 ** frame.minor_digits;
  const strung = rods.map(({ outcome }) => paid(outcome).reduce((all, [, amount]) => all + Math.max(amount, 0), 0));
  const most = Math.max(...strung, 1);
  const mostKept = Math.max(...rods.map(({ outcome }) => Math.max(outcome.kept, 0)), 0);
  const mostLost = Math.max(...rods.map(({ outcome }) => Math.max(-outcome.kept, 0)), 0);
  const left = 46;
  const beads = Math.max((width - left - FIGURE - 24) / PITCH, 8);
  const bead = roundUp((most + mostKept + mostLost) / (beads - 6) / unit) * unit;
  const long = (amount: number) => Math.ceil(amount / bead) * PITCH;
  const post = left + long(most) + PITCH + long(mostLost);
  return (
    <div ref={box} className="mt-1">
      <svg width={width} height={rods.length * ROW + 14} role="list" aria-label="Where the money of this cart goes">
        {rods.map(({ name, outcome }, at) => {
          const y = at * ROW + ROW / 2;
          const parts = paid(outcome).map(([kind, amount]) => ({ kind, size: Math.max(amount, 0) / bead }));
          const lost = -outcome.kept / bead;
          const words = `${name}: the shopper pays ${money(outcome.total, frame)}, ${paid(outcome).map(([kind, amount]) => `${kind === "away" ? "given away" : kind} ${money(amount, frame)}`).join(", ")}; you keep ${money(outcome.kept, frame)}`;
          return (
            <g key={name} role="listitem" tabIndex={0} aria-label={words}>
              <title>{words}</title>
              <rect x={0} y={at * ROW} width={width} height={ROW} fill="transparent" />
              <text x={0} y={y + 4} fontSize={12.5} fontWeight={650} fill="var(--color-ink)">
                {name}
              </text>
              <line x1={left} x2={width - FIGURE} y1={y} y2={y} stroke="var(--color-line)" strokeWidth={2} />
              <Beads parts={parts} x={left} y={y} r={R} />
              {lost > 0 ? <Beads parts={[{ kind: "lost", size: lost }]} x={post - 8 - long(-outcome.kept)} y={y} r={R} /> : <Beads parts={[{ kind: "kept", size: -lost }]} x={post + 6} y={y} r={R} />}
              <text x={width - 2} y={y + 4} textAnchor="end" fontSize={12.5} fontWeight={650} fill={outcome.kept < 0 ? "var(--color-loss-ink)" : "var(--color-ink)"}>
                {money(outcome.kept, frame)}
              </text>
            </g>
          );
        })}
        <line x1={post} x2={post} y1={2} y2={rods.length * ROW - 2} stroke="var(--color-ink)" strokeWidth={4} strokeLinecap="round" />
        <text x={left} y={rods.length * ROW + 11} fontSize={11} fill="var(--color-soft)">
          a bead is {cash(bead, frame)}
        </text>
      </svg>
    </div>
  );
}

function SideLedger({ way, frame }: { way: Way; frame: Frame }) {
  const rows = way.plan.ledger
    .map((row, at) => ({ ...row, today: way.today.ledger[at]!.amount }))
    .filter((row) => row.amount !== 0 || row.today !== 0);
  const cash = (amount: number) => money(amount, frame);
  const line = (key: string, label: string, today: number, plan: number, sum = false) => (
    <tr key={key} className={sum ? "sum" : ""}>
      <th scope="row" className={sum ? "text-ink!" : "font-normal! text-ink!"}>
        {label}
      </th>
      <td className="n">{cash(today)}</td>
      <td className="n">{cash(plan)}</td>
      <td className="n">{money(plan - today, frame, { signed: true })}</td>
    </tr>
  );
  return (
    <table className="figures mt-1 w-full text-small">
      <Headings>
        <Heading unseen>Row</Heading>
        {["Today", "Plan", "Change"].map((name) => <Heading key={name} n>{name}</Heading>)}
      </Headings>
      <tbody>
        {rows.map((row) => line(row.key, row.label, row.today, row.amount))}
        {line("profit", "You keep", way.today.kept, way.plan.kept, true)}
        {line("pays", "The shopper pays", way.today.total, way.plan.total)}
      </tbody>
    </table>
  );
}
