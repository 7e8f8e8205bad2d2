/** Which tariffs an option goes by, and for which goods one of them is preferred. */
import type { DeliveryOption } from "../../api/types";
import { cash, kilograms, listed } from "../../pieces/figures";
import { changedAt } from "../../pieces/lists";
import { SavedNumber } from "../../pieces/saved-number";
import { EVERYTHING, scopeInWords, ScopeWord } from "../../pieces/scope-word";
import { Ticks } from "../../pieces/words";
import { EditWord, KILOGRAMS, moneyBox, useShop } from "./saving";

interface Props {
  option: DeliveryOption;
  put: (part: Partial<DeliveryOption>) => void;
}

export function TariffWords({ option, put }: Props) {
  const { frame, goods, delivery } = useShop();
  const names = delivery.tariffs.map((one) => one.tariff.name);
  const text = option.tariffs.length === 0 ? "no tariff yet, so it costs you nothing" : option.tariffs.length === 1 ? option.tariffs[0]! : `the cheapest of ${listed(option.tariffs)}`;
  const boundsInWords = ({ from_weight, from_value }: DeliveryOption["preferred"][number]) => {
    const bounds = [
      ...(from_weight == null ? [] : [`from ${kilograms(from_weight)} on`]),
      ...(from_value == null ? [] : [`worth ${cash(from_value, frame)} or more`]),
    ];
    return bounds.length ? bounds.join(" and ") : "of any weight and value";
  };
  const rule = (at: number, part: Partial<DeliveryOption["preferred"][number]>) => put({ preferred: changedAt(option.preferred, at, part) });
  return (
    <>
      <EditWord title="Which tariffs it goes by" text={text} width={420}>
        {names.length === 0 ? (
          <p>There is no tariff yet. Write, fetch or bring one in under Carriers’ tariffs.</p>
        ) : (
          <Ticks
            label="Tariffs"
            all={names}
            ticked={[...option.tariffs]}
            onChange={(tariffs) => put({ tariffs, preferred: option.preferred.filter((one) => tariffs.includes(one.tariff)) })}
          />
        )}
        <p className="mt-2 text-small text-soft">Of those that can carry an order, the cheapest serves, unless a preference below says otherwise.</p>
        {option.tariffs.length > 0 && (
          <button type="button" className="quiet mt-2 text-small" onClick={() => put({ preferred: [...option.preferred, { of: { ...EVERYTHING, categories: frame.categories.slice(0, 1) }, tariff: option.tariffs[0]!, from_weight: null, from_value: null }] })}>
            Add a preference
          </button>
        )}
      </EditWord>
      {option.preferred.map((one, n) => (
        <span key={n}>
          ; orders with{" "}
          <ScopeWord title="Orders with which goods" text={scopeInWords(one.of, goods)} scope={one.of} frame={frame} goods={goods} onChange={(of) => rule(n, { of })} />
          {", "}
          <EditWord title="From what weight and value on" text={boundsInWords(one)} faint={one.from_weight == null && one.from_value == null}>
            <div className="grid gap-2">
              <SavedNumber showLabel {...KILOGRAMS} label="From a weight of" value={one.from_weight} save={(from_weight) => rule(n, { from_weight })} />
              <SavedNumber showLabel {...moneyBox(frame)} step={frame.round_amount} least={1} most={2_000_000_000} label="From goods worth" value={one.from_value} save={(from_value) => rule(n, { from_value })} />
            </div>
            <p className="mt-2 text-small text-soft">A box left empty asks for nothing. What goods are worth is counted before offers.</p>
          </EditWord>{" "}
          go by{" "}
          <EditWord title="By which tariff" text={one.tariff}>
            <select aria-label="Preferred tariff" value={one.tariff} onChange={(event) => rule(n, { tariff: event.target.value })}>
              {option.tariffs.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
            <button type="button" className="quiet ms-3" onClick={() => put({ preferred: option.preferred.toSpliced(n, 1) })}>
              Take this off
            </button>
          </EditWord>
        </span>
      ))}
    </>
  );
}
