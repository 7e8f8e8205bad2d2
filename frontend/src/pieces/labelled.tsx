/** A field under its label. */
import { useId, type ReactNode } from "react";

export function Labelled({ label, className, children }: { label: string; className?: string; children: (id: string) => ReactNode }) {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="block text-small text-soft">
        {label}
      </label>
      {children(id)}
    </div>
  );
}
