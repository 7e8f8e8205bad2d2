/** Which goods are meant: everything, only some categories and products, or all but some; reduced ones in or out. */
import { useState } from "react";

import type { FieldProblem, Frame, Good, Scope } from "../../api/types";
import { listed } from "../../pieces/figures";
import { Slip } from "../../pieces/slip";
import { EVERYTHING } from "./new-parts";
import type { Slot, Token } from "./part";
import { Covered, nameOfSku, ProductPicker } from "./product-picker";
import { Choices, Faults, Ticks, Word } from "./words";

const MOST_NAMED = 2;

type Mode = "everything" | "only" | "except";

export function scopeInWords(scope: Scope, goods: Good[], everything = "everything"): string {
  const names = (categories: string[], skus: string[]) => {
    const products = skus.slice(0, MOST_NAMED).map((sku) => nameOfSku(sku, goods));
    const more = skus.length > MOST_NAMED ? [`${skus.length - MOST_NAMED} more`] : [];
    return listed([...categories.map((name) => name.toLowerCase()), ...products, ...more]);
  };
  const inside = names(scope.categories, scope.skus) || everything;
  const except = names(scope.except_categories, scope.except_skus);
  return `${inside}${except && ` except ${except}`}${scope.reduced === "out" ? ", reduced goods left out" : ""}`;
}

/** A scope as a word of the sentence. */
export const scopeToken = (title: string, slot: Slot<Scope>, goods: Good[], everything?: string): Token => {
  const text = scopeInWords(slot.value, goods, everything);
  return {
    key: `scope ${slot.path}`,
    text,
    word: ({ frame, goods, edit, at }) => (
      <ScopeWord {...{ title, text, frame, goods }} scope={slot.value} unsound={at(slot.path)} onChange={(scope) => edit(slot.put(scope))} />
    ),
  };
};

interface ScopeWordProps {
  title: string;
  text: string;
  scope: Scope;
  frame: Frame;
  goods: Good[];
  onChange: (scope: Scope) => void;
  unsound: FieldProblem[];
}

function ScopeWord({ title, text, scope, frame, goods, onChange, unsound }: ScopeWordProps) {
  const named = scope.categories.length + scope.skus.length > 0;
  const excepted = scope.except_categories.length + scope.except_skus.length > 0;
  const [mode, setMode] = useState<Mode>(named ? "only" : excepted ? "except" : "everything");
  const categories = mode === "only" ? scope.categories : scope.except_categories;
  const skus = mode === "only" ? scope.skus : scope.except_skus;
  const put = (next: Mode, inCategories: string[], inSkus: string[]) => {
    const rest = { ...EVERYTHING, reduced: scope.reduced };
    if (next === "only") onChange({ ...rest, categories: inCategories, skus: inSkus });
    else if (next === "except") onChange({ ...rest, except_categories: inCategories, except_skus: inSkus });
    else onChange(rest);
  };
  return (
    <Slip title={title} width={330} trigger={<Word unsound={unsound}>{text}</Word>}>
      <Choices
        label={title}
        value={mode}
        onChange={(next) => {
          setMode(next);
          put(next, categories, skus);
        }}
        options={[
          ["everything", "Everything"],
          ["only", "Only these"],
          ["except", "All but these"],
        ]}
      />
      {mode !== "everything" && (
        <>
          <Ticks label="Categories" all={frame.categories} ticked={categories} onChange={(next) => put(mode, next, skus)} />
          <ProductPicker goods={goods} skus={skus} frame={frame} onChange={(next) => put(mode, categories, next)} />
        </>
      )}
      <label className="choice mt-2 flex items-center gap-2.5 border-t border-line pt-2">
        <input type="checkbox" checked={scope.reduced === "out"} onChange={(event) => onChange({ ...scope, reduced: event.target.checked ? "out" : "in" })} />
        Leave out goods already reduced
      </label>
      <Covered goods={goodsIn(scope, goods)} />
      <Faults of={unsound} />
    </Slip>
  );
}

function goodsIn(scope: Scope, goods: Good[]): Good[] {
  const all = scope.categories.length + scope.skus.length === 0;
  const has = (good: Good, categories: string[], skus: string[]) =>
    skus.includes(good.sku) || good.categories.some((name) => categories.includes(name));
  return goods.filter(
    (good) =>
      (all || has(good, scope.categories, scope.skus)) &&
      !has(good, scope.except_categories, scope.except_skus) &&
      !(scope.reduced === "out" && good.reduced_price != null && good.reduced_price === good.standing),
  );
}
