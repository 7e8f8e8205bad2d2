/** Offers and plans out to files and in from them. */
import { ApiError, ask } from "../api/client";
import { renewAll } from "../api/queries";
import type { Frame, OfferDoc, OffersFile } from "../api/types";
import { saveFile } from "./save-file";

const save = (name: string, told: unknown) => saveFile(`${fileName(name)}.json`, `${JSON.stringify(told, null, 2)}\n`, "application/json");

/** A name as files have it: letters and digits, joined by dashes. */
export const fileName = (name: string): string => name.replace(/[^\p{L}\p{N}]+/gu, "-").replace(/^-|-$/g, "").toLowerCase() || "yellow-abacus";

export const saveOffers = (name: string, offers: OfferDoc[], frame: Frame) => save(name, { currency: frame.currency, offers });

export const savePlan = async (id: number, name: string) => save(name, await ask("GET", `/plans/file?plan=${id}`));

/** How many plans of a file were brought in. Fails with what is wrong and where; then none was. */
export async function bringInPlans(file: File): Promise<number> {
  const { plans } = await sent<{ plans: number }>("/plans/file", file, "plans");
  await renewAll();
  return plans;
}

/** The offers of a file, with ids of their own. Fails with what is wrong and where. */
export const readOffers = async (file: File): Promise<OfferDoc[]> => (await sent<OffersFile>("/offers/read", file, "offers")).offers as OfferDoc[];

/** What the server answers to the JSON of a file. what: should be in it. */
async function sent<Answer>(path: string, file: File, what: string): Promise<Answer> {
  let told: unknown;
  try {
    told = JSON.parse(await file.text());
  } catch {
    throw refused(`${file.name} is not a JSON file. Choose one that was saved here, or one that follows the schema of ${what}.`);
  }
  try {
    return await ask<Answer>("POST", path, told);
  } catch (error) {
    if (error instanceof ApiError && error.fields[0]) {
      const { pointer, message, mend } = error.fields[0];
      throw refused(`${file.name}, at ${pointer || "the top"}: ${message} ${mend}`);
    }
    throw error;
  }
}

const refused = (detail: string) => new ApiError({ type: "about:blank", title: "The file cannot be taken", status: 422, detail, errors: [] });
