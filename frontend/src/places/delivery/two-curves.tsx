/** What an option charges and costs, by weight and by cart value, the gap between, and the real orders as marks. */
import { useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { area, curveStepAfter, line } from "d3-shape";
import { useId } from "react";

import { ask } from "../../api/client";
import { useDelivery } from "../../api/queries";
import type { Curves, DeliveryCurve, Frame } from "../../api/types";
import { count, soMany, money } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { useWidth } from "../../pieces/measured";
import { useShop } from "./saving";

const HEIGHT = 200;
const PAD = { left: 46, right: 22, top: 10, bottom: 24 };
const ROWS = 9;

type Mark = Curves["marks"][number];

export function TwoCurves({ zone, option }: { zone: string; option: string }) {
  const { frame } = useShop();
  const { data: kept } = useDelivery();
  const isKept = kept?.zones.some((one) => one.name === zone && one.options.some(({ name }) => name === option)) ?? false;
  const { data } = useQuery({
    queryKey: ["delivery", "curves", zone, option],
    enabled: isKept,
    queryFn: () => ask<Curves>("GET", `/delivery/curves?${new URLSearchParams({ zone, option })}`),
  });
  const name = `${zone} · ${option}`;
  if (!data) return <p className="text-soft">Working out the curves…</p>;
  if (!data.by_weight || !data.by_value || data.orders === 0)
    return <p className="mt-6 text-soft">No order goes by {name}, so there is nothing to hold its charge against. Bring in orders at Carts, or sketch some.</p>;
  const whole = (value: number) => money(value, frame, { whole: true });
  return (
    <section aria-label={`Curves of ${name}`}>
      <h2 className="text-title">
        {name}: {data.losing === 0 ? "no order" : <b className="text-loss-ink">{count(data.losing)}</b>} of {soMany(data.orders, "order")} pay less than they cost
      </h2>
      <Key drawn={data.marks.length} orders={data.orders} />
      <Picture curve={data.by_weight} marks={data.marks} at={(mark) => mark.weight} title="By weight of goods" tell={(grams) => `${count(grams / 1000, 1)} kg`} {...{ name, frame }} />
      <Picture curve={data.by_value} marks={data.marks} at={(mark) => mark.value} title="By value of goods" tell={whole} {...{ name, frame }} />
      <p className="text-small text-soft">
        Without tax. Each curve takes an order like this option’s middle one in all else, so a mark may stand off it: a free delivery, a bulky parcel, another tax rate.
      </p>
    </section>
  );
}

function Key({ drawn, orders }: { drawn: number; orders: number }) {
  return (
    <ul className="mt-1 flex flex-wrap gap-x-4 text-small">
      <li className="flex items-center gap-1.5"><Stroke charged /> shoppers pay</li>
      <li className="flex items-center gap-1.5"><Stroke /> it costs</li>
      <li className="flex items-center gap-1.5">
        <svg width={12} height={12} viewBox="-6 -6 12 12" aria-hidden><MarkShape lost={false} /></svg> an order that pays its way
      </li>
      <li className="flex items-center gap-1.5">
        <svg width={12} height={12} viewBox="-6 -6 12 12" aria-hidden><MarkShape lost /></svg> one that does not
      </li>
      {drawn < orders && <li className="text-soft">{count(drawn)} drawn</li>}
    </ul>
  );
}

const Stroke = ({ charged = false }: { charged?: boolean }) => (
  <svg width={22} height={8} aria-hidden>
    <line x1={0} x2={22} y1={4} y2={4} {...(charged ? CHARGED : COST)} />
  </svg>
);

const CHARGED = { stroke: "var(--color-ink)", strokeWidth: 2.4 };
const COST = { stroke: "var(--color-delivery)", strokeWidth: 2.4, strokeDasharray: "7 3" };

const MarkShape = ({ lost }: { lost: boolean }) =>
  lost ? (
    <path d="M-3.4 -3.4h6.8l-2.6 3.4l2.6 3.4h-6.8z" fill="var(--color-loss)" stroke="var(--color-sheet)" strokeWidth={0.7} />
  ) : (
    <circle r={2.6} fill="var(--color-yellow)" stroke="var(--color-ink)" strokeWidth={0.8} />
  );

interface PictureProps {
  curve: DeliveryCurve;
  marks: Mark[];
  at: (mark: Mark) => number;
  title: string;
  tell: (value: number) => string;
  name: string;
  frame: Frame;
}

function Picture({ curve, marks, at, title, tell, name, frame }: PictureProps) {
  const id = useId();
  const [box, width] = useWidth<HTMLElement>(606);
  const [first, last] = [curve.at[0]!, curve.at.at(-1)!];
  const shown = marks.filter((mark) => at(mark) <= last);
  const top = Math.max(...curve.charged, ...curve.cost, ...shown.map((mark) => mark.cost), 10 ** frame.minor_digits);
  const x = scaleLinear([0, last], [PAD.left, width - PAD.right]);
  const y = scaleLinear([0, top], [HEIGHT - PAD.bottom, PAD.top]);
  const points = curve.at.map((_, n) => n);
  const drawn = (of: number[]) => line<number>((n) => x(curve.at[n]!), (n) => y(of[n]!)).curve(curveStepAfter)(points) ?? undefined;
  const between = (upper: number[], lower: number[]) =>
    area<number>((n) => x(curve.at[n]!), (n) => y(lower[n]!), (n) => y(Math.max(upper[n]!, lower[n]!))).curve(curveStepAfter)(points) ?? undefined;
  const bare = (value: number) => money(value, frame, { whole: top >= 2000 });
  return (
    <figure className="mt-2" ref={box}>
      <figcaption className="text-small font-semibold">{title}</figcaption>
      <svg width={width} height={HEIGHT} role="img" aria-labelledby={`${id}-told`}>
        <title id={`${id}-told`}>{`${title}, ${name}: ${losingRanges(curve, tell)}`}</title>
        <pattern id={`${id}-loss`} width={6} height={6} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width={6} height={6} fill="var(--color-loss)" fillOpacity={0.16} />
          <line x1={0} y1={0} x2={0} y2={6} stroke="var(--color-loss)" strokeWidth={1.4} />
        </pattern>
        {y.ticks(4).map((value) => (
          <g key={value}>
            <line x1={PAD.left} x2={width - PAD.right} y1={y(value)} y2={y(value)} stroke="var(--color-line)" />
            <text x={PAD.left - 6} y={y(value) + 4} textAnchor="end" fontSize={11.5} fill="var(--color-soft)">
              {bare(value)}
            </text>
          </g>
        ))}
        {x.ticks(Math.max(2, Math.floor(width / 86))).map((value) => (
          <text key={value} x={x(value)} y={HEIGHT - 8} textAnchor={value === 0 ? "start" : "middle"} fontSize={11.5} fill="var(--color-soft)">
            {tell(value)}
          </text>
        ))}
        <path d={between(curve.charged, curve.cost)} fill="var(--color-yellow)" fillOpacity={0.3} />
        <path d={between(curve.cost, curve.charged)} fill={`url(#${id}-loss)`} />
        {shown.map((mark, n) => (
          <g key={n} transform={`translate(${x(at(mark))} ${y(mark.cost)})`}>
            <MarkShape lost={mark.cost > mark.charged} />
          </g>
        ))}
        <path d={drawn(curve.cost)} fill="none" {...COST} />
        <path d={drawn(curve.charged)} fill="none" {...CHARGED} />
        <line x1={x(first)} x2={width - PAD.right} y1={y(0)} y2={y(0)} stroke="var(--color-ink)" />
      </svg>
      <details className="text-small">
        <summary className="quiet inline cursor-pointer">The figures</summary>
        <Figures {...{ curve, tell, title, frame }} />
      </details>
    </figure>
  );
}

function Figures({ curve, tell, title, frame }: Pick<PictureProps, "curve" | "tell" | "title" | "frame">) {
  const every = Math.max(1, Math.floor((curve.at.length - 1) / (ROWS - 1)));
  return (
    <table className="figures">
      <caption className="sr-only">{title}</caption>
      <Headings>
        <Heading>At</Heading>
        <Heading n>Shoppers pay</Heading>
        <Heading n>It costs</Heading>
        <Heading n>Left</Heading>
      </Headings>
      <tbody>
        {curve.at.map((at, n) =>
          n % every === 0 ? (
            <tr key={n}>
              <th scope="row" className="text-ink!">{tell(at)}</th>
              <td className="n">{money(curve.charged[n]!, frame)}</td>
              <td className="n">{money(curve.cost[n]!, frame)}</td>
              <td className="n font-semibold">{money(curve.charged[n]! - curve.cost[n]!, frame)}</td>
            </tr>
          ) : null,
        )}
      </tbody>
    </table>
  );
}

/** Where the cost is above the charge, in words. */
function losingRanges({ at, charged, cost }: DeliveryCurve, tell: (value: number) => string): string {
  const ranges: [number, number][] = [];
  at.forEach((value, n) => {
    if (cost[n]! <= charged[n]!) return;
    const before = ranges.at(-1);
    if (before && n > 0 && before[1] === at[n - 1]) before[1] = value;
    else ranges.push([value, value]);
  });
  if (ranges.length === 0) return "it costs no more than shoppers pay";
  return `it costs more than shoppers pay ${ranges.slice(0, 4).map(([from, to]) => `from ${tell(from)} to ${tell(to)}`).join(", ")}`;
}
