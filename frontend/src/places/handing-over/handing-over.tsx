/** Handing over: one document for whoever keys the plan in, answers for it and packs it. */
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";

import { ask } from "../../api/client";
import { useNames, useRunning } from "../../api/queries";
import type { Frame, OfferDoc, OverTime, Plan, SavedPlan, Trial } from "../../api/types";
import { count, days, money } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { nameOfSku } from "../../pieces/product-picker";
import { fileName } from "../../offers/offer-files";
import { saveFile } from "../../offers/save-file";
import { withNames } from "../../pieces/product-picker";
import { asMarkdown } from "./as-markdown";
import { handover, type HandedOffer, type Handover, type KeyIn } from "./handover";
import { OfPlan, Paper, Part, useForecast } from "./paper";

export const HandingOver = () => <OfPlan>{(saved, frame) => <OfThePlan {...{ saved, frame }} />}</OfPlan>;

/** Whether an offer may be one that reduced prices could stand for; the server looks closer. */
const lowersPrices = ({ in_plan, terms }: OfferDoc): boolean => in_plan && terms.given.by === "itself" && terms.earned.conditions.length === 0 && terms.gives.every((one) => ["percent_off", "amount_off_each", "unit_price"].includes(one.kind));

/** What is asked of the plan besides its forecast. */
const useOf = <Answer,>(path: string, plan: Plan, version: number) => useQuery({ queryKey: ["handing over", path, version, plan], queryFn: ({ signal }) => ask<Answer>("POST", path, plan, signal) });

function OfThePlan({ saved, frame }: { saved: SavedPlan; frame: Frame }) {
  const { plan } = saved;
  const { data: goods } = useNames();
  const running = useRunning();
  const { data: forecast, error } = useForecast(plan, frame.data_version);
  const { data: tried } = useOf<{ trials: Trial[] }>("/till/trials", plan, frame.data_version);
  const { data: overTime } = useOf<OverTime>("/forecast/days", plan, frame.data_version);
  const skus = useMemo(() => new Set(goods?.map((good) => good.sku)), [goods]);
  if (error)
    return (
      <p role="alert" className="px-7 py-6">
        {error.message}
      </p>
    );
  if (!goods || !forecast || !tried || !overTime) return <p className="px-7 py-6 text-answer">Putting it together…</p>;
  const named = (text: string) => withNames(text, goods).replace(/[^\s,]+/g, (word) => (skus.has(word) ? nameOfSku(word, goods) : word));
  const trials = tried.trials.map((one) => ({ ...one, label: named(one.label), text: named(one.text) }));
  const told = handover({ plan, frame, goods, running, answer: forecast.answer_text, trials, overTime, timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone });
  const name = fileName(plan.name);
  const codes = told.offers.flatMap((one) => one.codes.map((code) => [one.name, code]));
  const quoted = (text: string) => `"${text.replace(/"/g, '""')}"`;
  const files: [string, () => void][] = [
    ["Markdown", () => saveFile(`${name}.md`, asMarkdown(told, frame), "text/markdown")],
    ["JSON", () => saveFile(`${name}-handover.json`, `${JSON.stringify(told, null, 2)}\n`, "application/json")],
    ...(codes.length ? [["Codes as CSV", () => saveFile(`${name}-codes.csv`, [["offer", "code"], ...codes].map((row) => row.map(quoted).join(",")).join("\r\n") + "\r\n", "text/csv")] as [string, () => void]] : []),
  ];
  return (
    <Paper
      plan={saved}
      beside={{ path: "/the-case", words: "The case for it" }}
      files={
        <>
          {files.map(([words, save]) => (
            <button key={words} type="button" className="press" onClick={save}>
              {words}
            </button>
          ))}
          {plan.offers.some(lowersPrices) && (
            <span className="w-full text-small text-soft">
              Offers that only lower prices, as reduced prices over their days:{" "}
              {(["csv", "xlsx"] as const).map((kind) => (
                <a key={kind} href={`/api/plans/${saved.id}/reduced-prices.${kind}`} download className="quiet me-3">
                  {kind.toUpperCase()}
                </a>
              ))}
            </span>
          )}
        </>
      }
    >
      <Sheet {...{ told, frame }} />
    </Paper>
  );
}

function Sheet({ told, frame }: { told: Handover; frame: Frame }) {
  return (
    <>
      <p className="text-small text-soft">{told.shop} · to be keyed in</p>
      <h1 className="text-answer">{told.plan}</h1>
      <p className="mt-1">
        {days(told.first_day, told.last_day)}, times of {told.time_zone}
      </p>
      <p className="mt-2 font-semibold">{told.answer}</p>
      <Part title="What to key in">
        {told.offers.length === 0 && <p>No offer is slid into the plan.</p>}
        <ol className="grid gap-4">
          {told.offers.map((one, at) => (
            <Offer key={one.id} one={one} number={at + 1} />
          ))}
        </ol>
      </Part>
      <Part title="What must not go together">
        <ul className="grid gap-1">
          {told.apart.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      </Part>
      <Part title="What shoppers are told">
        {told.offers.map((one) => (
          <div key={one.id} className="mb-3 break-inside-avoid">
            <h3 className="font-semibold">{one.name}</h3>
            <Rows
              rows={[
                { what: "before", is: one.told.before },
                ...(one.told.near ? [{ what: "near it", is: one.told.near }] : []),
                { what: "on earning it", is: one.told.earned },
                { what: "refused", is: one.told.refused },
              ]}
            />
          </div>
        ))}
      </Part>
      {told.tries.length > 0 && (
        <Part title="Carts to try in the shop">
          <Tries {...{ told, frame }} />
        </Part>
      )}
      <Part title="After it went live">
        <ul className="grid gap-1">
          {told.checks.map((one) => (
            <li key={one} className="flex gap-2.5 break-inside-avoid">
              <span aria-hidden className="mt-1 size-3.5 shrink-0 border-[1.5px] border-ink" />
              {one}
            </li>
          ))}
        </ul>
      </Part>
      {told.stock.length > 0 && (
        <Part title="Stock to set aside">
          <table className="figures">
            <Headings>
              <Heading>Goods</Heading>
              <Heading n>Set aside</Heading>
              <Heading n>In stock</Heading>
              <Heading className="ps-6!">It lasts</Heading>
            </Headings>
            <tbody>
              {told.stock.map((one) => (
                <tr key={one.sku}>
                  <td>
                    {one.name} <span className="text-soft">{one.sku}</span>
                  </td>
                  <td className="n">{count(one.set_aside)}</td>
                  <td className="n">{count(one.in_stock)}</td>
                  <td className="ps-6!">{one.lasts_until ? `until ${days(one.lasts_until, one.lasts_until, false)}` : "all days"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Part>
      )}
      <Part title="Who to tell">
        <Rows rows={told.tell} />
      </Part>
    </>
  );
}

function Offer({ one, number }: { one: HandedOffer; number: number }) {
  return (
    <li>
      <div className="break-inside-avoid">
        <h3 className="flex items-center gap-2.5 text-body">
          <span className="flex size-6 shrink-0 items-center justify-center rounded-bead bg-ink text-small text-sheet">{number}</span>
          {one.name}
        </h3>
        <p className="mt-1 text-sentence">{one.sentence}</p>
        {one.note && <p className="text-small text-soft italic">{one.note}</p>}
        <Rows rows={one.key_in} />
      </div>
      {one.codes.length > 1 && (
        <p className="mt-1 text-small">
          Codes: <span className="columns-4">{one.codes.join(" · ")}</span>
        </p>
      )}
    </li>
  );
}

function Rows({ rows }: { rows: KeyIn[] }) {
  return (
    <dl className="mt-1 grid grid-cols-[10.5rem_minmax(0,1fr)] gap-x-4 border-t border-line">
      {rows.map(({ what, is }) => (
        <div key={what + is} className="contents">
          <dt className="border-b border-line py-0.5 text-soft">{what}</dt>
          <dd className="border-b border-line py-0.5">{is}</dd>
        </div>
      ))}
    </dl>
  );
}

function Tries({ told, frame }: { told: Handover; frame: Frame }) {
  return (
    <table className="figures tries w-full text-small">
      <Headings>
        <Heading>Try</Heading>
        <Heading>Cart</Heading>
        <Heading>Sent</Heading>
        <Heading n>Must come to</Heading>
      </Headings>
      <tbody>
        {told.tries.map((one, at) => (
          <tr key={at} className="break-inside-avoid align-top">
            <td>
              <span className="font-semibold">{one.of}</span>: {one.what}
              {one.says && <span className="block text-soft">{one.says}</span>}
            </td>
            <td>{one.cart}</td>
            <td>{one.where}</td>
            <td className="n font-semibold">{money(one.pays, frame)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
