/** A way to choose a file that shows nothing of itself: whoever holds `ref` opens it. */
import type { RefObject } from "react";

interface FileChoiceProps {
  ref: RefObject<HTMLInputElement | null>;
  label: string;
  accept: string;
  /** Whether several may be chosen together. */
  several?: boolean;
  take: (file: File, all: File[]) => void;
}

export function FileChoice({ ref, label, accept, several, take }: FileChoiceProps) {
  return (
    <input
      ref={ref}
      type="file"
      accept={accept}
      multiple={several}
      aria-label={label}
      className="sr-only"
      tabIndex={-1}
      onChange={(event) => {
        const all = [...(event.target.files ?? [])];
        event.target.value = "";
        if (all[0]) take(all[0], all);
      }}
    />
  );
}
