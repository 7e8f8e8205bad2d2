/** What earns an offer, as words of its sentence. */
import type { Bound, Condition, Measured, Terms } from "../api/types";
import { replaced } from "../pieces/lists";
import { MEASURES, sizeInWords } from "../pieces/measures";
import { newCondition } from "../pieces/new-parts";
import { canRepeat } from "./offers";
import { thresholdFigure, type PartProps, type Say, type Slot, type Token } from "./part";
import { scopeToken } from "./scope-token";
import { Choices, ClauseWord, Word } from "../pieces/words";
import { NumberWord } from "./number-word";

const BOUNDS: readonly (readonly [Bound, string])[] = [
  ["at_least", "or more"],
  ["over", "more than that"],
  ["at_most", "at most that"],
];

function conditionInWords({ kind, n, bound }: Measured, each: boolean, cash: (amount: number) => string): string {
  const size = sizeInWords(kind, n, cash);
  if (bound === "at_most") return `at most ${size}`;
  if (bound === "over") return each ? `every ${size} once over that` : `over ${size}`;
  if (each) return `every ${size}`;
  return kind === "units" || kind === "products" ? size.replace(" ", " or more ") : `${size} or more`;
}

/** Said only where offers before it do not count. */
const beforeOffers = (condition: Measured): string => (condition.kind === "spend" && condition.at === "standing" ? " before offers" : "");

/** What earns the offer: each condition a word for how much, and a word for of what. */
export function earnedTokens(terms: Terms, say: Say): Token[] {
  const { cash } = say;
  const { conditions, repeat, need } = terms.earned;
  if (conditions.length === 0) return ["Every cart gets "];
  const each = repeat === "each_time";
  const tokens: Token[] = [each ? "For " : "Carts with "];
  conditions.forEach((condition, n) => {
    if (n > 0) tokens.push(" ", andOr(need, n), " ");
    const slot: Slot<Condition> = {
      path: `/earned/conditions/${n}`,
      value: condition,
      put: (value) => (t) => ({ ...t, earned: { ...t.earned, conditions: replaced(t.earned.conditions, n, value) } }),
    };
    const text = condition.kind === "only" ? "nothing but" : conditionInWords(condition, each, cash) + beforeOffers(condition);
    const first = n === 0;
    tokens.push({
      key: `condition ${n}`,
      text,
      word: (part) =>
        condition.kind === "only" ? (
          <ClauseWord title="Nothing else in the cart" text={text} unsound={part.at(slot.path)} drop={() => part.edit(dropped(n))}>
            <p>The cart holds these goods and no others.</p>
          </ClauseWord>
        ) : (
          <MeasuredWord {...{ part, condition, slot, text, first }} drop={() => part.edit(dropped(n))} />
        ),
    });
    tokens.push(condition.kind === "only" ? " " : " of ");
    const scope = { path: `${slot.path}/of`, value: condition.of, put: (of: Condition["of"]) => slot.put({ ...condition, of }) };
    tokens.push(scopeToken("Of which goods", scope, say, "anything"));
  });
  return [...tokens, each ? ", a cart gets " : " get "];
}

const dropped = (n: number) => (t: Terms): Terms => ({
  ...t,
  earned: { ...t.earned, conditions: t.earned.conditions.toSpliced(n, 1) },
});

const andOr = (need: "all" | "any", n: number): Token => ({
  key: `need ${n}`,
  text: need === "all" ? "and" : "or",
  word: ({ edit }) => (
    <Word title="Click: and, or" onClick={() => edit((t) => ({ ...t, earned: { ...t.earned, need: need === "all" ? "any" : "all" } }))}>
      {need === "all" ? "and" : "or"}
    </Word>
  ),
});

interface MeasuredProps {
  part: PartProps;
  condition: Measured;
  slot: Slot<Condition>;
  text: string;
  first: boolean;
  drop: () => void;
}

function MeasuredWord({ part, condition, slot, text, first, drop }: MeasuredProps) {
  const { terms, frame, round, cash, edit, at } = part;
  const size: Slot<number> = { path: `${slot.path}/n`, value: condition.n, put: (n) => slot.put({ ...condition, n }) };
  const tell = (n: number) => conditionInWords({ ...condition, n }, false, cash);
  const figure = thresholdFigure(part, condition.kind, size, { label: "How much", tell });
  return (
    <NumberWord
      title="How much it takes"
      currency={frame}
      unsound={at(size.path)}
      figure={figure}
      more={
        <>
          <div className="flex min-w-0 gap-2">
            <select
              className="min-w-0"
              aria-label="Measured in"
              value={condition.kind}
              onChange={(event) => {
                const fresh = newCondition(event.target.value as Measured["kind"], round, condition.of);
                edit(slot.put({ ...fresh, bound: condition.bound } as Condition));
              }}
            >
              {MEASURES.map(([kind, words]) => (
                <option key={kind} value={kind}>
                  {words}
                </option>
              ))}
            </select>
            <select className="min-w-0" aria-label="Which side counts" value={condition.bound} onChange={(event) => edit(slot.put({ ...condition, bound: event.target.value as Bound }))}>
              {BOUNDS.map(([bound, words]) => (
                <option key={bound} value={bound}>
                  {words}
                </option>
              ))}
            </select>
          </div>
          {condition.kind === "spend" && (
            <Choices
              label="What counts"
              value={condition.at}
              onChange={(next) => edit(slot.put({ ...condition, at: next }))}
              options={[
                ["net", "What is left after earlier offers"],
                ["standing", "The price before any offer"],
              ]}
            />
          )}
          {first && canRepeat(terms) && (
            <Choices
              label="How often"
              value={terms.earned.repeat}
              onChange={(repeat) => edit((t) => ({ ...t, earned: { ...t.earned, repeat } }))}
              options={[
                ["once", "Once an order"],
                ["each_time", "Each time it is reached"],
              ]}
            />
          )}
          <button type="button" className="quiet justify-self-start" onClick={drop}>
            {terms.earned.conditions.length > 1 ? "Take this condition off" : "No minimum"}
          </button>
        </>
      }
    >
      {text}
    </NumberWord>
  );
}

/** How often a reward of units comes about, and whether units are counted product by product. */
export function countedTokens(terms: Terms): Token[] {
  const { conditions, repeat, counted } = terms.earned;
  const tokens: Token[] = [];
  if (conditions.length === 0 && canRepeat(terms)) {
    const text = repeat === "each_time" ? "each time" : "once an order";
    tokens.push(", ", {
      key: "repeat",
      text,
      word: ({ edit, at }) => (
        <ClauseWord title="How often" text={text} unsound={at("/earned/repeat")}>
          <Choices
            label="How often"
            value={repeat}
            onChange={(next) => edit((t) => ({ ...t, earned: { ...t.earned, repeat: next } }))}
            options={[
              ["each_time", "Each time there are enough units"],
              ["once", "Once an order"],
            ]}
          />
        </ClauseWord>
      ),
    });
  }
  if (counted !== "pooled") {
    const text = counted === "by_product" ? "each product counted by itself" : "each option counted by itself";
    tokens.push(", ", {
      key: "counted",
      text,
      word: ({ edit, at }) => {
        const put = (next: Terms["earned"]["counted"]) => edit((t) => ({ ...t, earned: { ...t.earned, counted: next } }));
        return (
          <ClauseWord title="How units are counted" text={text} unsound={at("/earned/counted")} drop={() => put("pooled")}>
            <Choices
              label="How units are counted"
              value={counted}
              onChange={put}
              options={[
                ["pooled", "All together"],
                ["by_product", "Each product by itself, its options together"],
                ["by_sku", "Each option (SKU) by itself"],
              ]}
            />
          </ClauseWord>
        );
      },
    });
  }
  return tokens;
}
