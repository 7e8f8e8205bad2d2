/** Zones and their options: what each did, the two curves of the one that is chosen, and how it works as a sentence. */
import { useState } from "react";

import { useTaken } from "../../api/queries";
import type { Taken } from "../../api/types";
import { count, money } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { Starters } from "../../pieces/table-files";
import { CostAsPriced, CostOfAny, PriceAllByCost } from "./cost-of-orders";
import { NewZone, OptionSentence, ZoneSentence } from "./option-sentence";
import { AddAllPaid, NamedBesides, PaidAsAsked, PaidBesides, PaidByAny } from "./paid-by-orders";
import { Pick } from "./pick";
import { type Choose, type Chosen, useShop, Wrong } from "./saving";
import { TwoCurves } from "./two-curves";

export function OptionsBoard() {
  const { delivery } = useShop();
  const [chosen, choose] = useState<Chosen>({ zone: 0, option: 0 });
  const zone = delivery.zones[chosen.zone] ?? delivery.zones[0];
  const at = zone ? delivery.zones.indexOf(zone) : 0;
  const option = zone?.options[chosen.option] ?? zone?.options[0];
  if (delivery.zones.length === 0) return <NoZones choose={choose} />;
  return (
    <div className="grid grid-cols-[minmax(0,36.5rem)_minmax(0,1fr)] gap-8 max-[1100px]:grid-cols-1">
      <section aria-label="Zones and options">
        <OptionsTable chosen={{ zone: at, option: option ? zone!.options.indexOf(option) : 0 }} choose={choose} />
        {zone && <ZoneSentence key={zone.name} zone={zone} at={at} choose={choose} />}
        {zone && option && (
          <>
            <OptionSentence key={`${zone.name} ${option.name}`} zone={zone} zoneAt={at} option={option} at={zone.options.indexOf(option)} choose={choose} />
            <PaidAsAsked zone={zone} zoneAt={at} option={option} at={zone.options.indexOf(option)} />
            <CostAsPriced zone={zone} option={option} />
            <PaidByAny zone={zone} />
            <CostOfAny zone={zone} />
          </>
        )}
        {zone && (
          <>
            <PaidBesides zone={zone} at={at} choose={choose} />
            <NamedBesides zone={zone} at={at} choose={choose} />
          </>
        )}
        <AddAllPaid />
        <PriceAllByCost />
        <NewZone choose={choose} />
        <Wrong />
      </section>
      {zone && option && <TwoCurves zone={zone.name} option={option.name} />}
    </div>
  );
}

function NoZones({ choose }: { choose: Choose }) {
  return (
    <div className="max-w-2xl py-6">
      <h2 className="text-title">Say where you deliver, and what you ask for it</h2>
      <p className="mt-2">
        A zone is one country, several, or a region; in each there are one or more options a shopper can choose. Write them here, or bring in a CSV, XLSX or ODS file with one
        row for each step of a charge: drop it anywhere on this page. What carriers ask of you goes under Carriers’ tariffs: first those, for charges name them.
      </p>
      <p className="mt-4 flex items-center gap-5">
        <Starters kind="charges" />
      </p>
      <NewZone choose={choose} />
      <Wrong />
    </div>
  );
}

function OptionsTable({ chosen, choose }: { chosen: Chosen; choose: Choose }) {
  const { frame, delivery } = useShop();
  const { data } = useTaken();
  const told = (zone: string, option: string) => data?.options.find((one) => one.zone === zone && one.option === option);
  const most = Math.max(...(data?.options.map((one) => Math.abs(one.charged - one.cost)) ?? []), 1);
  const cash = (amount: number) => money(amount, frame, { whole: true });
  return (
    <table className="figures w-full">
      <caption className="sr-only">What each option charged and cost over the days counted, without tax</caption>
      <Headings>
        <Heading>Zone and option</Heading>
        <Heading n>Orders</Heading>
        <Heading n>Charged</Heading>
        <Heading n>Cost</Heading>
        <Heading n>Left</Heading>
        <Heading unseen className="ps-3! pe-0!">As a rod</Heading>
      </Headings>
      <tbody>
        {delivery.zones.flatMap((zone, zoneAt) =>
          zone.options.length === 0
            ? [
                <tr key={zone.name}>
                  <th scope="row" className="text-ink! font-normal!">
                    <Pick isChosen={chosen.zone === zoneAt} pick={() => choose({ zone: zoneAt, option: 0 })}>
                      {zone.name} · no option yet
                    </Pick>
                  </th>
                  <td className="n" colSpan={5} />
                </tr>,
              ]
            : zone.options.map((option, at) => {
                const one = told(zone.name, option.name);
                return (
                  <tr key={`${zone.name} ${option.name}`}>
                    <th scope="row" className="text-ink! font-normal!">
                      <Pick isChosen={chosen.zone === zoneAt && chosen.option === at} pick={() => choose({ zone: zoneAt, option: at })}>
                        {zone.name} · {option.name}
                      </Pick>
                    </th>
                    <td className="n">{one ? count(one.orders) : ""}</td>
                    <td className="n">{one ? cash(one.charged) : ""}</td>
                    <td className="n">{one ? cash(one.cost) : ""}</td>
                    <td className={`n font-semibold ${one && one.charged < one.cost ? "text-loss-ink" : ""}`}>{one ? cash(one.charged - one.cost) : ""}</td>
                    <td className="ps-3! pe-0!">{one && <Hanging left={one} most={most} />}</td>
                  </tr>
                );
              }),
        )}
      </tbody>
    </table>
  );
}

const [ROOM, TALL] = [64, 14];

/** What an option left, right of the post where it was kept, left of it and notched where it was lost. */
function Hanging({ left, most }: { left: Taken; most: number }) {
  const kept = left.charged - left.cost;
  const size = Math.max((Math.abs(kept) / most) * (ROOM / 2 - 3), 1.5);
  const middle = ROOM / 2;
  return (
    <svg width={ROOM} height={TALL} aria-hidden>
      <line x1={0} x2={ROOM} y1={TALL / 2} y2={TALL / 2} stroke="var(--color-line)" strokeWidth={2} />
      {kept >= 0 ? (
        <rect x={middle} y={2} width={size} height={TALL - 4} rx={Math.min(5, size / 2)} fill="var(--color-yellow)" stroke="var(--color-ink)" />
      ) : (
        <path d={`M${middle} 2h${-size}l${Math.min(4, size / 2)} ${TALL / 2 - 2}l${-Math.min(4, size / 2)} ${TALL / 2 - 2}h${size}z`} fill="var(--color-loss)" stroke="var(--color-ink)" />
      )}
      <line x1={middle} x2={middle} y1={0} y2={TALL} stroke="var(--color-ink)" strokeWidth={2} />
    </svg>
  );
}
