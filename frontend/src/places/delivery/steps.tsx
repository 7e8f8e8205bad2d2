/** A row for each step of a charge or tariff: where it stands, and the amount there. */
import { changedAt } from "../../pieces/lists";
import { SavedNumber } from "../../pieces/saved-number";
import { moneyBox, useShop } from "./saving";

export interface Step {
  at: number | null;
  amount: number;
}

interface StepsProps {
  label: string;
  /** Before the first box of a row: "up to", "from". */
  before: string;
  box: { scale: number; step: number; least: number; most: number; unit: string; digits?: number; width: string };
  steps: Step[];
  /** Costs may have parts of a minor unit. */
  fine?: boolean;
  put: (steps: Step[]) => void;
  /** Where a further step would stand. */
  next: (last: Step | undefined) => Step;
}

export function Steps({ label, before, box, steps, fine = false, put, next }: StepsProps) {
  const { frame } = useShop();
  const change = (at: number, part: Partial<Step>) => put(changedAt(steps, at, part));
  return (
    <div role="group" aria-label={label} className="mt-2 grid gap-1">
      {steps.map((step, n) => (
        <div key={n} className="flex flex-wrap items-baseline gap-x-2">
          <span className="w-12 text-small text-soft">{before}</span>
          {step.at === null ? (
            <span className="w-24">any weight</span>
          ) : (
            <SavedNumber {...box} label={`${label}, step ${n + 1}: ${before}`} mayBeEmpty={false} value={step.at} save={(at) => at !== null && change(n, { at })} />
          )}
          <SavedNumber {...moneyBox(frame)} fine={fine} mayBeEmpty={false} label={`${label}, step ${n + 1}: amount`} value={step.amount} save={(amount) => amount !== null && change(n, { amount })} />
          <button type="button" className="quiet text-small" onClick={() => put(steps.toSpliced(n, 1))}>
            take off<span className="sr-only"> step {n + 1}</span>
          </button>
        </div>
      ))}
      {steps.at(-1)?.at !== null && (
        <button type="button" className="quiet justify-self-start text-small" onClick={() => put([...steps, next(steps.at(-1))])}>
          Add a step
        </button>
      )}
    </div>
  );
}
