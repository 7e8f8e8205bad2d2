/** Goods put in the cart from the keyboard: words of a name or SKU, how many in front, and Enter. */
import { useDeferredValue, useId, useMemo, useRef, useState, type KeyboardEvent } from "react";

import { useNames } from "../../api/queries";
import type { Frame, Named } from "../../api/types";
import { money } from "../../pieces/figures";
import { useKey } from "../../pieces/keys";
import { nameOf } from "../../pieces/product-picker";
import { typedGood } from "./carts";

const MOST_FOUND = 7;

interface AddProps {
  frame: Frame;
  add: (sku: string, units: number) => void;
}

export function AddGood({ frame, add }: AddProps) {
  const { data } = useNames();
  const id = useId();
  const box = useRef<HTMLInputElement>(null);
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  useKey("n", "put another product in the cart", () => box.current?.focus());
  const { units, words } = typedGood(text);
  const wanted = useDeferredValue(words.join(" "));
  const found = useMemo(() => matches(data ?? [], wanted), [data, wanted]);
  const take = (good: Named | undefined) => {
    if (!good) return;
    add(good.sku, units);
    setText("");
    setAt(0);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const way = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (way && found.length) setAt((at + way + found.length) % found.length);
    else if (event.key === "Enter") take(matches(data ?? [], words.join(" "))[at]);
    else if (event.key === "Escape") setText("");
    else return;
    event.preventDefault();
  };
  const open = words.length > 0;
  return (
    <div className="relative">
      <label htmlFor={id} className="sr-only">
        Put in the cart
      </label>
      <input
        id={id}
        ref={box}
        role="combobox"
        aria-expanded={open}
        aria-controls={`${id}-found`}
        aria-activedescendant={open && found[at] ? `${id}-${at}` : undefined}
        aria-autocomplete="list"
        autoComplete="off"
        className="w-full"
        placeholder="Put in the cart: “3 fern”, a name, a SKU  (n)"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
        onBlur={() => setText("")}
      />
      {open && (
        <ul id={`${id}-found`} role="listbox" aria-label="Products" className="slip absolute inset-x-0 top-full mt-1 p-1.5!">
          {found.map((good, n) => (
            <li key={good.sku} id={`${id}-${n}`} role="option" aria-selected={n === at} className={`choice flex justify-between gap-3 ${n === at ? "bg-line" : ""}`} onMouseDown={(event) => event.preventDefault()} onClick={() => take(good)}>
              <span className="min-w-0 truncate">
                {units > 1 && <b>{units} × </b>}
                {nameOf(good)} <span className="text-small text-soft">{good.sku}</span>
              </span>
              <span className="shrink-0 text-small">{good.standing == null ? "no price" : money(good.standing, frame)}</span>
            </li>
          ))}
          {found.length === 0 && <li className="px-2 text-soft">Nothing has these words.</li>}
        </ul>
      )}
    </div>
  );
}

function matches(goods: Named[], wanted: string): Named[] {
  const words = wanted.split(" ").filter(Boolean);
  if (words.length === 0) return [];
  const text = (good: Named) => `${good.sku} ${nameOf(good)} ${good.brand} ${good.categories.join(" ")}`.toLowerCase();
  return goods.filter((good) => !good.gift_only && words.every((word) => text(good).includes(word))).slice(0, MOST_FOUND);
}
