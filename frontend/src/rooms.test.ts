import { expect, test } from "vitest";

/** What each room of the front end may use, from the ground up; a place uses no other place. */
const MAY_USE: Record<string, string[]> = { api: ["api"], pieces: ["api", "pieces"], offers: ["api", "pieces", "offers"], places: ["api", "pieces", "offers"] };

const files = import.meta.glob<string>("./*/**/*.{ts,tsx}", { query: "?raw", import: "default", eager: true });

/** `api/client` for what `places/till/till.tsx` calls `../../api/client`. */
function resolved(file: string, told: string): string {
  const path = file.split("/").slice(1, -1);
  for (const step of told.split("/")) {
    if (step === "..") path.pop();
    else if (step !== ".") path.push(step);
  }
  return path.join("/");
}

test.each(Object.entries(files))("%s uses only what its room may", (file, text) => {
  const [room = "", place = ""] = file.split("/").slice(1);
  const used = [...text.matchAll(/(?:from|import\()\s*"(\.[^"]+)"/g)].map(([, told]) => resolved(file, told!));
  const mine = room === "places" && file.split("/").length > 3 ? `places/${place}/` : `${room}/`;
  expect(used.filter((one) => !one.startsWith(mine) && !MAY_USE[room]!.some((may) => one.startsWith(`${may}/`)))).toEqual([]);
});
