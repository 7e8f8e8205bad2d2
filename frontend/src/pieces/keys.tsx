/** Keys that work anywhere, and the list of all of them. A place adds its own with `useKey`. */
import { Dialog } from "radix-ui";
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from "react";
import { useNavigate } from "react-router";

import { ask } from "../api/client";
import { renewAll } from "../api/queries";
import type { Undone } from "../api/types";
import { PLACES } from "../places";
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

/** Call `act` on a plain key, unless somebody is typing or a dialog is open. */
export function useKey(key: string, act: () => void) {
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key !== key || event.ctrlKey || event.metaKey || event.altKey || writes(event.target)) return;
      if (document.querySelector("[role=dialog],[role=menu]")) return;
      event.preventDefault();
      latest.current();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [key]);
}

const LIST: [string, string][] = [
  ["1 to 7", "go to a place"],
  ["n", "Goods: a new SKU; Counting board: write a new offer"],
  ["m", "Goods: to the next missing figure"],
  ["/", "Goods: find a product; Counting board: find an offer of any plan"],
  ["Tab, Enter", "go to a word of a sentence, open it"],
  ["↑ ↓", "nudge the number of a word, or of a box"],
  ["Shift ↑ ↓", "nudge it by ten steps"],
  ["Alt ↑ ↓", "on an offer's bead: move the offer up or down"],
  ["Space", "on an offer's bead: slide it out of the plan or in"],
  ["Ctrl Z", "undo any change"],
  ["Ctrl Shift Z", "make it again"],
  ["Esc", "close what is open"],
  ["?", "this list"],
];

export function KeysProvider({ children }: { children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  const { say, fail } = useNotice();
  const beforeUndo = useRef<BeforeUndo | null>(null);
  const openKeys = useCallback(() => setOpen(true), []);

  const takeBack = useCallback(
    async (way: "undo" | "redo") => {
      try {
        if (await beforeUndo.current?.()) return;
        const { label } = await ask<Undone>("POST", `/${way}`);
        await renewAll();
        const done = way === "undo" ? "Taken back" : "Made again";
        say(label ? `${done}: ${label}` : way === "undo" ? "Nothing to take back." : "Nothing to make again.");
      } catch (error) {
        fail(error);
      }
    },
    [say, fail],
  );

  useKey("?", openKeys);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (writes(event.target)) return;
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
        event.preventDefault();
        void takeBack(event.shiftKey ? "redo" : "undo");
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || document.querySelector("[role=dialog],[role=menu]")) return;
      const place = PLACES[Number(event.key) - 1];
      if (place && /^[1-7]$/.test(event.key)) void navigate(place.path);
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [navigate, takeBack]);

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
              {LIST.map(([key, does]) => (
                <div key={key} className="contents">
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
