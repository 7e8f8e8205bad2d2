/** The carts to expect by weekday and hour as beads, and by zone and shopper as figures. */
import { useMixGroups } from "../../api/queries";
import type { Frame, MixGroups } from "../../api/types";
import { count, soMany, money } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { useWidth } from "../../pieces/measured";
import type { Mix } from "./mixes";

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const [NAMES, ROW, TOP] = [30, 21, 18];
/** Hours between two labels. */
const EVERY = 3;

export function WhenAndWho({ mix, frame }: { mix: Mix; frame: Frame }) {
  const { first_day, last_day } = mix.days;
  const { data } = useMixGroups(mix.terms, first_day, last_day);
  if (!data) return <div className="mt-5 h-[15rem]" />;
  if (data.zones.length === 0) return null;
  const most = Math.max(...data.orders_by_hour.flat());
  return (
    <section aria-labelledby="when-title" className={`mt-5 ${most > 0 ? "min-h-[15rem]" : ""}`}>
      <h2 id="when-title" className="text-title">
        When they come, and whose they are
      </h2>
      <div className="mt-1 grid grid-cols-[minmax(0,7fr)_minmax(0,5fr)] gap-x-10 max-[900px]:grid-cols-[minmax(0,1fr)]">
        {most > 0 ? <Hours {...{ data, frame, most }} /> : <p className="text-small text-soft">At what time orders came is not known.</p>}
        <table className="figures self-start text-small">
          <Headings>
            <Heading>Whose</Heading>
            <Heading n>Orders</Heading>
            <Heading n>You keep</Heading>
            <Heading n>An order</Heading>
          </Headings>
          <tbody>
            {[...data.zones, ...data.shoppers]
              .filter((one) => one.orders > 0)
              .map((one) => (
                <tr key={one.label}>
                  <th scope="row">{one.label}</th>
                  <td className="n">{count(one.orders)}</td>
                  <td className="n">{money(one.kept, frame, { whole: true })}</td>
                  <td className="n">{money(one.kept / one.orders, frame)}</td>
                </tr>
              ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function Hours({ data, frame, most }: { data: MixGroups; frame: Frame; most: number }) {
  const [box, width] = useWidth<HTMLDivElement>(680);
  const each = (width - NAMES) / 24;
  const largest = Math.min(each, ROW) / 2 - 0.8;
  const busiest = data.orders_by_hour.flat().indexOf(most);
  const says = `Most orders come on ${WEEKDAYS[Math.floor(busiest / 24)]}s from ${busiest % 24}:00 to ${(busiest % 24) + 1}:00, ${count(most, 1)} of them`;
  return (
    <div ref={box}>
      <svg width={width} height={TOP + 7 * ROW} role="img" aria-label={says}>
        {Array.from({ length: 24 / EVERY }, (_, at) => (
          <text key={at} x={NAMES + each * (at * EVERY + 0.5)} y={12} fontSize={11} textAnchor="middle" fill="var(--color-soft)">
            {at * EVERY}
          </text>
        ))}
        {WEEKDAYS.map((name, day) => {
          const y = TOP + ROW * (day + 0.5);
          return (
            <g key={name}>
              <text x={0} y={y + 4} fontSize={12} fill="var(--color-ink)">
                {name.slice(0, 2)}
              </text>
              <line x1={NAMES} x2={width} y1={y} y2={y} stroke="var(--color-line)" />
              {data.orders_by_hour[day]!.map((orders, hour) => {
                const kept = data.kept_by_hour[day]![hour]!;
                return (
                  orders > 0 && (
                    <circle key={hour} cx={NAMES + each * (hour + 0.5)} cy={y} r={Math.max(largest * Math.sqrt(orders / most), 0.8)} fill={kept < 0 ? "var(--color-loss)" : "var(--color-goods)"} stroke="var(--color-ink)" strokeWidth={0.9}>
                      <title>{`${name} ${hour}:00 to ${hour + 1}:00: ${soMany(orders, "order", 1)}, you ${kept < 0 ? "lose" : "keep"} ${money(Math.abs(kept), frame)}`}</title>
                    </circle>
                  )
                );
              })}
            </g>
          );
        })}
      </svg>
      <p className="text-small text-soft">{says}. A bead’s area is its orders; hours of the shop’s own clock.</p>
    </div>
  );
}
