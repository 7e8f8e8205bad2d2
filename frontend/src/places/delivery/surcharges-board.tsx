/** Surcharges: each a sentence, as offers are. */
import type { Surcharge } from "../../api/types";
import { replaced } from "../../pieces/lists";
import { NOTHING_NEEDED } from "../../pieces/measures";
import { NewName } from "./new-name";
import { useChanges, useShop, Wrong } from "./saving";
import { SurchargeSentence } from "./surcharge-sentence";
import { EVERYTHING } from "../../pieces/scope-word";
import { ANYBODY, ANYWHERE } from "../../pieces/who-where";

export function SurchargesBoard() {
  const { frame, delivery } = useShop();
  const change = useChanges();
  const all = delivery.surcharges;
  const fresh = (name: string): Surcharge => ({
    name,
    asks: { kind: "amount", amount: frame.round_amount, counted: "order" },
    of: EVERYTHING,
    chosen_bp: null,
    earned: NOTHING_NEEDED,
    who: ANYBODY,
    where: ANYWHERE,
    tax_class: null,
  });
  return (
    <section aria-label="Surcharges" className="max-w-4xl">
      {all.length === 0 && (
        <p className="pb-3">
          Nothing is asked beside goods and delivery. A surcharge may be for small orders, for gift wrap, for a heavy piece.{" "}
          <a className="quiet" href="/api/templates/surcharges.xlsx" download>
            Template
          </a>
        </p>
      )}
      <ul>
        {all.map((one, at) => (
          <li key={one.name} className="border-t border-line py-3">
            <SurchargeSentence surcharge={one} put={(next) => change.surcharges(replaced(all, at, next))} drop={() => void change.surcharges(all.toSpliced(at, 1))} />
          </li>
        ))}
      </ul>
      <p className="border-t border-line pt-3">
        <NewName title="What is it for?" button="Ask for something more" taken={all.map((one) => one.name)} make={(name) => void change.surcharges([...all, fresh(name)])} />
      </p>
      <Wrong />
    </section>
  );
}
