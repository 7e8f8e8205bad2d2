/** A way to choose a file that shows nothing of itself: whoever holds `ref` opens it. */
import type { RefObject } from "react";

interface FileChoiceProps {
  ref: RefObject<HTMLInputElement | null>;
  label: string;
  accept: string;
  take: (file: File) => void;
}

export function FileChoice({ ref, label, accept, take }: FileChoiceProps) {
  return (
    <input
      ref={ref}
      type="file"
      accept={accept}
      aria-label={label}
      className="sr-only"
      tabIndex={-1}
      onChange={(event) => {
        const [chosen] = event.target.files ?? [];
        event.target.value = "";
        if (chosen) take(chosen);
      }}
    />
  );
}
