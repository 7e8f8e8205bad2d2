/** The whole shop out as one file, and another in its place. */
import { Dialog } from "radix-ui";
import { useRef, useState } from "react";

import { ApiError, ask } from "../../api/client";
import type { InItsPlace } from "../../api/types";
import { FileChoice } from "../../pieces/file-choice";
import { useShop } from "./saving";

export function AnotherShop() {
  const [open, setOpen] = useState(false);
  return (
    <div className="grid justify-items-start gap-1 text-small">
      <a href="/api/shop.sqlite" download className="quiet">
        Save the whole shop as one file
      </a>
      <Dialog.Root open={open} onOpenChange={setOpen}>
        <Dialog.Trigger className="quiet">Open another shop in its place</Dialog.Trigger>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
          <Dialog.Content className="slip fixed top-24 left-1/2 z-50 w-[34rem] -translate-x-1/2" aria-describedby={undefined}>
            <Dialog.Title className="text-title">Another shop in its place</Dialog.Title>
            <Choosing />
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </div>
  );
}

function Choosing() {
  const { frame } = useShop();
  const choice = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState("");
  const [done, setDone] = useState<InItsPlace | null>(null);
  const put = async (file: File) => {
    setBusy(true);
    setFault("");
    const form = new FormData();
    form.append("file", file);
    try {
      setDone(await ask<InItsPlace>("POST", "/shop.sqlite", form));
    } catch (error) {
      setFault(error instanceof ApiError ? error.message : String(error));
    }
    setBusy(false);
  };
  if (done) {
    return (
      <div role="status" className="mt-2 grid justify-items-start gap-3">
        <p>
          {done.name} is open now. What was here is kept as <span className="break-all">{done.kept}</span>.
        </p>
        <button type="button" className="press" autoFocus onClick={() => location.assign("/")}>
          Go to the Counting board
        </button>
      </div>
    );
  }
  return (
    <div className="mt-2 grid justify-items-start gap-3">
      <p>
        A file that “Save the whole shop as one file” made is opened here. What is open now, {frame.name}, is kept beside it as a file, which can be opened again in the same way.
      </p>
      {fault && (
        <p role="alert" className="text-loss-ink">
          {fault}
        </p>
      )}
      <FileChoice ref={choice} label="The file of a shop" accept=".sqlite" take={(file) => void put(file)} />
      <div className="flex gap-4">
        <button type="button" className="press" disabled={busy} onClick={() => choice.current?.click()}>
          {busy ? "Opening it…" : "Choose a file"}
        </button>
        <Dialog.Close className="quiet">Leave it</Dialog.Close>
      </div>
    </div>
  );
}
