/** What sells together, each an idea for a set: one click writes the offer. */
import { useState } from "react";
import { useNavigate } from "react-router";

import { ask } from "../../api/client";
import { renewAll, useSoldTogether } from "../../api/queries";
import type { SavedPlan, SoldTogether } from "../../api/types";
import { count, soMany, listed } from "../../pieces/figures";
import { EACH_TIME, newOffer, newPlan, newTerms } from "../../pieces/new-parts";
import { useNotice } from "../../pieces/notice";
import { USUAL } from "../../pieces/mix-names";
import { useSettled } from "../../pieces/settled";
import type { Mix } from "./mixes";

type Idea = SoldTogether["found"][number];

/** What a set of them begins with. */
const OFF = 1_000;

export function Together({ mix }: { mix: Mix }) {
  const { first_day, last_day } = mix.days;
  const { data } = useSoldTogether(useSettled(mix.terms), first_day, last_day);
  const [busy, setBusy] = useState(false);
  const { fail } = useNotice();
  const go = useNavigate();
  if (!data) return <div className="mt-5 h-40" />;
  if (data.found.length === 0) return null;
  const write = async (idea: Idea) => {
    setBusy(true);
    try {
      const parts = idea.of.map((of) => ({ count: 1, of }));
      const price = { kind: "percent_off", percent_bp: OFF, with_delivery: false } as const;
      const set = newTerms([{ kind: "goods_set", parts, price, units_from: "dearest" }], { earned: EACH_TIME });
      const plan = { ...newPlan(`Set of ${listed(idea.products)}`.slice(0, 80), first_day, last_day, [newOffer(set)]), mix: mix.name === USUAL ? "" : mix.name };
      const saved = await ask<SavedPlan>("POST", "/plans", plan);
      await renewAll();
      await go(`/counting-board?plan=${saved.id}`);
    } catch (error) {
      fail(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <section aria-labelledby="together-title" className="mt-5">
      <h2 id="together-title" className="text-title">
        What sells together
      </h2>
      <ul className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(25rem,1fr))] gap-x-10 gap-y-1.5 text-small">
        {data.found.map((idea) => (
          <li key={idea.products.join("\n")} className="flex items-baseline gap-3">
            <span className="min-w-0 flex-1">
              <b>{listed(idea.products)}</b>
              <br />
              {soMany(idea.orders, "order", 1)}, {count(idea.lift, 1)} times as often as by chance
            </span>
            <button type="button" className="quiet" disabled={busy} onClick={() => void write(idea)}>
              Write a set<span className="sr-only"> of {listed(idea.products)}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
