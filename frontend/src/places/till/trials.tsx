/** Trials made for you: each offer just below, at and above what it asks for, late, and elsewhere. Each opens as the cart. */
import { useQuery } from "@tanstack/react-query";

import { ask } from "../../api/client";
import type { Cart, Frame, Named, Plan, Trial } from "../../api/types";
import { money } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { withNames } from "../../pieces/product-picker";

interface TrialsProps {
  plan: Plan;
  frame: Frame;
  goods: Named[];
  nameOf: (offer: string) => string;
  put: (cart: Cart) => void;
}

export function Trials({ plan, frame, goods, nameOf, put }: TrialsProps) {
  const { data, error } = useQuery({
    queryKey: ["till", "trials", frame.data_version, plan],
    queryFn: ({ signal }) => ask<{ trials: Trial[] }>("POST", "/till/trials", plan, signal),
  });
  if (error) return <p role="alert" className="text-loss-ink">{error.message}</p>;
  if (!data) return <p role="status" className="text-soft">Ringing up the trials…</p>;
  const offers = [...new Set(data.trials.map((one) => one.offer))];
  if (offers.length === 0) return <p className="text-soft">There is no offer to try.</p>;
  return (
    <div className="grid gap-4">
      {offers.map((offer) => (
        <table key={offer} className="figures w-full text-small">
          <caption className="text-start text-body font-semibold">{nameOf(offer)}</caption>
          <Headings>
            <Heading unseen>Trial</Heading>
            <Heading n>Pays</Heading>
            <Heading n>Kept</Heading>
            <Heading n>Change</Heading>
          </Headings>
          <tbody>
            {data.trials
              .filter((one) => one.offer === offer)
              .map((one) => (
                <tr key={one.label}>
                  <th scope="row" className="font-normal!">
                    <button type="button" className="flex gap-2 text-start text-ink hover:underline" onClick={() => put(one.cart)}>
                      <span aria-hidden className={`mt-1 size-2.5 shrink-0 rounded-bead border-[1.5px] border-ink ${one.applies ? "bg-yellow" : "border-dashed"}`} />
                      <span>
                        {one.label}
                        {one.applies ? <span className="sr-only">: applies</span> : <span className="block font-normal text-soft">{withNames(one.text, goods)}</span>}
                      </span>
                    </button>
                  </th>
                  <td className="n">{money(one.pays, frame)}</td>
                  <td className={`n ${one.kept < 0 ? "font-semibold text-loss-ink" : ""}`}>{money(one.kept, frame)}</td>
                  <td className="n">{money(one.kept - one.kept_today, frame, { signed: true })}</td>
                </tr>
              ))}
          </tbody>
        </table>
      ))}
    </div>
  );
}
