/** Pictures are drawn at the width they have, with letters of one size. */
import { useLayoutEffect, useRef, useState, type RefObject } from "react";

/** The width of a box in pixels, now and whenever it changes. `otherwise`: until it is known. */
export function useWidth<Box extends HTMLElement>(otherwise: number): [RefObject<Box | null>, number] {
  const box = useRef<Box>(null);
  const [width, setWidth] = useState(otherwise);
  useLayoutEffect(() => {
    const at = box.current;
    if (!at) return;
    const measure = () => setWidth(Math.max(Math.floor(at.getBoundingClientRect().width), 120));
    measure();
    const watcher = new ResizeObserver(measure);
    watcher.observe(at);
    return () => watcher.disconnect();
  }, []);
  return [box, width];
}

/** About how wide a letter is, as a share of its height. */
const LETTER = 0.53;

/** How wide a text is, about. */
export const widthOf = (text: string, size: number): number => text.length * size * LETTER;

/** The text in lines no wider than there is room, words kept whole. */
export function linesOf(text: string, room: number, size: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(" ")) {
    const last = lines.at(-1);
    if (last !== undefined && widthOf(`${last} ${word}`, size) <= room) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}

/** The text cut where there is no more room for it. */
export function cutTo(text: string, room: number, size: number): string {
  const most = Math.max(Math.floor(room / (size * LETTER)), 2);
  return text.length <= most ? text : `${text.slice(0, most - 1).trimEnd()}…`;
}
