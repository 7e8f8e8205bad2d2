/** The words of a sentence that can be set. Each opens its editor right where it stands. */
import { RadioGroup } from "radix-ui";
import { useId, type ComponentProps, type KeyboardEvent, type ReactNode } from "react";

import type { FieldProblem, Plan } from "../../api/types";
import { days, listed, type Currency } from "../../pieces/figures";
import { NumberBox, nudged } from "../../pieces/number-box";
import { Slip } from "../../pieces/slip";
import { NumberCurve } from "./curve";
import { makeUpCode } from "./offers";

interface WordProps extends ComponentProps<"button"> {
  unsound?: FieldProblem[];
}

export function Word({ unsound = [], children, ...rest }: WordProps) {
  return (
    <button type="button" className="word" data-unsound={unsound.length > 0} {...rest}>
      {children}
    </button>
  );
}

export function Faults({ of }: { of: FieldProblem[] }) {
  return of.map((one) => (
    <p key={one.pointer + one.message} role="alert" className="mt-2 text-small text-loss-ink">
      {one.message} {one.mend}
    </p>
  ));
}

interface Figure {
  label: string;
  value: number;
  scale: number;
  step: number;
  least: number;
  most: number;
  unit: string;
  digits?: number;
  tell: (value: number) => string;
  set: (value: number) => void;
  withValue: (value: number) => Plan;
}

/** A word with a number in it: arrows nudge it where it stands; open, it has a box and a curve. */
export function NumberWord({
  title,
  children,
  figure,
  unsound = [],
  currency,
  more,
}: {
  title: string;
  children: ReactNode;
  figure: Figure | null;
  unsound?: FieldProblem[];
  currency: Currency;
  more?: ReactNode;
}) {
  const nudge = (event: KeyboardEvent) => {
    const next = figure && nudged(event, figure.value, figure);
    if (next === null || next === undefined) return;
    event.preventDefault();
    figure?.set(next);
  };
  return (
    <Slip
      title={title}
      trigger={
        <Word unsound={unsound} onKeyDown={nudge}>
          {children}
        </Word>
      }
    >
      {figure && (
        <>
          <NumberBox {...figure} onChange={figure.set} autoFocus buttons />
          <NumberCurve {...figure} take={figure.set} currency={currency} />
        </>
      )}
      {more}
      <Faults of={unsound} />
    </Slip>
  );
}

export function Choices<Value extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: Value;
  options: readonly (readonly [Value, string])[];
  onChange: (value: Value) => void;
}) {
  return (
    <RadioGroup.Root aria-label={label} value={value} onValueChange={(next) => onChange(next as Value)} className="grid gap-0.5">
      {options.map(([key, words]) => (
        <RadioGroup.Item key={key} value={key} className="choice flex items-center gap-2.5 text-start">
          <span aria-hidden className="flex size-4 shrink-0 items-center justify-center rounded-bead border-[1.5px] border-ink bg-sheet">
            <RadioGroup.Indicator className="size-2 rounded-bead bg-ink" />
          </span>
          {words}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}

export function Ticks({ label, all, ticked, onChange }: { label: string; all: string[]; ticked: string[]; onChange: (names: string[]) => void }) {
  return (
    <fieldset className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(8.5rem,1fr))] gap-0.5">
      <legend className="sr-only">{label}</legend>
      {all.map((name) => (
        <label key={name} className="choice flex items-center gap-2.5">
          <input
            type="checkbox"
            checked={ticked.includes(name)}
            onChange={(event) =>
              onChange(all.filter((one) => (one === name ? event.target.checked : ticked.includes(one))))
            }
          />
          {name}
        </label>
      ))}
    </fieldset>
  );
}

export function ZonesWord({ zones, all, onChange, unsound }: { zones: string[]; all: string[]; onChange: (zones: string[]) => void; unsound: FieldProblem[] }) {
  const everywhere = zones.length === 0;
  return (
    <Slip title="To which zones" width={260} trigger={<Word unsound={unsound}>{everywhere ? "everywhere" : listed(zones)}</Word>}>
      <Choices
        label="Zones"
        value={everywhere ? "all" : "some"}
        onChange={(mode) => onChange(mode === "all" ? [] : all.slice(0, 1))}
        options={[
          ["all", "Everywhere"],
          ["some", "Only to"],
        ]}
      />
      {!everywhere && <Ticks label="Zones" all={all} ticked={zones} onChange={(names) => names.length && onChange(names)} />}
      <Faults of={unsound} />
    </Slip>
  );
}

export function GivenWord({ given, onChange, unsound }: { given: { by: "itself" | "code"; code: string }; onChange: (given: { by: "itself" | "code"; code: string }) => void; unsound: FieldProblem[] }) {
  const id = useId();
  return (
    <Slip
      title="How it is given"
      trigger={<Word unsound={unsound}>{given.by === "itself" ? "without a code" : `with the code ${given.code || "…"}`}</Word>}
    >
      <Choices
        label="How it is given"
        value={given.by}
        onChange={(by) => onChange({ by, code: by === "code" && !given.code ? makeUpCode() : given.code })}
        options={[
          ["itself", "Without a code, to every cart that earns it"],
          ["code", "To shoppers who type a code"],
        ]}
      />
      {given.by === "code" && (
        <div className="mt-2 flex items-end gap-3">
          <div>
            <label htmlFor={id} className="block text-small text-soft">
              Code
            </label>
            <input
              id={id}
              className="w-40 uppercase"
              value={given.code}
              maxLength={24}
              autoComplete="off"
              aria-invalid={unsound.length > 0}
              onChange={(event) => onChange({ by: "code", code: event.target.value.trim().toUpperCase() })}
            />
          </div>
          <button type="button" className="quiet pb-1" onClick={() => onChange({ by: "code", code: makeUpCode() })}>
            Make one up
          </button>
        </div>
      )}
      <Faults of={unsound} />
    </Slip>
  );
}

interface Span {
  first_day: string | null;
  last_day: string | null;
}

function spanInWords({ first_day: first, last_day: last }: Span): string {
  if (first && last) return days(first, last, false);
  if (first) return `from ${days(first, first, false)}`;
  if (last) return `until ${days(last, last, false)}`;
  return "while the plan runs";
}

export function DayBox({ label, value, onChange }: { label: string; value: string; onChange: (day: string) => void }) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-small text-soft">
        {label}
      </label>
      <input id={id} type="date" value={value} onChange={(event) => onChange(event.target.value)} />
    </div>
  );
}

export function WhenWord({ when, plan, onChange, unsound }: { when: Span; plan: Plan; onChange: (when: Span) => void; unsound: FieldProblem[] }) {
  const own = when.first_day !== null || when.last_day !== null;
  return (
    <Slip title="When it is open" trigger={<Word unsound={unsound}>{spanInWords(when)}</Word>} width={340}>
      <Choices
        label="When"
        value={own ? "own" : "plan"}
        onChange={(mode) =>
          onChange(
            mode === "own"
              ? { first_day: plan.first_day, last_day: plan.last_day }
              : { first_day: null, last_day: null },
          )
        }
        options={[
          ["plan", `While the plan runs, ${days(plan.first_day, plan.last_day, false)}`],
          ["own", "On days of its own"],
        ]}
      />
      {own && (
        <div className="mt-2 flex gap-3">
          <DayBox label="First day" value={when.first_day ?? ""} onChange={(day) => onChange({ ...when, first_day: day || null })} />
          <DayBox label="Last day" value={when.last_day ?? ""} onChange={(day) => onChange({ ...when, last_day: day || null })} />
        </div>
      )}
      <Faults of={unsound} />
    </Slip>
  );
}
