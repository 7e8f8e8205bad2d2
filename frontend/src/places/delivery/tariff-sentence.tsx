/** One tariff opened: its steps as a table, and the rest of what the carrier asks as a sentence. */
import type { Tariff, TariffOfShop } from "../../api/types";
import { count, kilograms, money, rate } from "../../pieces/figures";
import { SavedNumber } from "../../pieces/saved-number";
import { CarriesWords } from "./carries-word";
import { moment } from "./moment";
import { EditWord, KILOGRAMS, moneyBox, PERCENT, useChanges, useShop, Wrong } from "./saving";
import { Steps } from "./steps";

export function TariffSentence({ of: { tariff, source, fetched_at } }: { of: TariffOfShop }) {
  const { frame, save } = useShop();
  const change = useChanges();
  const box = moneyBox(frame);
  const put = (part: Partial<Tariff>) => void change.tariff({ ...tariff, ...part });
  const last = tariff.steps.at(-1);
  const open = last === undefined || last.upto !== null;
  return (
    <aside aria-label={`Tariff ${tariff.name}`} className="border-s-[1.5px] border-line ps-6">
      <h2 className="text-title">{tariff.name}</h2>
      <p className="text-small text-soft">
        {fetched_at ? `Fetched from ${source} on ${moment(fetched_at)}; a change you make here lasts until it is fetched again.` : "Written or brought in here, without tax that you get back."}
      </p>
      <p className="text-sentence mt-2">
        <EditWord title="Which carrier" text={tariff.carrier || "The carrier"}>
          <CarrierBox carrier={tariff.carrier} put={(carrier) => put({ carrier })} />
        </EditWord>{" "}
        asks by <EditWord title="What is weighed" text={tariff.divisor == null ? "weight alone" : `weight, or ${count(tariff.divisor)} cm³ as a kilogram where that is more`}>
          <SavedNumber showLabel scale={1} step={500} least={1} most={1_000_000} unit="cm³" label="Size billed as a kilogram" value={tariff.divisor} save={(divisor) => put({ divisor })} />
          <p className="mt-2 text-small text-soft">Length × width × height of the goods, in cm, divided by this. Leave it empty if size does not matter.</p>
        </EditWord>
        {open && (
          <>
            , beyond the last step{" "}
            <EditWord title="Beyond the last step" text={tariff.per_kilogram === null ? "takes nothing heavier" : `${money(tariff.per_kilogram, frame)} for each kilogram begun`}>
              <SavedNumber showLabel fine {...box} label="For each kilogram begun" value={tariff.per_kilogram} save={(per_kilogram) => put({ per_kilogram })} />
              <p className="mt-2 text-small text-soft">Leave it empty if the carrier takes no heavier parcel: an order is then split.</p>
            </EditWord>
          </>
        )}
        , with{" "}
        <EditWord title="Fuel surcharge" text={tariff.fuel_bp ? `${rate(tariff.fuel_bp)} for fuel` : "nothing for fuel"}>
          <SavedNumber showLabel mayBeEmpty={false} {...PERCENT} most={20_000} label="On top of steps and kilograms" value={tariff.fuel_bp} save={(fuel_bp) => fuel_bp !== null && put({ fuel_bp })} />
        </EditWord>{" "}
        and{" "}
        <EditWord title="Insurance" text={tariff.insurance_bp ? `${rate(tariff.insurance_bp)} of insured goods` : "nothing for insurance"}>
          <SavedNumber showLabel mayBeEmpty={false} {...PERCENT} step={10} label="Of the price of insured goods" value={tariff.insurance_bp} save={(insurance_bp) => insurance_bp !== null && put({ insurance_bp })} />
        </EditWord>
        . It takes <CarriesWords carries={tariff.carries} put={(carries) => put({ carries })} />.
      </p>
      <h3 className="mt-3 text-body">What a parcel costs</h3>
      <Steps
        label={`Parcels of ${tariff.name}`}
        before="up to"
        fine
        box={KILOGRAMS}
        steps={tariff.steps.map(({ upto, amount }) => ({ at: upto, amount }))}
        put={(steps) => put({ steps: steps.map(({ at, amount }) => ({ upto: at, amount })) })}
        next={(before) => ({ at: (before?.at ?? 0) + 1_000, amount: before?.amount ?? 0 })}
      />
      {tariff.carries.heaviest !== null && last?.upto != null && last.upto > tariff.carries.heaviest && (
        <p className="text-small text-soft">Steps over {kilograms(tariff.carries.heaviest)} are never reached.</p>
      )}
      <Wrong />
      <p className="mt-3">
        <button type="button" className="quiet text-small" onClick={() => void save({ path: `/tariffs?name=${encodeURIComponent(tariff.name)}`, method: "DELETE" })}>
          Take {tariff.name} away
        </button>
      </p>
    </aside>
  );
}

function CarrierBox({ carrier, put }: { carrier: string; put: (carrier: string) => void }) {
  return (
    <input
      autoFocus
      aria-label="Carrier"
      className="w-56"
      maxLength={80}
      defaultValue={carrier}
      onBlur={(event) => event.target.value.trim() !== carrier && put(event.target.value.trim())}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}
