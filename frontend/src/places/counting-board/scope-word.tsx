/** Which goods are meant: everything, only some categories and products, or all but some; reduced ones in or out. */
import { useDeferredValue, useId, useState } from "react";

import { useCarts, useGoods } from "../../api/queries";
import type { FieldProblem, Frame, Good, Scope } from "../../api/types";
import { count, listed, money } from "../../pieces/figures";
import { Slip } from "../../pieces/slip";
import { EVERYTHING } from "./offers";
import { Choices, Faults, Ticks, Word } from "./words";

const MOST_NAMED = 2;
const MOST_FOUND = 6;
const DAYS_A_MONTH = 365 / 12;

type Mode = "everything" | "only" | "except";

const nameOf = (good: Good): string => [good.product || good.sku, good.option].filter(Boolean).join(" ");

function scopeInWords(scope: Scope, everything: string, goods: Good[]): string {
  const names = (categories: string[], skus: string[]) => {
    const products = skus.slice(0, MOST_NAMED).map((sku) => {
      const good = goods.find((one) => one.sku === sku);
      return good ? nameOf(good) : sku;
    });
    const more = skus.length > MOST_NAMED ? [`${skus.length - MOST_NAMED} more`] : [];
    return listed([...categories.map((name) => name.toLowerCase()), ...products, ...more]);
  };
  const inside = names(scope.categories, scope.skus) || everything;
  const except = names(scope.except_categories, scope.except_skus);
  return `${inside}${except && ` except ${except}`}${scope.reduced === "out" ? ", reduced goods left out" : ""}`;
}

interface ScopeWordProps {
  title: string;
  scope: Scope;
  frame: Frame;
  onChange: (scope: Scope) => void;
  unsound: FieldProblem[];
  everything?: string;
}

export function ScopeWord({ title, scope, frame, onChange, unsound, everything = "everything" }: ScopeWordProps) {
  const { data } = useGoods();
  const goods = data?.goods ?? [];
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
    <Slip
      title={title}
      width={330}
      trigger={<Word unsound={unsound}>{scopeInWords(scope, everything, goods)}</Word>}
    >
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
        <input
          type="checkbox"
          checked={scope.reduced === "out"}
          onChange={(event) => onChange({ ...scope, reduced: event.target.checked ? "out" : "in" })}
        />
        Leave out goods already reduced
      </label>
      <Covered scope={scope} goods={goods} />
      <Faults of={unsound} />
    </Slip>
  );
}

function ProductPicker({ goods, skus, frame, onChange }: { goods: Good[]; skus: string[]; frame: Frame; onChange: (skus: string[]) => void }) {
  const id = useId();
  const [text, setText] = useState("");
  const wanted = useDeferredValue(text.trim().toLowerCase());
  const chosen = goods.filter((good) => skus.includes(good.sku));
  const matches = wanted
    ? goods.filter((good) => !skus.includes(good.sku) && `${good.sku} ${nameOf(good)}`.toLowerCase().includes(wanted))
    : [];
  return (
    <div className="mt-2">
      <label htmlFor={id} className="block text-small text-soft">
        Single products
      </label>
      <input id={id} type="search" className="w-full" placeholder="Name or SKU" value={text} onChange={(event) => setText(event.target.value)} />
      {[...chosen, ...matches.slice(0, MOST_FOUND)].map((good) => (
        <label key={good.sku} className="choice flex items-baseline gap-2.5">
          <input
            type="checkbox"
            checked={skus.includes(good.sku)}
            onChange={(event) => onChange(event.target.checked ? [...skus, good.sku] : skus.filter((sku) => sku !== good.sku))}
          />
          <span className="min-w-0">
            {nameOf(good)}
            <span className="block text-small text-soft">
              {good.standing == null ? "no price" : money(good.standing, frame)}, costs{" "}
              {good.unit_cost == null ? "unknown" : money(good.unit_cost, frame)}
            </span>
          </span>
        </label>
      ))}
      {matches.length > MOST_FOUND && <p className="text-small text-soft">and {matches.length - MOST_FOUND} more; type on.</p>}
      {wanted && matches.length === 0 && <p className="text-small text-soft">No product matches.</p>}
    </div>
  );
}

/** How many units a month the choice covers. */
function Covered({ scope, goods }: { scope: Scope; goods: Good[] }) {
  const { data: carts } = useCarts();
  if (!carts?.counted_days) return null;
  const all = scope.categories.length + scope.skus.length === 0;
  const has = (good: Good, categories: string[], skus: string[]) =>
    skus.includes(good.sku) || good.categories.some((name) => categories.includes(name));
  const meant = goods.filter(
    (good) =>
      (all || has(good, scope.categories, scope.skus)) &&
      !has(good, scope.except_categories, scope.except_skus) &&
      !(scope.reduced === "out" && good.reduced_price != null && good.reduced_price === good.standing),
  );
  const units = meant.reduce((sum, good) => sum + good.units, 0);
  return (
    <p className="mt-2 text-small text-soft">
      {count(meant.length)} {meant.length === 1 ? "product" : "products"}, {count((units * DAYS_A_MONTH) / carts.counted_days)} units a month
    </p>
  );
}
