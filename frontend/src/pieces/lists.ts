/** Lists: one thing in them otherwise (the list itself stays as it is), and names written one a line. */

export const replaced = <Item>(items: readonly Item[], at: number, item: Item): Item[] => items.with(at, item);

export const changedAt = <Item>(items: readonly Item[], at: number, part: Partial<Item>): Item[] => items.with(at, { ...items[at]!, ...part });

/** Each name once, as people part them. */
export const namesIn = (text: string): string[] => [...new Set(text.split(/[\n,;]+/).map((name) => name.trim()).filter(Boolean))];

/** The list with one of its things moved to another place. */
export const moved = <Item>(items: readonly Item[], from: number, to: number): Item[] => items.toSpliced(from, 1).toSpliced(to, 0, items[from]!);

/** A name as others are held against it: whatever its case and the way its letters are written. */
export const folded = (name: string): string => name.normalize("NFKC").toLowerCase();
