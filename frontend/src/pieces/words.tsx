/** Words of a sentence that can be set, and what their editors are made of. */
import { RadioGroup } from "radix-ui";
import { type ComponentProps, type KeyboardEvent, type ReactNode } from "react";

import type { FieldProblem } from "../api/types";
import { Labelled } from "./labelled";
import { Slip } from "./slip";

/** What is wrong at a place of a sentence; `path` leads to it, so that the word that stands for it can be found. */
export type Spot = FieldProblem[] & { path?: string };

export const spot = (path: string, problems: FieldProblem[]): Spot => Object.assign(problems, { path });

interface WordProps extends ComponentProps<"span"> {
  unsound?: Spot;
  /** It says nothing in particular yet, and stands back. */
  faint?: boolean;
}

/** Words of so many letters keep to one line, so that no figure is torn from what it counts. */
const LONGEST_UNBROKEN = 14;

/** A button that breaks across lines as words do, which the element of that name cannot. */
export function Word({ unsound = [], faint = false, children, onKeyDown, ...rest }: WordProps) {
  const press = (event: KeyboardEvent<HTMLSpanElement>) => {
    onKeyDown?.(event);
    if (event.defaultPrevented || (event.key !== "Enter" && event.key !== " ")) return;
    event.preventDefault();
    event.currentTarget.click();
  };
  const short = typeof children === "string" && children.length <= LONGEST_UNBROKEN;
  return (
    <span role="button" tabIndex={0} className={`${faint ? "quiet cursor-pointer" : "word"} ${short ? "whitespace-nowrap" : ""}`} data-unsound={unsound.length > 0} data-spot={unsound.path} {...rest} onKeyDown={press}>
      {children}
    </span>
  );
}

export function Faults({ of }: { of: FieldProblem[] }) {
  return of.map((one) => (
    <p key={one.pointer + one.message} role="alert" className="mt-2 text-small text-loss-ink">
      {one.message} {one.mend}
    </p>
  ));
}

export function Choices<Value extends string>({
  label,
  value,
  options,
  onChange,
  inRow = false,
}: {
  label: string;
  value: Value;
  options: readonly (readonly [Value, string])[];
  onChange: (value: Value) => void;
  inRow?: boolean;
}) {
  return (
    <RadioGroup.Root aria-label={label} value={value} onValueChange={(next) => onChange(next as Value)} className={inRow ? "flex gap-1" : "grid gap-0.5"}>
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

export function Ticks({ label, all, ticked, onChange, shown = false }: { label: string; all: string[]; ticked: string[]; onChange: (names: string[]) => void; shown?: boolean }) {
  return (
    <fieldset className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(7.4rem,1fr))] gap-0.5">
      <legend className={shown ? "text-small text-soft" : "sr-only"}>{label}</legend>
      {all.map((name) => (
        <label key={name} className="choice flex items-center gap-2.5">
          <input
            type="checkbox"
            checked={ticked.includes(name)}
            onChange={(event) => onChange(all.filter((one) => (one === name ? event.target.checked : ticked.includes(one))))}
          />
          {name}
        </label>
      ))}
    </fieldset>
  );
}

/** For each name: it does not matter, only with it, or not with it. */
export function InOut({ label, all, wanted, unwanted, onChange }: { label: string; all: string[]; wanted: string[]; unwanted: string[]; onChange: (wanted: string[], unwanted: string[]) => void }) {
  const names = [...new Set([...all, ...wanted, ...unwanted])];
  if (names.length === 0) return null;
  const without = (list: string[], name: string) => list.filter((one) => one !== name);
  return (
    <fieldset className="mt-2 grid gap-1">
      <legend className="text-small text-soft">{label}</legend>
      {names.map((name) => (
        <label key={name} className="flex items-center justify-between gap-3 ps-2">
          {name}
          <select
            aria-label={`${label}: ${name}`}
            value={wanted.includes(name) ? "in" : unwanted.includes(name) ? "out" : "any"}
            onChange={({ target: { value } }) =>
              onChange(
                value === "in" ? [...without(wanted, name), name] : without(wanted, name),
                value === "out" ? [...without(unwanted, name), name] : without(unwanted, name),
              )
            }
          >
            <option value="any">in or out</option>
            <option value="in">only these</option>
            <option value="out">not these</option>
          </select>
        </label>
      ))}
    </fieldset>
  );
}

export function DayBox({ label, value, onChange }: { label: string; value: string; onChange: (day: string) => void }) {
  return <Labelled label={label}>{(id) => <input id={id} type="date" value={value} onChange={(event) => onChange(event.target.value)} />}</Labelled>;
}

/** A time of day in minutes; null where none is set. */
export function TimeBox({ label, value, onChange }: { label: string; value: number | null; onChange: (minute: number | null) => void }) {
  const shown = value === null ? "" : `${String(Math.floor((value % 1440) / 60)).padStart(2, "0")}:${String(value % 60).padStart(2, "0")}`;
  return (
    <Labelled label={label}>
      {(id) => (
        <input
          id={id}
          type="time"
          value={shown}
          onChange={({ target }) => {
            const [hour, minute] = target.value.split(":").map(Number);
            onChange(target.value ? hour! * 60 + minute! : null);
          }}
        />
      )}
    </Labelled>
  );
}

/** A clause that opens a slip and can be taken off the sentence. */
interface ClauseProps {
  title: string;
  text: string;
  unsound: FieldProblem[];
  drop?: () => void;
  width?: number;
  /** A tall slip stands beside the sentence, so that the answer stays in sight. */
  tall?: boolean;
  onOpenChange?: (open: boolean) => void;
  children: ReactNode;
}

export function ClauseWord({ title, text, unsound, drop, width, tall = false, onOpenChange, children }: ClauseProps) {
  return (
    <Slip title={title} width={width} side={tall ? "right" : "bottom"} onOpenChange={onOpenChange} trigger={<Word unsound={unsound}>{text}</Word>}>
      {children}
      {drop && (
        <button type="button" className="quiet mt-2" onClick={drop}>
          Take this off the offer
        </button>
      )}
      <Faults of={unsound} />
    </Slip>
  );
}
