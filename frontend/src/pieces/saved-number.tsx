/** A number that is saved when its box is left or Enter is pressed; Escape gives the old one back. */
import { useEffect, useRef, useState, type KeyboardEvent } from "react";

import { NumberBox, type NumberBoxProps } from "./number-box";

type Props = Omit<NumberBoxProps, "onChange" | "onClear" | "hideLabel"> & {
  showLabel?: boolean;
  /** Whether the box may be emptied; then null is saved. */
  mayBeEmpty?: boolean;
  save: (value: number | null) => void;
};

export function SavedNumber({ value, save, showLabel = false, mayBeEmpty = true, ...box }: Props) {
  const [draft, setDraft] = useState(value);
  const latest = useRef(value);
  useEffect(() => {
    latest.current = value;
    setDraft(value);
  }, [value]);
  const done = () => {
    if (draft === latest.current) return;
    latest.current = draft;
    save(draft);
  };
  const key = (event: KeyboardEvent) => {
    if (event.key === "Enter") {
      event.preventDefault();
      done();
    }
    if (event.key === "Escape") setDraft(value);
  };
  return (
    <span onBlur={done} onKeyDown={key}>
      <NumberBox {...box} hideLabel={!showLabel} value={draft} onChange={setDraft} onClear={mayBeEmpty ? () => setDraft(null) : undefined} />
    </span>
  );
}
