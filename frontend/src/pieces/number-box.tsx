/** A box for a number kept in hundredths (minor units, basis points): typed with any decimal mark, nudged by arrows. */
import { useEffect, useId, useState, type KeyboardEvent } from "react";

export interface NumberBoxProps {
  label: string;
  value: number | null;
  /** Hundredths in one unit shown: 100 for money with cents and for percentages. */
  scale: number;
  step: number;
  least: number;
  most: number;
  unit?: string;
  /** Decimals always shown where there are any; 2 for money with cents. */
  digits?: number;
  /** Whole amounts show their decimals too, so that a column of boxes aligns. */
  aligned?: boolean;
  /** Costs may have parts of a minor unit; what shoppers see may not. */
  fine?: boolean;
  onChange: (value: number) => void;
  /** Called when the box is emptied; without it an empty box is an error. */
  onClear?: () => void;
  autoFocus?: boolean;
  hideLabel?: boolean;
  /** Buttons to nudge it by mouse. */
  buttons?: boolean;
  width?: string;
}

/** As people write it: whole numbers bare, amounts with all their minor digits. */
function shown(value: number | null, scale: number, digits: number, aligned = false): string {
  if (value === null) return "";
  if (aligned && Number.isInteger((value / scale) * 10 ** digits)) return (value / scale).toFixed(digits);
  const bare = String(Number((value / scale).toFixed(4)));
  return bare.includes(".") && (bare.split(".")[1]?.length ?? 0) < digits ? (value / scale).toFixed(digits) : bare;
}

export function parseNumber(text: string, scale: number): number | null {
  const bare = text.replace(/[^\d.,-]/g, "").replace(",", ".");
  if (!/^-?\d+(\.\d*)?$/.test(bare)) return null;
  return Math.round(Number(bare) * scale * 1e4) / 1e4;
}

/** Where an arrow key takes a number; null for any other key. */
export function nudged(event: KeyboardEvent, value: number, { step, least, most }: Bounds): number | null {
  const way = { ArrowUp: 1, ArrowDown: -1 }[event.key];
  if (way === undefined || event.altKey || event.ctrlKey) return null;
  return stepped(value, way > 0 ? 1 : -1, event.shiftKey ? 10 : 1, { step, least, most });
}

interface Bounds {
  step: number;
  least: number;
  most: number;
}

/** The next whole multiple of the step (`by` times it) in that direction. */
function stepped(value: number, way: 1 | -1, by: number, { step, least, most }: Bounds): number {
  const size = step * by;
  const next = way > 0 ? Math.floor(value / size + 1e-9) * size + size : Math.ceil(value / size - 1e-9) * size - size;
  return Math.max(least, Math.min(most, next));
}

export function NumberBox(props: NumberBoxProps) {
  const { label, value, scale, step, least, most, unit, onChange, onClear, autoFocus, hideLabel, buttons, aligned = false, digits = 0, fine = false, width = "6.5rem" } = props;
  const id = useId();
  const [text, setText] = useState(shown(value, scale, digits, aligned));
  const [fault, setFault] = useState("");

  useEffect(() => {
    setText((before) => (parseNumber(before, scale) === value ? before : shown(value, scale, digits, aligned)));
    setFault("");
  }, [value, scale, digits, aligned]);

  const typed = (next: string) => {
    setText(next);
    if (!next.trim() && onClear) {
      setFault("");
      onClear();
      return;
    }
    const parsed = parseNumber(next, scale);
    if (parsed === null) setFault("Write a number, like 65 or 65.50.");
    else if (!fine && !Number.isInteger(parsed)) setFault("Write fewer decimals.");
    else if (parsed < least) setFault(`Write ${shown(least, scale, digits)} or more.`);
    else if (parsed > most) setFault(`Write ${shown(most, scale, digits)} or less.`);
    else {
      setFault("");
      onChange(parsed);
    }
  };

  const nudge = (way: 1 | -1) => {
    const from = value ?? least;
    setFault("");
    onChange(stepped(from, way, 1, { step, least, most }));
  };

  return (
    <div>
      <label htmlFor={id} className={hideLabel ? "sr-only" : "block text-small text-soft"}>
        {label}
      </label>
      <span className="inline-flex items-baseline gap-1.5">
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          style={{ width }}
          className="text-end"
          value={text}
          autoFocus={autoFocus}
          aria-invalid={fault !== ""}
          aria-describedby={fault ? `${id}-fault` : undefined}
          onFocus={(event) => event.target.select()}
          onChange={(event) => typed(event.target.value)}
          onKeyDown={(event) => {
            const next = nudged(event, value ?? least, { step, least, most });
            if (next === null) return;
            event.preventDefault();
            setFault("");
            onChange(next);
          }}
        />
        {unit}
        {buttons && (
          <span className="ms-1 inline-flex gap-1 self-center">
            {([-1, 1] as const).map((way) => (
              <button
                key={way}
                type="button"
                aria-label={`${label}: one step ${way > 0 ? "more" : "less"}`}
                className="flex size-7 items-center justify-center rounded-bead border-[1.5px] border-ink bg-sheet font-bold hover:bg-line"
                onClick={() => nudge(way)}
              >
                {way > 0 ? "+" : "−"}
              </button>
            ))}
          </span>
        )}
      </span>
      {fault && (
        <p id={`${id}-fault`} role="alert" className="text-small text-loss-ink">
          {fault}
        </p>
      )}
    </div>
  );
}
