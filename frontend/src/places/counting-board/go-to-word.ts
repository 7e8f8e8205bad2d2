/** Going from a slip to the word of an offer that it tells of. */
import { nearest } from "./spots";

/** A slip that closes gives the focus back first. */
const GONE_MS = 80;

/** The word that stands nearest to a path within the offer's terms gets the focus, or the offer's bead where none does. */
export function goToWord(offer: string, path: string, { opened = false } = {}): void {
  setTimeout(() => {
    const item = document.querySelector<HTMLElement>(`[data-offer="${CSS.escape(offer)}"]`);
    if (!item) return;
    item.scrollIntoView({ block: "center" });
    const words = [...item.querySelectorAll<HTMLElement>("[data-spot]")];
    const at = nearest(words.map((one) => one.dataset.spot!), path);
    const word = words.find((one) => one.dataset.spot === at);
    (word ?? item.querySelector("button"))?.focus();
    if (opened) word?.click();
  }, GONE_MS);
}
