/** What an option or a tariff can carry, as a word: the heaviest parcel, the longest side, goods it refuses. */
import type { Carries } from "../../api/types";
import { count, kilograms } from "../../pieces/figures";
import { SavedNumber } from "../../pieces/saved-number";
import { scopeInWords, ScopeWord } from "../../pieces/scope-word";
import { EditWord, KILOGRAMS, useShop } from "./saving";

const refusesSome = ({ refuses }: Carries): boolean => Object.values(refuses).some((list) => Array.isArray(list) && list.length > 0);

export function limitsInWords({ heaviest, longest }: Carries): string {
  const told = [heaviest != null ? `parcels up to ${kilograms(heaviest)}` : "parcels of any weight", ...(longest != null ? [`no side over ${count(longest / 10, 1)} cm`] : [])];
  return told.join(", ");
}

/** Two words: the limits of a parcel, and the goods that cannot go. */
export function CarriesWords({ carries, put }: { carries: Carries; put: (carries: Carries) => void }) {
  const { frame, goods } = useShop();
  return (
    <>
      <EditWord title="What a parcel may be" faint={carries.heaviest == null && carries.longest == null} text={limitsInWords(carries)}>
        <div className="flex gap-4">
          <SavedNumber showLabel {...KILOGRAMS} label="Heaviest, with packaging" value={carries.heaviest} save={(heaviest) => put({ ...carries, heaviest })} />
          <SavedNumber showLabel scale={10} step={100} least={1} most={100_000} unit="cm" width="5rem" label="Longest side" value={carries.longest} save={(longest) => put({ ...carries, longest })} />
        </div>
        <p className="mt-2 text-small text-soft">A heavier order goes in several equal parcels. Leave a box empty for no limit.</p>
      </EditWord>
      , and{" "}
      <ScopeWord
        title="Goods it cannot take"
        faint={!refusesSome(carries)}
        text={refusesSome(carries) ? `not ${scopeInWords(carries.refuses, goods)}` : "any goods"}
        scope={carries.refuses}
        frame={frame}
        goods={goods}
        onChange={(scope) => put({ ...carries, refuses: scope })}
      />
    </>
  );
}
