/** What the places read, each under one key, so that a change anywhere is seen everywhere. */
import { keepPreviousData, notifyManager, QueryClient, replaceEqualDeep, useQuery } from "@tanstack/react-query";

import { ask } from "./client";
import type { Against, CartTypes, AllTaken, Carts, Delivery, FoundOrders, Frame, KeptLine, KeptRecord, MixGroups, MixSeen, MixTerms, Mixes, Named, Names, OfferDoc, OpenTo, Order, Plan, Plans, SavedPlan, SoldTogether, Spread, SpreadBy, ToldOfDelivery } from "./types";

export const queries = new QueryClient({
  defaultOptions: { queries: { retry: false, staleTime: 30_000, refetchOnWindowFocus: true } },
});

// What was kept is on the screen before whoever kept it goes on: what stood in for it until then is let go after that.
notifyManager.setScheduler(queueMicrotask);

/** Of a query whose key holds the version of the shop's data: it is asked anew under the next version alone. */
export const BY_VERSION = { byVersion: true };

/** What the server keeps in one piece; `version` goes up with every change. */
export interface Versioned {
  version: number;
}

/** Of two answers the newer one, whichever came last. */
function newer<Kept extends Versioned>(before: unknown, after: unknown): Kept {
  const [held, told] = [before as Kept | undefined, after as Kept];
  return held && told.version < held.version ? held : replaceEqualDeep(held, told);
}

/** A plan as the server has it now, in the place of what was known of it. */
export const keepPlan = (kept: SavedPlan) =>
  queries.setQueryData<Plans>(["plans"], (all) => all && { plans: all.plans.map((one) => (one.id === kept.id ? kept : one)) });

const NONE: OfferDoc[] = [];
/** The offers that run already. */
export const RUNNING = { queryKey: ["running"], queryFn: () => ask<{ offers: OfferDoc[] }>("GET", "/running") };
export const useRunning = (): OfferDoc[] => useQuery(RUNNING).data?.offers ?? NONE;

export const useFrame = () => useQuery({ queryKey: ["frame"], queryFn: () => ask<Frame>("GET", "/frame") });
/** All goods by name; they come as columns, which is a tenth of the way. */
export const useNames = () => useQuery({ queryKey: ["goods", "names"], queryFn: async () => named(await ask<Names>("GET", "/goods/names")) });

function named(names: Names): Named[] {
  const fields = Object.keys(names) as (keyof Names)[];
  return names.sku.map((_, at) => Object.fromEntries(fields.map((field) => [field, names[field][at]])) as unknown as Named);
}

export const useDelivery = () =>
  useQuery({ queryKey: ["delivery"], queryFn: () => ask<Delivery>("GET", "/delivery"), structuralSharing: newer<Delivery> });
export const useTaken = () => useQuery({ queryKey: ["delivery", "taken"], queryFn: () => ask<AllTaken>("GET", "/delivery/taken") });
/** What orders tell of how they were delivered and paid. */
export const useToldOfDelivery = () => useQuery({ queryKey: ["delivery", "told"], queryFn: () => ask<ToldOfDelivery>("GET", "/delivery/told") });
export const useCarts = () => useQuery({ queryKey: ["carts"], queryFn: () => ask<Carts>("GET", "/carts") });
export const useTypes = () => useQuery({ queryKey: ["types"], queryFn: ({ signal }) => ask<CartTypes>("GET", "/types", undefined, signal) });
export const useMixes = () =>
  useQuery({ queryKey: ["mixes"], queryFn: () => ask<Mixes>("GET", "/mixes"), structuralSharing: newer<Mixes> });

/** What a mix comes to over some days; the last answer stays until there is another. */
export const useMixSeen = (terms: MixTerms, first_day: string, last_day: string, enabled: boolean) =>
  useQuery({
    queryKey: ["mixes", "seen", terms, first_day, last_day],
    queryFn: ({ signal }) => ask<MixSeen>("POST", "/mixes/seen", { terms, first_day, last_day }, signal),
    placeholderData: keepPreviousData,
    enabled,
  });

/** The carts of a mix over some days by what is in them. openTo: whose of them are told in finer bands, each by its key. */
export const useSpread = (terms: MixTerms, first_day: string, last_day: string, by: SpreadBy, openTo: ReadonlyMap<string, OpenTo>) =>
  useQuery({
    queryKey: ["mixes", "spread", terms, first_day, last_day, by, ...openTo.keys()],
    queryFn: async ({ signal }) => {
      const found = await ask<Spread>("POST", "/mixes/spread", { terms, first_day, last_day, by, open_to: [...openTo.values()] }, signal);
      return { ...found, bands: Object.fromEntries([...openTo.keys()].map((key, at) => [key, found.open_to[at]])) };
    },
    placeholderData: keepPreviousData,
  });

/** The carts of a mix over some days by whose they are and when they come. */
export const useMixGroups = (terms: MixTerms, first_day: string, last_day: string) =>
  useQuery({
    queryKey: ["mixes", "groups", terms, first_day, last_day],
    queryFn: ({ signal }) => ask<MixGroups>("POST", "/mixes/groups", { terms, first_day, last_day }, signal),
    placeholderData: keepPreviousData,
  });

export const useSoldTogether = (terms: MixTerms, first_day: string, last_day: string) =>
  useQuery({
    queryKey: ["mixes", "together", terms, first_day, last_day],
    queryFn: ({ signal }) => ask<SoldTogether>("POST", "/mixes/together", { terms, first_day, last_day }, signal),
    placeholderData: keepPreviousData,
  });

export const useFoundOrders = (text: string, enabled: boolean) =>
  useQuery({
    queryKey: ["orders", text],
    queryFn: ({ signal }) => ask<FoundOrders>("GET", `/orders?text=${encodeURIComponent(text)}`, undefined, signal),
    placeholderData: keepPreviousData,
    enabled,
  });
export const useOrder = (id: number | null) =>
  useQuery({ queryKey: ["orders", "one", id], queryFn: ({ signal }) => ask<Order>("GET", `/orders/${id}`, undefined, signal), enabled: id !== null });

/** Forecasts that were kept, the newest first. */
export const useKept = () => useQuery({ queryKey: ["kept"], queryFn: () => ask<{ kept: KeptLine[] }>("GET", "/kept") });
/** A kept forecast, held against what came. */
export const useAgainst = (id: number | null, version: number) =>
  useQuery({ queryKey: ["kept", id, version], queryFn: ({ signal }) => ask<Against>("GET", `/kept/${id}`, undefined, signal), enabled: id !== null, placeholderData: keepPreviousData });
/** How good the kept forecasts were. */
export const useRecord = (version: number) => useQuery({ queryKey: ["kept", "record", version], queryFn: ({ signal }) => ask<KeptRecord>("GET", "/kept-record", undefined, signal) });
/** Keep what a plan's forecast says now. */
export async function keepForecast(plan: Plan): Promise<void> {
  queries.setQueryData(["kept"], await ask<{ kept: KeptLine[] }>("POST", "/kept", plan));
  await queries.invalidateQueries({ queryKey: ["frame"] });
}

export const usePlans = () => useQuery({ queryKey: ["plans"], queryFn: () => ask<Plans>("GET", "/plans") });

/** Read everything again: after an import, an undo, or a change of settings. */
export const renewAll = () => queries.invalidateQueries();
