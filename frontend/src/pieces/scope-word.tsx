/** Which goods are meant: everything, only some categories and products, or all but some; reduced ones in or out. */
import { useState } from "react";

import type { FieldProblem, Frame, Named, Scope } from "../api/types";
import { listed } from "./figures";
import { Slip } from "./slip";
import { Covered, nameOfSku, ProductPicker } from "./product-picker";
import { Choices, Faults, Ticks, Word } from "./words";

const MOST_NAMED = 2;

export const EVERYTHING: Scope = {
  categories: [],
  except_categories: [],
  products: [],
  except_products: [],
  brands: [],
  except_brands: [],
  tags: [],
  except_tags: [],
  skus: [],
  except_skus: [],
  reduced: "in",
};

type Mode = "everything" | "only" | "except";

/** What goods are named by; each has a list that lets in and one that leaves out. */
interface Names {
  categories: string[];
  tags: string[];
  brands: string[];
  products: string[];
  skus: string[];
}

const NOBODY: Names = { categories: [], tags: [], brands: [], products: [], skus: [] };

const inside = ({ categories, tags, brands, products, skus }: Scope): Names => ({ categories, tags, brands, products, skus });

const outside = (scope: Scope): Names => ({
  categories: scope.except_categories,
  tags: scope.except_tags,
  brands: scope.except_brands,
  products: scope.except_products,
  skus: scope.except_skus,
});

const isEmpty = (names: Names): boolean => Object.values(names).every((list: string[]) => list.length === 0);

export const isEverything = (scope: Scope): boolean => isEmpty(inside(scope)) && isEmpty(outside(scope)) && scope.reduced === "in";

const has = (good: Named, { categories, tags, brands, products, skus }: Names): boolean =>
  skus.includes(good.sku) ||
  products.includes(good.product) ||
  brands.includes(good.brand) ||
  good.categories.some((name) => categories.includes(name)) ||
  good.tags.some((name) => tags.includes(name));

function namesInWords({ categories, tags, brands, products, skus }: Names, goods: Named[], full: boolean): string {
  const single = [...products, ...skus.map((sku) => (full ? `${nameOfSku(sku, goods)} (${sku})` : nameOfSku(sku, goods)))];
  const most = full ? single.length : MOST_NAMED;
  const more = single.length > most ? [`${single.length - most} more`] : [];
  const groups = [
    ...categories.map((name) => name.toLowerCase()),
    ...tags.map((name) => `goods tagged ${name}`),
    ...brands.map((name) => `goods by ${name}`),
  ];
  return listed([...groups, ...single.slice(0, most), ...more]);
}

/** full: every name, with the SKU of single options, so that it can be read back. */
export function scopeInWords(scope: Scope, goods: Named[], everything = "everything", full = false): string {
  const except = namesInWords(outside(scope), goods, full);
  const only = namesInWords(inside(scope), goods, full) || everything;
  return `${only}${except && ` except ${except}`}${scope.reduced === "out" ? ", reduced goods left out" : ""}`;
}

interface ScopeWordProps {
  title: string;
  text: string;
  scope: Scope;
  frame: Frame;
  goods: Named[];
  onChange: (scope: Scope) => void;
  unsound?: FieldProblem[];
  faint?: boolean;
  onOpenChange?: (open: boolean) => void;
}

export function ScopeWord({ title, text, scope, frame, goods, onChange, unsound = [], faint = false, onOpenChange }: ScopeWordProps) {
  const [mode, setMode] = useState<Mode>(!isEmpty(inside(scope)) ? "only" : !isEmpty(outside(scope)) ? "except" : "everything");
  const names = mode === "only" ? inside(scope) : outside(scope);
  const put = (next: Mode, chosen: Names) => {
    const out = Object.fromEntries(Object.entries(chosen).map(([kind, list]) => [`except_${kind}`, list])) as Partial<Scope>;
    const lists = next === "only" ? chosen : next === "except" ? out : NOBODY;
    onChange({ ...EVERYTHING, reduced: scope.reduced, ...lists });
  };
  return (
    <Slip title={title} width={mode === "everything" ? 400 : 430} side="right" onOpenChange={onOpenChange} trigger={<Word unsound={unsound} faint={faint}>{text}</Word>}>
      <Choices
        inRow
        label={title}
        value={mode}
        onChange={(next) => {
          setMode(next);
          put(next, names);
        }}
        options={[
          ["everything", "Everything"],
          ["only", "Only these"],
          ["except", "All but these"],
        ]}
      />
      {mode !== "everything" && (
        <>
          <ProductPicker
            goods={goods}
            skus={names.skus}
            products={names.products}
            frame={frame}
            onChange={(skus, products) => put(mode, { ...names, skus, products })}
          />
          <Ticks label="Categories" shown all={frame.categories} ticked={names.categories} onChange={(categories) => put(mode, { ...names, categories })} />
          {frame.tags.length > 0 && <Ticks label="Tagged" shown all={frame.tags} ticked={names.tags} onChange={(tags) => put(mode, { ...names, tags })} />}
          {frame.brands.length > 0 && <Ticks label="By brand" shown all={frame.brands} ticked={names.brands} onChange={(brands) => put(mode, { ...names, brands })} />}
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

function goodsIn(scope: Scope, goods: Named[]): Named[] {
  const all = isEmpty(inside(scope));
  return goods.filter(
    (good) =>
      (all || has(good, inside(scope))) &&
      !has(good, outside(scope)) &&
      !(scope.reduced === "out" && good.reduced),
  );
}
