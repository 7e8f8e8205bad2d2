/** Cart types sketched by hand: what is in them, and the share of orders each has. */
import { useId, useState } from "react";

import { useNames } from "../../api/queries";
import type { FieldProblem, Frame, Named } from "../../api/types";
import { listed, rate } from "../../pieces/figures";
import { changedAt } from "../../pieces/lists";
import type { Mix } from "./mixes";
import { ShareRod } from "./share-rod";
import { linesIn, nameFor, sharesWith, sharesWithOneMore, sharesWithout, type Sketch } from "./sketch-text";
import { SketchSentence } from "./sketch-sentence";

const WHOLE = 10_000;

export function Sketches({ mix, frame, hasHistory }: { mix: Mix; frame: Frame; hasHistory: boolean }) {
  const { data: goods = [] } = useNames();
  const sketched = mix.terms.sketched;
  const shares = sketched.map((one) => one.share_bp);
  const withShares = (some: readonly Sketch[], told: number[]) => some.map((one, at) => ({ ...one, share_bp: told[at]! }));
  const left = WHOLE - shares.reduce((sum, one) => sum + one, 0);
  const parts = [...sketched.map((one) => ({ name: one.name, share: one.share_bp })), ...(hasHistory ? [{ name: "Carts as they came", share: Math.max(left, 0), isRest: true }] : [])];
  const put = (told: number[]) => mix.change({ sketched: withShares(sketched, told) });
  const wrong = (at: number): FieldProblem[] => mix.problems.filter(({ pointer }) => pointer.startsWith(`/terms/sketched/${at}/`));
  return (
    <section aria-labelledby="sketches-title" className="mt-3 max-w-[72rem]">
      <h2 id="sketches-title" className="text-title">
        Sketched by hand
      </h2>
      {sketched.length > 0 && parts.length > 1 && <ShareRod parts={parts} draft={(told) => mix.draft({ sketched: withShares(sketched, told) })} put={put} />}
      <ul className="mt-1 grid gap-1.5">
        {sketched.map((one, at) => (
          <li key={at}>
            <SketchSentence
              {...{ one, frame, goods, hasHistory }}
              unsound={wrong(at)}
              set={(part) => mix.change({ sketched: changedAt(sketched, at, part) })}
              setShare={(share_bp) => put(sharesWith(shares, at, share_bp, hasHistory))}
              drop={() => mix.change({ sketched: withShares(sketched.toSpliced(at, 1), sharesWithout(shares, at, hasHistory)) })}
            />
          </li>
        ))}
      </ul>
      <AddSketch
        {...{ frame, goods }}
        first={sketched.length === 0}
        add={(lines) => {
          const name = nameFor(lines, goods, sketched.map((one) => one.name));
          const one: Sketch = { name, share_bp: 0, lines, zones: [], first_bp: null, first_day: null, last_day: null };
          const told = withShares([...sketched, one], sharesWithOneMore(shares, hasHistory));
          mix.change({ sketched: told, ...(!hasHistory && mix.terms.orders_a_day === null && { orders_a_day: FIRST_GUESS }) });
        }}
      />
      {hasHistory && left < 0 && (
        <p role="alert" className="text-small text-loss-ink">
          These shares come to {rate(WHOLE - left)}; carts as they came get none.
        </p>
      )}
    </section>
  );
}

/** Orders a day of a new shop until it says otherwise: a round figure, and one that is asked for beside it. */
const FIRST_GUESS = 10;

/** One box for a new type: what is in the cart. */
function AddSketch({ frame, goods, first, add }: { frame: Frame; goods: Named[]; first: boolean; add: (lines: Sketch["lines"]) => void }) {
  const id = useId();
  const [text, setText] = useState("");
  const [fault, setFault] = useState("");
  const put = () => {
    const { lines, unknown } = linesIn(text, goods, frame);
    if (unknown.length) setFault(`No goods are called ${listed(unknown.map((one) => `“${one}”`))}. Write the name of a category, a product, a tag or a SKU.`);
    else if (lines.length === 0) setFault("Write what is in the cart, such as 2 pots, 1-3 soil.");
    else {
      add(lines);
      setText("");
      setFault("");
    }
  };
  return (
    <div className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
      <label htmlFor={id} className="text-small text-soft">
        {first ? "What is in a cart you expect?" : "Another cart you expect"}
      </label>
      <input
        id={id}
        autoFocus={first}
        className="w-80 max-w-full"
        maxLength={400}
        placeholder="2 pots, 1-3 soil"
        value={text}
        aria-invalid={fault !== ""}
        aria-describedby={fault ? `${id}-fault` : undefined}
        onChange={(event) => {
          setText(event.target.value);
          setFault("");
        }}
        onKeyDown={(event) => event.key === "Enter" && put()}
      />
      <button type="button" className="press" disabled={!text.trim()} onClick={put}>
        Sketch it
      </button>
      {fault && (
        <p id={`${id}-fault`} role="alert" className="w-full text-small text-loss-ink">
          {fault}
        </p>
      )}
    </div>
  );
}
