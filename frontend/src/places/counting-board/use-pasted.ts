/** Text that is pasted while nobody types into a box. */
import { useEffect, useRef } from "react";

export function usePasted(take: (text: string) => void) {
  const latest = useRef(take);
  latest.current = take;
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const writes = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement || (event.target instanceof HTMLElement && event.target.isContentEditable);
      const text = event.clipboardData?.getData("text/plain").trim();
      if (writes || !text || document.querySelector("[role=dialog],[role=menu]")) return;
      event.preventDefault();
      latest.current(text.replace(/\s+/g, " "));
    };
    document.addEventListener("paste", paste);
    return () => document.removeEventListener("paste", paste);
  }, []);
}
