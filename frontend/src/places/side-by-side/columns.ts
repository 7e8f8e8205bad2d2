/** What stands side by side: plans by id, each as it is or with one thing otherwise. The address of the page keeps it. */
import type { Plan, SavedPlan, Twist } from "../../api/types";

/** A twist of the plan itself, or of the shop it is forecast in. */
export type Otherwise = Twist | { kind: "apply"; apply: Plan["apply"] };

/** plan: an id; null stands for no plan: the shop as it is today, but for the twist. */
export interface Chosen {
  plan: number | null;
  otherwise: Otherwise | null;
}

/** A column as it is asked for. key: the same for as long as it stands there. */
export interface Column {
  key: string;
  chosen: Chosen;
  name: string;
  plan: Plan;
  twist: Twist | null;
}

export const MOST_COLUMNS = 6;
const FIRST_COLUMNS = 4;

const KEPT = "yellow-abacus columns";

/** What the address says, or else what stood here last in this window, or else the first plans there are. */
export const standing = (address: string | null, saved: SavedPlan[]): Chosen[] => chosenIn(address ?? sessionStorage.getItem(KEPT), saved);

export const keepStanding = (chosen: Chosen[]) => sessionStorage.setItem(KEPT, addressOf(chosen));

/** What an address says, or else the first plans there are. */
function chosenIn(address: string | null, saved: SavedPlan[]): Chosen[] {
  const known = (one: Chosen) => one.plan === null || saved.some(({ id }) => id === one.plan);
  const told = address === null ? null : read(address);
  return told?.filter(known).slice(0, MOST_COLUMNS) ?? saved.slice(0, FIRST_COLUMNS).map(({ id }) => ({ plan: id, otherwise: null }));
}

function read(address: string): Chosen[] | null {
  try {
    const told: unknown = JSON.parse(address);
    return Array.isArray(told) ? told.flatMap((one) => (isChosen(one) ? [one] : [])) : null;
  } catch {
    return null;
  }
}

const isChosen = (one: unknown): one is Chosen =>
  typeof one === "object" && one !== null && "plan" in one && (one.plan === null || typeof one.plan === "number") && "otherwise" in one && typeof one.otherwise === "object";

export const addressOf = (chosen: Chosen[]): string => JSON.stringify(chosen);

/** A plan with nothing in it, over the days of another. */
const nothing = (beside: Plan): Plan => ({ ...beside, name: "Today", note: "", offers: [], cases: [], set_aside: [], dropped: [], sharp: null });

/** The columns, each with what it is called. inWords: of what is otherwise. */
export function columnsOf(chosen: Chosen[], saved: SavedPlan[], inWords: (otherwise: Otherwise) => string): Column[] {
  const planOf = (id: number | null) => saved.find((one) => one.id === id)?.plan;
  const first = chosen.map((one) => planOf(one.plan)).find((plan) => plan !== undefined);
  return chosen.flatMap((one, at) => {
    const plan = one.plan === null ? first && nothing(first) : planOf(one.plan);
    if (!plan) return [];
    const { otherwise } = one;
    const asked = otherwise?.kind === "apply" ? { ...plan, apply: otherwise.apply } : plan;
    const name = otherwise ? `${plan.name}, ${inWords(otherwise)}` : plan.name;
    return [{ key: `${at} ${one.plan}`, chosen: one, name: name.slice(0, 200), plan: asked, twist: otherwise && otherwise.kind !== "apply" ? otherwise : null }];
  });
}
