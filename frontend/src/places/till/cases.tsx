/** Cases of a plan: carts kept with what they are to come to, rung up again at every change. */
import { useState } from "react";

import { ask } from "../../api/client";
import { keepPlan, queries } from "../../api/queries";
import type { Cart, Case, Frame, Outcome, SavedPlan } from "../../api/types";
import { useCases } from "../../pieces/cases-line";
import { listed, money } from "../../pieces/figures";
import { Labelled } from "../../pieces/labelled";
import { useNotice } from "../../pieces/notice";

interface CasesProps {
  saved: SavedPlan;
  cart: Cart;
  outcome: Outcome | undefined;
  frame: Frame;
  nameOf: (offer: string) => string;
  put: (cart: Cart) => void;
}

export function Cases({ saved, cart, outcome, frame, nameOf, put }: CasesProps) {
  const { plan } = saved;
  const { data } = useCases(plan, frame.data_version);
  const { fail } = useNotice();
  const [name, setName] = useState("");
  const keep = async (cases: Case[]) => {
    try {
      const answer = await ask<SavedPlan>("PUT", `/plans/${saved.id}`, { revision: saved.revision, plan: { ...plan, cases } });
      keepPlan(answer);
    } catch (error) {
      fail(error);
      void queries.invalidateQueries({ queryKey: ["plans"] });
    }
  };
  const applying = outcome?.reasons.filter((one) => one.reason === "applied").map((one) => one.offer) ?? [];
  const add = () => {
    if (!outcome) return;
    let called = name.trim() || "Case";
    for (let n = 2; plan.cases.some((one) => one.name === called); n += 1) called = `${name.trim() || "Case"} ${n}`;
    void keep([...plan.cases, { name: called, cart, pays: outcome.total, applies: applying }]);
    setName("");
  };
  return (
    <div className="grid gap-3">
      {plan.cases.length > 0 && (
        <ol className="grid gap-2.5">
          {plan.cases.map((one, at) => {
            const told = data?.cases[at];
            const otherwise = told && !told.holds;
            return (
              <li key={one.name} className="grid grid-cols-[16px_1fr] gap-x-2.5">
                <span aria-hidden className={`mt-1 size-3.5 rounded-bead border-[1.5px] border-ink ${otherwise ? "bg-loss" : "bg-ink"}`} />
                <div>
                  <button type="button" className="text-start font-semibold hover:underline" onClick={() => put(one.cart)}>
                    {one.name}
                  </button>{" "}
                  <span className="text-small text-soft">
                    pays {money(one.pays, frame)}, {one.applies.length ? listed(one.applies.map(nameOf)) : "no offer applies"}
                  </span>
                  {otherwise && <p className="text-small text-loss-ink">It comes out otherwise: {told.says}.</p>}
                  <p className="flex gap-3 text-small">
                    {otherwise && told.pays !== null && (
                      <button type="button" className="quiet" onClick={() => void keep(plan.cases.with(at, { ...one, pays: told.pays!, applies: told.applies }))}>
                        Expect that from now on
                      </button>
                    )}
                    <button type="button" className="quiet" aria-label={`Let go of ${one.name}`} onClick={() => void keep(plan.cases.toSpliced(at, 1))}>
                      Let go
                    </button>
                  </p>
                </div>
              </li>
            );
          })}
        </ol>
      )}
      {saved.id > 0 && cart.lines.length > 0 ? (
        <form
          className="flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            add();
          }}
        >
          <Labelled label="Keep this cart as a case, to come out as it does now" className="min-w-0 flex-1">
            {(id) => <input id={id} className="w-full" maxLength={70} placeholder="Just over the step" value={name} onChange={(event) => setName(event.target.value)} />}
          </Labelled>
          <button type="submit" className="press" disabled={!outcome}>
            Keep
          </button>
        </form>
      ) : (
        <p className="text-soft">Ring up a cart, and keep it here with what it comes to: you are told when a change of the plan alters it.</p>
      )}
    </div>
  );
}
