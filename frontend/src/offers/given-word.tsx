/** How shoppers come by an offer: by itself, with a code, by a link, or with a code of their own. */
import { useId, useRef, useState } from "react";

import { ApiError, ask } from "../api/client";
import type { FieldProblem, Given, Terms } from "../api/types";
import { count } from "../pieces/figures";
import { FileChoice } from "../pieces/file-choice";
import { Slip } from "../pieces/slip";
import { memorableCode, randomCode, randomCodes } from "../pieces/new-parts";
import type { Token } from "./part";
import { saveFile } from "./save-file";
import { Choices, Faults, Word } from "../pieces/words";

const MOST_CODES = 5000;

export function givenInWords({ by, code, codes }: Given, full = false): string {
  switch (by) {
    case "itself":
      return "without a code";
    case "code":
      return `with the code ${code || "…"}`;
    case "link":
      return `by a link with the code ${code || "…"}`;
    case "codes":
      return full ? `with one of the single-use codes ${codes.join(" / ")}` : `with one of ${count(codes.length)} single-use ${codes.length === 1 ? "code" : "codes"}`;
  }
}

export const givenToken = ({ given }: Terms, full?: boolean): Token => ({
  key: "given",
  text: givenInWords(given, full),
  word: ({ edit, at }) => <GivenWord given={given} unsound={at("/given")} onChange={(next) => edit((t) => ({ ...t, given: next }))} />,
});

interface GivenProps {
  given: Given;
  onChange: (given: Given) => void;
  unsound: FieldProblem[];
}

function GivenWord({ given, onChange, unsound }: GivenProps) {
  const choose = (by: Given["by"]) => {
    const code = (by === "code" || by === "link") && !given.code ? memorableCode() : given.code;
    onChange({ by, code, codes: by === "codes" && given.codes.length === 0 ? randomCodes(50) : given.codes });
  };
  return (
    <Slip title="How it is given" trigger={<Word unsound={unsound}>{givenInWords(given)}</Word>} width={340} side="right">
      <Choices
        label="How it is given"
        value={given.by}
        onChange={choose}
        options={[
          ["itself", "Without a code, to every cart that earns it"],
          ["code", "To shoppers who type a code"],
          ["link", "To shoppers who follow a link that carries a code"],
          ["codes", "To holders of single-use codes"],
        ]}
      />
      {(given.by === "code" || given.by === "link") && <OneCode {...{ given, onChange, unsound }} />}
      {given.by === "codes" && <CodeList {...{ given, onChange }} />}
      <Faults of={unsound} />
    </Slip>
  );
}

function OneCode({ given, onChange, unsound }: GivenProps) {
  const id = useId();
  const put = (code: string) => onChange({ ...given, code });
  return (
    <div className="mt-2 grid gap-2">
      <div>
        <label htmlFor={id} className="block text-small text-soft">
          Code
        </label>
        <input
          id={id}
          className="w-48 uppercase"
          value={given.code}
          maxLength={30}
          autoComplete="off"
          aria-invalid={unsound.length > 0}
          onChange={(event) => put(event.target.value.trim().toUpperCase())}
        />
      </div>
      <div className="flex gap-4">
        <button type="button" className="quiet" onClick={() => put(memorableCode())}>
          Make one up
        </button>
        <button type="button" className="quiet" onClick={() => put(randomCode())}>
          One hard to guess
        </button>
      </div>
    </div>
  );
}

function CodeList({ given, onChange }: { given: Given; onChange: (given: Given) => void }) {
  const id = useId();
  const file = useRef<HTMLInputElement>(null);
  const [many, setMany] = useState(String(given.codes.length));
  const [fault, setFault] = useState("");
  const put = (codes: string[]) => {
    setFault("");
    setMany(String(codes.length));
    onChange({ ...given, codes });
  };
  const make = () => {
    const wanted = Number(many);
    if (!Number.isInteger(wanted) || wanted < 1 || wanted > MOST_CODES) setFault(`Write a number from 1 to ${count(MOST_CODES)}.`);
    else put(randomCodes(wanted));
  };
  const read = async (chosen: File) => {
    const form = new FormData();
    form.set("file", chosen);
    try {
      put((await ask<{ codes: string[] }>("POST", "/codes/read", form)).codes);
    } catch (error) {
      setFault(error instanceof ApiError ? error.message : "The file could not be read.");
    }
  };
  return (
    <div className="mt-2 grid gap-2">
      <div className="flex items-end gap-3">
        <div>
          <label htmlFor={id} className="block text-small text-soft">
            How many codes
          </label>
          <input id={id} inputMode="numeric" className="w-24 text-end" value={many} onChange={(event) => setMany(event.target.value)} />
        </div>
        <button type="button" className="press" onClick={make}>
          Make new ones
        </button>
      </div>
      <p className="text-small text-soft">{given.codes.slice(0, 3).join(", ")}{given.codes.length > 3 && " …"}</p>
      <div className="flex gap-4">
        <button type="button" className="quiet" onClick={() => saveFile("codes.csv", `Code\n${given.codes.join("\n")}\n`, "text/csv")}>
          Save them as CSV
        </button>
        <button type="button" className="quiet" onClick={() => file.current?.click()}>
          Bring codes in from CSV
        </button>
        <FileChoice ref={file} label="CSV file of codes" accept=".csv,text/csv,.txt" take={(chosen) => void read(chosen)} />
      </div>
      {fault && (
        <p role="alert" className="text-small text-loss-ink">
          {fault}
        </p>
      )}
    </div>
  );
}
