/** Keys that work anywhere, and the list of all of them. Whoever listens to a key says what it does. */
import { Dialog } from "radix-ui";
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, useSyncExternalStore, type ReactNode } from "react";
import { flushSync } from "react-dom";
import { useNavigate } from "react-router";

import { takeBackInTurn } from "../api/saving";
import { useNotice } from "./notice";

/** Says whether the place took the change back itself. */
type BeforeUndo = () => Promise<boolean>;

interface Keys {
  openKeys: () => void;
  /** Something a place has to finish before an undo, such as saving what was just typed. */
  beforeUndo: { current: BeforeUndo | null };
  takeBack: (way: "undo" | "redo") => Promise<void>;
}

const Context = createContext<Keys | null>(null);

export function useKeys(): Keys {
  const keys = useContext(Context);
  if (!keys) throw new Error("useKeys needs KeysProvider");
  return keys;
}

const writes = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLInputElement && !["checkbox", "radio", "file", "button"].includes(target.type)));

type Line = readonly [key: string, does: string];

/** What works where we are, told by those who listen. */
let told: readonly Line[] = [];
const listeners = new Set<() => void>();

function tell(next: readonly Line[]) {
  told = next;
  listeners.forEach((listener) => listener());
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** List keys for as long as the caller is on screen. `lines` must stay the same object. */
export function useListedKeys(lines: readonly Line[]) {
  useEffect(() => {
    tell([...told, ...lines]);
    return () => tell(told.filter((line) => !lines.includes(line)));
  }, [lines]);
}

/**
 * Call `act` on a plain key, unless somebody is typing or a dialog is open; what it opens is on screen, and has the
 * focus, before the next key comes. does: as the list of keys tells it.
 */
export function useKey(key: string, does: string, act: () => void) {
  const latest = useRef(act);
  latest.current = act;
  useListedKeys(useMemo(() => [[key, does]], [key, does]));
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key !== key || event.ctrlKey || event.metaKey || event.altKey || writes(event.target)) return;
      if (document.querySelector("[role=dialog],[role=menu]")) return;
      event.preventDefault();
      flushSync(() => latest.current());
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [key]);
}

const FIRST: Line[] = [["1 to 7", "go to a place"]];
const LAST: Line[] = [
  ["Ctrl Z", "undo any change"],
  ["Ctrl Shift Z", "make it again"],
  ["Esc", "close what is open"],
  ["?", "this list"],
];

/** places: where the keys 1 to 7 go, in order. */
export function KeysProvider({ places, children }: { places: readonly { path: string }[]; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  const { say, fail } = useNotice();
  const beforeUndo = useRef<BeforeUndo | null>(null);
  const openKeys = useCallback(() => setOpen(true), []);

  const takeBack = useCallback(
    async (way: "undo" | "redo") => {
      try {
        if (await beforeUndo.current?.()) return;
        const { label } = await takeBackInTurn(way);
        const done = way === "undo" ? "Taken back" : "Made again";
        say(label ? `${done}: ${label}` : way === "undo" ? "Nothing to take back." : "Nothing to make again.");
      } catch (error) {
        fail(error);
      }
    },
    [say, fail],
  );

  const here = useSyncExternalStore(subscribe, () => told);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (writes(event.target)) return;
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
        event.preventDefault();
        void takeBack(event.shiftKey ? "redo" : "undo");
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || document.querySelector("[role=dialog],[role=menu]")) return;
      if (event.key === "?") {
        event.preventDefault();
        openKeys();
        return;
      }
      const place = places[Number(event.key) - 1];
      if (place && /^[1-7]$/.test(event.key)) void navigate(place.path);
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [navigate, openKeys, places, takeBack]);

  const keys = useMemo(() => ({ openKeys, beforeUndo, takeBack }), [openKeys, takeBack]);
  return (
    <Context.Provider value={keys}>
      {children}
      <Dialog.Root open={open} onOpenChange={setOpen}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
          <Dialog.Content className="slip fixed top-24 left-1/2 z-50 w-[30rem] -translate-x-1/2" aria-describedby={undefined}>
            <Dialog.Title className="text-title">Keys</Dialog.Title>
            <dl className="mt-3 grid grid-cols-[8rem_1fr] gap-y-1.5">
              {[...FIRST, ...here, ...LAST].map(([key, does]) => (
                <div key={`${key} ${does}`} className="contents">
                  <dt className="font-semibold">{key}</dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
            <Dialog.Close className="press mt-4">Close</Dialog.Close>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </Context.Provider>
  );
}
