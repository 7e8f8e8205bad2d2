/** Short messages at the foot of the page: what was done, or what went wrong and how to mend it. */
import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from "react";

import { ApiError } from "../api/client";

interface Notice {
  say: (text: string) => void;
  fail: (error: unknown) => void;
}

const Context = createContext<Notice | null>(null);

export function useNotice(): Notice {
  const notice = useContext(Context);
  if (!notice) throw new Error("useNotice needs NoticeProvider");
  return notice;
}

export function NoticeProvider({ children }: { children: ReactNode }) {
  const [told, setTold] = useState<{ text: string; bad: boolean; at: number } | null>(null);
  const say = useCallback((text: string) => setTold({ text, bad: false, at: Date.now() }), []);
  const fail = useCallback((error: unknown) => {
    const text = error instanceof ApiError ? error.message : "Something went wrong in this page. Load it again.";
    setTold({ text, bad: true, at: Date.now() });
  }, []);
  useEffect(() => {
    if (!told || told.bad) return;
    const timer = setTimeout(() => setTold(null), 5000);
    return () => clearTimeout(timer);
  }, [told]);
  const notice = useMemo(() => ({ say, fail }), [say, fail]);
  return (
    <Context.Provider value={notice}>
      {children}
      <div aria-live="polite" role="status" className="fixed bottom-4 left-1/2 z-50 -translate-x-1/2">
        {told && (
          <div className={`slip flex max-w-xl items-start gap-4 py-2 ${told.bad ? "border-loss" : ""}`}>
            <span>{told.text}</span>
            <button type="button" className="quiet" onClick={() => setTold(null)}>
              Close
            </button>
          </div>
        )}
      </div>
    </Context.Provider>
  );
}
