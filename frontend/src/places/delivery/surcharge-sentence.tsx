/** One surcharge as a sentence: what for, how much counted by what, always or by choice, of which carts and shoppers. */
import { useState } from "react";

import type { Surcharge } from "../../api/types";
import { ANYBODY, ANYWHERE, WhereChoices, whereInWords, WhoChoices, whoInWords } from "../../pieces/who-where";
import { Choices } from "../../pieces/words";
import { EditWord, useShop } from "./saving";
import { AsksWord, ChoiceWord, EarnedWord, OfWord } from "./surcharge-words";

interface Props {
  surcharge: Surcharge;
  put: (surcharge: Surcharge) => Promise<boolean>;
  drop: () => void;
}

export function SurchargeSentence({ surcharge, put: putAll, drop }: Props) {
  const { frame, delivery } = useShop();
  const put = (part: Partial<Surcharge>) => void putAll({ ...surcharge, ...part });
  const { who, where, tax_class } = surcharge;
  return (
    <p className="text-sentence">
      For{" "}
      <EditWord title="What it is for" text={surcharge.name}>
        <NameBox name={surcharge.name} put={(name) => put({ name })} />
      </EditWord>{" "}
      you ask <AsksWord surcharge={surcharge} put={put} />, counting <OfWord surcharge={surcharge} put={put} />, <ChoiceWord surcharge={surcharge} put={put} />,{" "}
      <EarnedWord surcharge={surcharge} put={put} />,{" "}
      <EditWord tall title="Of whom" faint={!whoInWords(who)} text={whoInWords(who) || "of anybody"} width={360}>
        <WhoChoices who={who} frame={frame} put={(part) => put({ who: { ...who, ...part } })} />
        <button type="button" className="quiet mt-2 text-small" onClick={() => put({ who: ANYBODY })}>
          Of anybody
        </button>
      </EditWord>
      ,{" "}
      <EditWord tall title="Where" faint={!whereInWords(where)} text={whereInWords(where) || "wherever it goes"} width={340}>
        <WhereChoices where={where} frame={frame} put={(part) => put({ where: { ...where, ...part } })} />
        <button type="button" className="quiet mt-2 text-small" onClick={() => put({ where: ANYWHERE })}>
          Wherever it goes
        </button>
      </EditWord>
      ,{" "}
      <EditWord title="How it is taxed" faint={tax_class == null} text={tax_class == null ? "taxed as the goods are" : `taxed as ${tax_class}`}>
        <Choices
          label="How it is taxed"
          value={tax_class ?? ""}
          options={[["", "As the goods of the cart"], ...delivery.settings.tax_classes.map((one) => [one.name, `As ${one.name}`] as const)]}
          onChange={(next) => put({ tax_class: next || null })}
        />
      </EditWord>
      .{" "}
      <button type="button" className="quiet text-small" onClick={drop}>
        Take it away<span className="sr-only">: {surcharge.name}</span>
      </button>
    </p>
  );
}

function NameBox({ name, put }: { name: string; put: (name: string) => void }) {
  const [text, setText] = useState(name);
  const done = () => text.trim() && text.trim() !== name && put(text.trim());
  return <input autoFocus aria-label="What it is for" className="w-56" maxLength={80} value={text} onChange={(event) => setText(event.target.value)} onBlur={done} onKeyDown={(event) => event.key === "Enter" && done()} />;
}
