/** Offers out to a file and in from one. */
import { ApiError, ask } from "../../api/client";
import type { Frame, OfferDoc, OffersFile } from "../../api/types";
import { saveFile } from "./save-file";

export function saveOffers(name: string, offers: OfferDoc[], frame: Frame) {
  const file = { currency: frame.currency, offers };
  const safe = name.replace(/[^\p{L}\p{N}]+/gu, "-").replace(/^-|-$/g, "").toLowerCase();
  saveFile(`${safe || "offers"}.json`, `${JSON.stringify(file, null, 2)}\n`, "application/json");
}

/** The offers of a file, with ids of their own. Fails with what is wrong and where. */
export async function readOffers(file: File): Promise<OfferDoc[]> {
  let told: unknown;
  try {
    told = JSON.parse(await file.text());
  } catch {
    throw refused(`${file.name} is not a JSON file. Choose one that was saved here, or one that follows the schema of offers.`);
  }
  try {
    const { offers } = await ask<OffersFile>("POST", "/offers/read", told);
    return offers as OfferDoc[];
  } catch (error) {
    if (error instanceof ApiError && error.fields[0]) {
      const { pointer, message, mend } = error.fields[0];
      throw refused(`${file.name}, at ${pointer || "the top"}: ${message} ${mend}`);
    }
    throw error;
  }
}

const refused = (detail: string) => new ApiError({ type: "about:blank", title: "The file cannot be taken", status: 422, detail, errors: [] });
