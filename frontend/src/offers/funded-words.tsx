/** Who else pays for an offer: a supplier's share of it. */
import type { Frame, Scope, Terms } from "../api/types";
import { rate } from "../pieces/figures";
import { EVERYTHING, isEverything } from "../pieces/scope-word";
import { NumberWord } from "./number-word";
import { amountFigure, rateFigure, type PartProps, type Say, type Slot, type Token } from "./part";
import { scopeToken } from "./scope-token";

/** A first choice of what a supplier may pay for: those of a brand, where there are any. */
const firstGoods = ({ brands, categories }: Frame): Scope => (brands.length > 0 ? { ...EVERYTHING, brands: brands.slice(0, 1) } : { ...EVERYTHING, categories: categories.slice(0, 1) });

type Funded = Terms["funded"];
type Field = Exclude<keyof Funded, "of">;

/** The word for the goods a supplier pays for. */
const OF = "funded of";

export function fundedTokens({ funded }: Terms, say: Say): Token[] {
  const { cash, held } = say;
  const texts: Record<Field, string> = { share_bp: `${rate(funded.share_bp)} of it`, each: `${cash(funded.each)} for each unit` };
  const said = (["share_bp", "each"] as const).filter((field) => funded[field] > 0 || held === `funded ${field}`);
  if (said.length === 0) return [];
  const what = said.flatMap((field, at): Token[] => [...(at ? [" and "] : []), { key: `funded ${field}`, text: texts[field], word: (part) => <FundedWord {...{ part, field, text: texts[field] }} /> }]);
  const put = (of: Scope) => (t: Terms): Terms => ({ ...t, funded: { ...t.funded, of } });
  const which = scopeToken("For which goods a supplier pays", { path: "/funded/of", value: funded.of, put }, say, undefined, OF);
  return [", a supplier pays ", ...what, ...(isEverything(funded.of) && held !== OF ? [] : [" on ", which])];
}

function FundedWord({ part, field, text }: { part: PartProps; field: Field; text: string }) {
  const { funded } = part.terms;
  const put = (value: number) => (t: Terms): Terms => ({ ...t, funded: { ...t.funded, [field]: value } });
  const slot: Slot<number> = { path: `/funded/${field}`, value: funded[field], put };
  const title = field === "share_bp" ? "What a supplier pays of what it gives" : "What a supplier pays for each unit it gives something on";
  const other: Field = field === "share_bp" ? "each" : "share_bp";
  return (
    <NumberWord
      title={title}
      currency={part.frame}
      unsound={part.at(slot.path)}
      figure={field === "share_bp" ? rateFigure(part, slot, { label: "Of what it gives", least: 0 }) : amountFigure(part, slot, { label: "For each unit", least: 0, step: Math.max(1, part.round / 10) })}
      more={
        <span className="flex flex-wrap gap-x-4 gap-y-1 text-small">
          {funded[other] === 0 && (
            <button type="button" className="quiet" onClick={() => part.edit((t) => ({ ...t, funded: { ...t.funded, [other]: other === "each" ? part.round : 5_000 } }))}>
              {other === "each" ? "and an amount for each unit" : "and a share of it"}
            </button>
          )}
          {isEverything(funded.of) && (
            <button type="button" className="quiet" onClick={() => part.edit((t) => ({ ...t, funded: { ...t.funded, of: firstGoods(part.frame) } }))}>
              on some goods alone
            </button>
          )}
          <button type="button" className="quiet" onClick={() => part.edit(put(0))}>
            No such share
          </button>
        </span>
      }
    >
      {text}
    </NumberWord>
  );
}
