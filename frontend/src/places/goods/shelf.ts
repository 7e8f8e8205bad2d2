/** The goods that are shown, a page at a time as they come in sight, and the one way to save one of them. */
import { keepPreviousData, useQueries, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask } from "../../api/client";
import { queries, renewAll } from "../../api/queries";
import { turns } from "../../api/saving";
import type { Good, GoodBody, Goods, GoodSaved, Shown } from "../../api/types";
import { bodyOf } from "./good-body";
import type { Order } from "./goods-list";

const PAGE = 100;

export interface Looking extends Shown {
  by: Order;
}

export interface Shelf {
  head: Goods;
  /** The good at a place; undefined while it is on its way. */
  at: (place: number) => Good | undefined;
  /** Which places are in sight. */
  see: (first: number, last: number) => void;
}

const page = (looking: Looking, number: number) => ({
  queryKey: ["goods", "page", looking, number],
  queryFn: ({ signal }: { signal: AbortSignal }) =>
    ask<Goods>("GET", `/goods?${new URLSearchParams({ ...looking, first: String(number * PAGE), count: String(PAGE) }).toString()}`, undefined, signal),
});

export function useShelf(looking: Looking): Shelf | null {
  const [pages, setPages] = useState<[number, number]>([0, 0]);
  const { data: head } = useQuery({ ...page(looking, 0), placeholderData: keepPreviousData });
  const [first, last] = pages;
  const numbers = Array.from({ length: last - first + 1 }, (_, at) => first + at).filter((number) => number > 0);
  const more = useQueries({ queries: numbers.map((number) => page(looking, number)) });
  if (!head) return null;
  return {
    head,
    at: (place) => {
      const number = Math.floor(place / PAGE);
      const held = number === 0 ? head : more[numbers.indexOf(number)]?.data;
      return held?.goods[place - number * PAGE];
    },
    see: (from, to) => {
      const [low, high] = [Math.floor(from / PAGE), Math.floor(to / PAGE)];
      if (low !== first || high !== last) setPages([low, high]);
    },
  };
}

export const useGood = (sku: string | null) =>
  useQuery({ queryKey: ["goods", "one", sku], queryFn: () => ask<Good>("GET", `/goods/one?sku=${encodeURIComponent(sku!)}`), enabled: sku !== null });

/** Show a good otherwise wherever it is seen. */
function put(sku: string, change: (good: Good) => Good) {
  queries.setQueriesData<Goods>({ queryKey: ["goods", "page"] }, (held) => held && { ...held, goods: held.goods.map((good) => (good.sku === sku ? change(good) : good)) });
  queries.setQueryData<Good>(["goods", "one", sku], (held) => held && change(held));
}

function shown(sku: string): Good | undefined {
  const pages = queries.getQueriesData<Goods>({ queryKey: ["goods", "page"] });
  return queries.getQueryData<Good>(["goods", "one", sku]) ?? pages.flatMap(([, held]) => held?.goods ?? []).find((good) => good.sku === sku);
}

const inTurn = turns();
let waiting = 0;

/** Shown at once, sent in its turn with all that was changed before; what was answered before a newer change is not shown. */
export function saveGood(sku: string, part: Partial<GoodBody>, fresh?: GoodBody): Promise<void> {
  put(sku, (good) => ({ ...good, ...part }));
  waiting += 1;
  return inTurn(async () => {
    try {
      await queries.cancelQueries({ queryKey: ["goods"] });
      const kept = fresh ?? shown(sku);
      const { good } = await ask<GoodSaved>("PUT", `/goods/one?sku=${encodeURIComponent(sku)}`, { ...(kept && bodyOf(kept)), ...part });
      if (waiting === 1) put(sku, () => good);
      if (fresh) queries.setQueryData(["goods", "one", sku], good);
    } finally {
      waiting -= 1;
      if (waiting === 0) void renewAll();
    }
  });
}
