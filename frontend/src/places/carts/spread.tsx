/** The carts to expect by what is in them, each bar with what is kept of what they pay; thresholds as marks that are
 * dragged there and then. */
import { scaleLinear } from "d3-scale";
import { useId, useState } from "react";

import { ask } from "../../api/client";
import { keepPlan, queries, renewAll, usePlans, useSpread } from "../../api/queries";
import { turns } from "../../api/saving";
import type { Carts, Frame, Plans, SavedPlan, SpreadBy } from "../../api/types";
import { cash, count, soMany, isNothing, kilograms, money, roundUp, share } from "../../pieces/figures";
import { useWidth } from "../../pieces/measured";
import { useNotice } from "../../pieces/notice";
import type { Mix } from "./mixes";
import { ThresholdCurve } from "./threshold-curve";
import { ROW, spanOf, ThresholdMark } from "./threshold-mark";
import { audience, audiencesOf, freeToday, nearMisses, rowsOf, thresholdsOf, withThreshold, type NearMisses, type Threshold } from "./thresholds";

/** Pixels between two labels of an axis. */
const LABEL_ROOM = 76;
const [LEFT, RIGHT, CURVE, BARS, AXIS] = [8, 80, 62, 190, 26];
const BEADS = 22;

const WAYS: [SpreadBy, string][] = [
  ["value", "by value"],
  ["units", "by units"],
  ["weight", "by weight"],
];

export function Spread({ mix, carts, frame }: { mix: Mix; carts: Carts; frame: Frame }) {
  const [by, setBy] = useState<SpreadBy>("value");
  const { first_day, last_day } = mix.days;
  const plans = usePlans().data?.plans ?? [];
  const thresholds = by === "value" ? thresholdsOf(carts, plans, mix.days) : [];
  const { data } = useSpread(mix.terms, first_day, last_day, by, audiencesOf(thresholds));
  if (!data) return <div className="mt-4 h-[19rem]" />;
  if (data.orders.length === 0) return null;
  return (
    <section aria-labelledby="spread-title" className="mt-4">
      <div className="flex items-baseline justify-between gap-6">
        <h2 id="spread-title" className="text-title">
          How much is in a cart
        </h2>
        <div role="group" aria-label="Carts sorted" className="flex gap-4 text-small">
          {WAYS.map(([way, words]) => (
            <button key={way} type="button" aria-pressed={way === by} className={way === by ? "border-b-2 border-ink font-semibold" : "text-soft hover:text-ink"} onClick={() => setBy(way)}>
              {words}
            </button>
          ))}
        </div>
      </div>
      <Picture {...{ data, by, frame, mix, thresholds }} />
    </section>
  );
}

interface PictureProps {
  data: NonNullable<ReturnType<typeof useSpread>["data"]>;
  by: SpreadBy;
  frame: Frame;
  mix: Mix;
  thresholds: Threshold[];
}

function Picture({ data, by, frame, mix, thresholds }: PictureProps) {
  const [box, width] = useWidth<HTMLDivElement>(1220);
  const { fail } = useNotice();
  const [chosen, setChosen] = useState("");
  /** A threshold that is dragged, or not answered yet. */
  const [moved, setMoved] = useState<{ key: string; value: number } | null>(null);
  const clip = useId();
  const unit = 10 ** frame.minor_digits;
  const shown = data.orders.slice(0, -1);
  const beyond = data.orders.at(-1)!;
  const last = shown.length * data.width;
  const open = thresholds.find((one) => one.key === chosen) ?? thresholds.find((one) => one.of) ?? thresholds[0];
  const valueOf = (one: Threshold) => (moved?.key === one.key ? moved.value : one.value);

  const bead = Math.max(roundUp(Math.max(...shown) / BEADS), 0.1);
  const most = Math.max(...shown, bead);
  const x = scaleLinear([0, last], [LEFT, width - RIGHT]);
  const marks = thresholds.filter((one) => valueOf(one) < last);
  // By where they are kept: no row moves while one is dragged.
  const rows = rowsOf(marks.map((one) => spanOf(one, one.value, { x, most: last, frame })));
  const curve = thresholds.length > 0 ? CURVE : 0;
  const top = thresholds.length > 0 ? curve + 4 + ROW * Math.max(2, ...rows.map((row) => row + 1)) : 8;
  const base = top + BARS;
  const y = scaleLinear([0, most], [base, top]);
  const each = x(data.width) - x(0);
  const tell = (at: number) => (by === "value" ? money(at, frame, { whole: data.width % unit === 0 }) : by === "units" ? count(at) : kilograms(at));
  const labels = shown.map((_, at) => at).filter((at) => at % Math.ceil((shown.length * LABEL_ROOM) / width) === 0);

  const put = async (one: Threshold, value: number) => {
    setMoved({ key: one.key, value });
    await keep(one, value).catch(fail);
    setMoved((before) => (before?.key === one.key && before.value === value ? null : before));
  };
  const bands = open && data.bands[audience(open.openTo)];
  const near = bands && nearMisses(valueOf(open), bands, data.fine_width, frame.round_amount);
  return (
    <div ref={box}>
      <p className="min-h-[1.4em] text-small text-soft">
        A bead is {count(bead, 1)} {bead === 1 ? "order" : "orders"}; yellow is the part you keep of what they pay.{" "}
        {open && near && (
          <span className="text-ink" aria-live="polite">
            <b>{soMany(near.above, "order")}</b> {isOne(near.above) ? "reaches" : "reach"} the {cash(valueOf(open), frame)} of{" "}
            {open.what}; <Missing {...{ near, frame }} />
          </span>
        )}
      </p>
      <svg width={width} height={base + AXIS} role="group" aria-label="Carts to expect by what is in them">
        {open && <ThresholdCurve {...{ x, frame, mix }} height={curve} threshold={open} value={valueOf(open)} most={last} />}
        {open && near && (
          <rect x={x(Math.max(valueOf(open) - near.reach, 0))} width={Math.max(x(Math.min(valueOf(open), last)) - x(Math.max(valueOf(open) - near.reach, 0)), 0)} y={top} height={BARS} fill="var(--color-line)" opacity={0.55} />
        )}
        {shown.map((orders, at) => {
          const [paid, kept] = [data.paid[at]!, data.kept[at]!];
          const part = paid > 0 ? Math.min(Math.abs(kept) / paid, 1) : 0;
          const height = base - y(orders);
          return (
            <g key={at}>
              <title>{`${tell(at * data.width)} to ${tell((at + 1) * data.width)}: ${soMany(orders, "order", 1)} pay ${money(paid, frame)}; you ${kept < 0 ? "lose" : "keep"} ${money(Math.abs(kept), frame)}, ${share(part)} of it`}</title>
              <clipPath id={`${clip}${at}`}>
                <rect x={x(at * data.width)} width={each} y={base - height * part} height={height * part + 1} />
              </clipPath>
              <Stack {...{ orders, bead, base, each }} x={x(at * data.width)} step={base - y(bead)} fill="var(--color-goods)" />
              <g clipPath={`url(#${clip}${at})`}>
                <Stack {...{ orders, bead, base, each }} x={x(at * data.width)} step={base - y(bead)} fill={kept < 0 ? "var(--color-loss)" : "var(--color-yellow)"} />
              </g>
            </g>
          );
        })}
        <line x1={0} x2={width} y1={base + 1} y2={base + 1} stroke="var(--color-ink)" strokeWidth={2} />
        {labels.map((at) => (
          <text key={at} x={x(at * data.width)} y={base + 18} fontSize={12} textAnchor={at === 0 ? "start" : "middle"} fill="var(--color-soft)">
            {tell(at * data.width)}
          </text>
        ))}
        {beyond > 0.5 && (
          <text x={width - 4} y={base - 6} fontSize={12} textAnchor="end" fill="var(--color-soft)">
            {count(beyond)} above
          </text>
        )}
        {marks.map((one, at) => (
          <ThresholdMark
            key={one.key}
            {...{ x, frame }}
            threshold={one}
            value={valueOf(one)}
            isOpen={one === open}
            top={curve}
            row={rows[at]!}
            base={base}
            most={last}
            step={frame.round_amount}
            choose={() => setChosen(one.key)}
            move={(value) => setMoved({ key: one.key, value })}
            put={(value) => void put(one, value)}
          />
        ))}
      </svg>
    </div>
  );
}

function Stack({ orders, bead, base, each, x, step, fill }: { orders: number; bead: number; base: number; each: number; x: number; step: number; fill: string }) {
  return Array.from({ length: Math.ceil(orders / bead - 1e-9) }, (_, n) => {
    const part = Math.min(1, orders / bead - n);
    return (
      <rect key={n} x={x + 1.5} width={Math.max(each - 3, 1)} y={base - n * step - step * part + 0.6} height={Math.max(step * part - 1.2, 0.8)} rx={Math.min(3.5, step / 2, each / 3)} fill={fill} stroke="var(--color-ink)" />
    );
  });
}

const inTurn = turns();
const wanted = new Map<string, number>();

/** Keeps a threshold where it was moved to: one after another, each of what was really kept before; of several moves of
 * one threshold that wait, the newest. */
function keep({ key, of }: Threshold, value: number): Promise<void> {
  wanted.set(key, value);
  return inTurn(async () => {
    if (wanted.get(key) === value) await (of ? keepInPlan(of, value) : keepFree(key, value));
  });
}

/** Today's free delivery moved, as Delivery has it. */
async function keepFree(key: string, now: number): Promise<void> {
  const was = freeToday(queries.getQueryData<Carts>(["carts"])!).find((one) => one.key === key)?.value;
  if (was === undefined || was === now) return;
  await ask("PUT", "/delivery/free-from", { was, now });
  await renewAll();
}

async function keepInPlan({ saved: { id }, offer, condition }: NonNullable<Threshold["of"]>, value: number): Promise<void> {
  const saved = queries.getQueryData<Plans>(["plans"])?.plans.find((one) => one.id === id);
  if (!saved) return;
  try {
    const body = { revision: saved.revision, plan: withThreshold(saved.plan, offer, condition, value) };
    keepPlan(await ask<SavedPlan>("PUT", `/plans/${id}`, body));
  } catch (error) {
    void queries.invalidateQueries({ queryKey: ["plans"] });
    throw error;
  }
}

/** How many orders just miss a threshold, and by how much. */
function Missing({ near: { orders, reach, lack }, frame }: { near: NearMisses; frame: Frame }) {
  const within = cash(reach, frame);
  if (isNothing(count(orders))) return <>none comes within {within} of it.</>;
  return (
    <>
      <b>{count(orders)}</b> {isOne(orders) ? `comes within ${within} of it and lacks` : `come within ${within} of it and lack`} {money(lack, frame)} on average.
    </>
  );
}

const isOne = (orders: number) => count(orders) === "1";
