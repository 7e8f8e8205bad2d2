/** A word that asks for the name of a new thing. */
import { useState } from "react";

import { EditWord } from "./saving";

export function NewName({ title, button, taken, make }: { title: string; button: string; taken: string[]; make: (name: string) => void }) {
  const [text, setText] = useState("");
  const name = text.trim();
  const clash = taken.some((one) => one.toLowerCase() === name.toLowerCase());
  return (
    <EditWord faint title={title} text={button}>
      {(close) => (
        <>
          <form
            className="flex gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (!name || clash) return;
              make(name);
              setText("");
              close();
            }}
          >
            <input autoFocus aria-label="Name" className="w-44" maxLength={80} value={text} onChange={(event) => setText(event.target.value)} />
            <button type="submit" className="press" disabled={!name || clash}>
              Add
            </button>
          </form>
          {clash && name && <p role="alert" className="mt-1 text-small text-loss-ink">There is one of that name already. Choose another.</p>}
        </>
      )}
    </EditWord>
  );
}
