/** A place in a text that is read from left to right: what is there is taken, or left for somebody else. */

/** What somebody wrote is not understood from here on. */
export class NotUnderstood extends Error {}

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

export class Cursor {
  private at = 0;

  constructor(readonly text: string) {}

  get rest(): string {
    return this.text.slice(this.at);
  }

  get ended(): boolean {
    return this.at >= this.text.length;
  }

  /** The match of a pattern just here, taken; null where it does not match. */
  take(pattern: RegExp): RegExpExecArray | null {
    const found = new RegExp(`^(?:${pattern.source})`, pattern.flags.replace("g", "")).exec(this.rest);
    if (found) this.at += found[0].length;
    return found;
  }

  /** Takes these words where they stand here. */
  has(words: string): boolean {
    return this.take(new RegExp(escaped(words), "i")) !== null;
  }

  /** Takes a pattern that has to be here. */
  must(pattern: RegExp): RegExpExecArray {
    const found = this.take(pattern);
    if (!found) throw new NotUnderstood(this.rest);
    return found;
  }

  /** What `read` reads here; nothing is taken where it does not understand. */
  maybe<Read>(read: () => Read): Read | null {
    const before = this.at;
    try {
      return read();
    } catch (error) {
      if (!(error instanceof NotUnderstood)) throw error;
      this.at = before;
      return null;
    }
  }

  /** One of some names, the longest that stands here; null where none does. */
  name(names: readonly string[]): string | null {
    const here = names.filter((one) => one !== "" && this.rest.toLowerCase().startsWith(one.toLowerCase()) && !/^[\p{L}\p{N}]/u.test(this.rest.slice(one.length)));
    const longest = here.reduce<string | null>((best, one) => (best !== null && best.length >= one.length ? best : one), null);
    if (longest !== null) this.at += longest.length;
    return longest;
  }

  /** Things in a row, as `listed` writes them: `a`, `a and b`, `a, b and c`. At least one. */
  row<Item>(read: () => Item, word: "and" | "or"): Item[] {
    const items = [read()];
    const more = () => {
      this.must(new RegExp(`, | ${word} `));
      return read();
    };
    for (let next = this.maybe(more); next !== null; next = this.maybe(more)) items.push(next);
    return items;
  }
}
