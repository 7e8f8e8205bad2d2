/** The headings of a table's columns, in one row. */
import type { ReactNode } from "react";

export function Headings({ children }: { children: ReactNode }) {
  return (
    <thead>
      <tr>{children}</tr>
    </thead>
  );
}

/** n: above figures, set like them. unseen: told to who does not see what stands below. */
export function Heading({ n = false, unseen = false, className = "", children }: { n?: boolean; unseen?: boolean; className?: string; children: ReactNode }) {
  return (
    <th scope="col" className={`${n ? "n" : ""} ${className}`.trim() || undefined}>
      {unseen ? <span className="sr-only">{children}</span> : children}
    </th>
  );
}
