/** Carriers' tariffs: written, read from a file or fetched, each with where and when it came from. */
import { useState } from "react";

import { listed, money } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { EVERYTHING } from "../../pieces/scope-word";
import { FetchTariffs } from "./fetch-tariffs";
import { Starters } from "../../pieces/table-files";
import { NewName } from "./new-name";
import { moment } from "./moment";
import { Pick } from "./pick";
import { useChanges, useShop } from "./saving";
import { TariffSentence } from "./tariff-sentence";

export function TariffsBoard() {
  const { delivery } = useShop();
  const change = useChanges();
  const [chosen, choose] = useState<string | null>(null);
  const open = delivery.tariffs.find((one) => one.tariff.name === chosen) ?? delivery.tariffs[0];
  const fresh = (name: string) => ({
    name,
    carrier: "",
    steps: [{ upto: 2_000, amount: 0 }],
    per_kilogram: null,
    divisor: null,
    fuel_bp: 0,
    insurance_bp: 0,
    carries: { heaviest: null, longest: null, refuses: EVERYTHING },
  });
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_33rem] gap-8 max-[1100px]:grid-cols-1">
      <section aria-label="Tariffs">
        <p className="mb-2 flex items-baseline gap-5 text-small">
          <NewName title="A further tariff" button="Write a tariff" taken={delivery.tariffs.map((one) => one.tariff.name)} make={(name) => void change.tariff(fresh(name)).then((kept) => kept && choose(name))} />
          <FetchTariffs />
        </p>
        {delivery.tariffs.length === 0 ? (
          <>
            <p className="max-w-xl">No tariff yet: deliveries cost you nothing in every forecast. Write what your carrier asks, fetch it, or bring in a CSV, XLSX or ODS file: a rate card will do as it is.</p>
            <p className="mt-4 flex gap-5">
              <Starters kind="tariffs" />
            </p>
          </>
        ) : (
          <TariffsTable chosen={open!.tariff.name} choose={choose} />
        )}
      </section>
      {open && <TariffSentence key={open.tariff.name} of={open} />}
    </div>
  );
}

function TariffsTable({ chosen, choose }: { chosen: string; choose: (name: string) => void }) {
  const { frame, delivery } = useShop();
  return (
    <table className="figures w-full">
      <Headings>
        <Heading>Tariff</Heading>
        <Heading>Carrier</Heading>
        <Heading n>From</Heading>
        <Heading className="ps-4!">Serves</Heading>
        <Heading>Since</Heading>
      </Headings>
      <tbody>
        {delivery.tariffs.map(({ tariff, source, fetched_at }) => {
          const first = tariff.steps[0];
          const serves = delivery.zones.flatMap((zone) => zone.options.filter((option) => option.tariffs.includes(tariff.name)).map(() => zone.name));
          return (
            <tr key={tariff.name}>
              <th scope="row" className="text-ink! font-normal!">
                <Pick isChosen={tariff.name === chosen} pick={() => choose(tariff.name)}>
                  {tariff.name}
                </Pick>
              </th>
              <td>{tariff.carrier}</td>
              <td className="n">{first ? money(first.amount, frame) : tariff.per_kilogram !== null ? `${money(tariff.per_kilogram, frame)} a kg` : ""}</td>
              <td className="ps-4!">{serves.length ? listed([...new Set(serves)]) : <span className="text-soft">nothing yet</span>}</td>
              <td className="text-small">{fetched_at ? <>fetched {moment(fetched_at)}</> : source || <span className="text-soft">written</span>}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
