/** A handover as Markdown: the same parts in the same order as the page. */
import type { Frame } from "../../api/types";
import { count, days, money } from "../../pieces/figures";
import type { Handover, KeyIn } from "./handover";

const cell = (text: string): string => text.replace(/\|/g, "\\|").replace(/\n/g, " ");

const table = (heads: string[], rows: string[][]): string[] => (rows.length ? [`| ${heads.join(" | ")} |`, `|${" --- |".repeat(heads.length)}`, ...rows.map((row) => `| ${row.map(cell).join(" | ")} |`), ""] : []);

const pairs = (rows: KeyIn[]): string[] => rows.map(({ what, is }) => `- **${what}**: ${is}`);

export function asMarkdown(told: Handover, frame: Frame): string {
  const lines = [
    `# ${told.plan}`,
    "",
    `${told.shop}, ${days(told.first_day, told.last_day)}. Times are those of ${told.time_zone}.`,
    "",
    told.answer,
    "",
    "## What to key in",
    "",
    ...told.offers.flatMap((one, at) => [
      `### ${at + 1}. ${one.name}`,
      "",
      one.sentence,
      "",
      ...pairs(one.key_in),
      ...(one.codes.length > 1 ? [`- **Codes**: ${one.codes.join(", ")}`] : []),
      ...(one.note ? ["", `> ${one.note.replace(/\n/g, "\n> ")}`] : []),
      "",
    ]),
    "## What must not go together",
    "",
    ...told.apart.map((one) => `- ${one}`),
    "",
    "## What shoppers are told",
    "",
    ...told.offers.flatMap(({ name, told: { before, near, earned, refused } }) => [`- **${name}**`, `  - before: ${before}`, ...(near ? [`  - near it: ${near}`] : []), `  - on earning it: ${earned}`, `  - refused: ${refused}`]),
    "",
    "## Carts to try in the shop",
    "",
    ...table(
      ["Offer", "Try", "Cart", "Sent", "Must come to"],
      told.tries.map((one) => [one.of, one.what + (one.says ? ` (${one.says})` : ""), one.cart, one.where, money(one.pays, frame)]),
    ),
    "## After it went live",
    "",
    ...told.checks.map((one) => `- [ ] ${one}`),
    "",
    ...(told.stock.length
      ? ["## Stock to set aside", "", ...table(["Goods", "SKU", "Set aside", "In stock"], told.stock.map((one) => [one.name, one.sku, count(one.set_aside), count(one.in_stock)]))]
      : []),
    "## Who to tell",
    "",
    ...pairs(told.tell),
  ];
  return `${lines.join("\n").replace(/\n{3,}/g, "\n\n").trimEnd()}\n`;
}
