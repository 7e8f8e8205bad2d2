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
  onChange: (value: number) => void;
  /** Called when the box is emptied; without it an empty box is an error. */
  onClear?: () => void;
  autoFocus?: boolean;
  hideLabel?: boolean;
  width?: string;
}

/** As people write it: whole numbers bare, amounts with all their minor digits. */
function shown(value: number | null, scale: number, digits: number): string {
  if (value === null) return "";
  const bare = String(Number((value / scale).toFixed(4)));
  return bare.includes(".") && (bare.split(".")[1]?.length ?? 0) < digits ? (value / scale).toFixed(digits) : bare;
}

export function parseNumber(text: string, scale: number): number | null {
  const bare = text.replace(/[^\d.,-]/g, "").replace(",", ".");
  if (!/^-?\d+(\.\d*)?$/.test(bare)) return null;
  return Math.round(Number(bare) * scale * 1e4) / 1e4;
}

/** Where an arrow key takes a number; null for any other key. */
export function nudged(event: KeyboardEvent, value: number, { step, least, most }: { step: number; least: number; most: number }): number | null {
  const way = { ArrowUp: 1, ArrowDown: -1 }[event.key];
  if (way === undefined || event.altKey || event.ctrlKey) return null;
  const size = step * (event.shiftKey ? 10 : 1);
  const next = way > 0 ? Math.floor(value / size + 1e-9) * size + size : Math.ceil(value / size - 1e-9) * size - size;
  return Math.max(least, Math.min(most, next));
}

export function NumberBox(props: NumberBoxProps) {
  const { label, value, scale, step, least, most, unit, onChange, onClear, autoFocus, hideLabel, digits = 0, width = "6.5rem" } = props;
  const id = useId();
  const [text, setText] = useState(shown(value, scale, digits));
  const [fault, setFault] = useState("");

  useEffect(() => {
    setText((before) => (parseNumber(before, scale) === value ? before : shown(value, scale, digits)));
    setFault("");
  }, [value, scale, digits]);

  const typed = (next: string) => {
    setText(next);
    if (!next.trim() && onClear) {
      setFault("");
      onClear();
      return;
    }
    const parsed = parseNumber(next, scale);
    if (parsed === null) setFault("Write a number, like 65 or 65.50.");
    else if (parsed < least) setFault(`Write ${shown(least, scale, digits)} or more.`);
    else if (parsed > most) setFault(`Write ${shown(most, scale, digits)} or less.`);
    else {
      setFault("");
      onChange(parsed);
    }
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
      </span>
      {fault && (
        <p id={`${id}-fault`} role="alert" className="text-small text-loss-ink">
          {fault}
        </p>
      )}
    </div>
  );
}
