/** A word of an offer with a number in it, and the curve of profit over the values it could have. */
import { useEffect, useId, useState, type ReactNode } from "react";

import type { FieldProblem } from "../api/types";
import type { Currency } from "../pieces/figures";
import { NumberWord as Plain } from "../pieces/number-word";
import { NumberCurve } from "./curve";
import { useNumbers } from "./map-of-two";
import type { Figure } from "./part";

interface Props {
  title: string;
  children: ReactNode;
  figure: Figure | null;
  unsound?: FieldProblem[];
  currency: Currency;
  more?: ReactNode;
}

export function NumberWord({ currency, ...props }: Props) {
  const { title, figure } = props;
  const id = useId();
  const numbers = useNumbers();
  useEffect(() => {
    if (!figure) return;
    numbers.known.set(id, { title, figure });
    return () => void numbers.known.delete(id);
  }, [numbers, id, title, figure]);
  return <Plain {...props} beside={figure && <Beside id={id} figure={figure} currency={currency} />} />;
}

/** What stands beside the number while its word is open. */
function Beside({ id, figure, currency }: { id: string; figure: Figure; currency: Currency }) {
  const numbers = useNumbers();
  const [leaving, setLeaving] = useState(false);
  // The curve here stops asking before the field asks, which closes the word.
  const leave = () => {
    setLeaving(true);
    setTimeout(() => numbers.open(id), 0);
  };
  return (
    <>
      {!leaving && <NumberCurve {...figure} take={figure.set} currency={currency} />}
      {numbers.known.size > 1 && (
        <button type="button" className="quiet justify-self-start text-small" onClick={leave}>
          Beside another number…
        </button>
      )}
    </>
  );
}
