/** Who else pays for an offer: a supplier's share of it. */
import type { Terms } from "../api/types";
import { rate } from "../pieces/figures";
import { NumberWord } from "./number-word";
import { amountFigure, rateFigure, type PartProps, type Say, type Slot, type Token } from "./part";

type Funded = Terms["funded"];
type Field = keyof Funded;

export function fundedTokens({ funded }: Terms, { cash, held }: Say): Token[] {
  const texts: Record<Field, string> = { share_bp: `${rate(funded.share_bp)} of it`, each: `${cash(funded.each)} for each unit` };
  const said = (["share_bp", "each"] as const).filter((field) => funded[field] > 0 || held === `funded ${field}`);
  if (said.length === 0) return [];
  return [", a supplier pays ", ...said.flatMap((field, at): Token[] => [...(at ? [" and "] : []), { key: `funded ${field}`, text: texts[field], word: (part) => <FundedWord {...{ part, field, text: texts[field] }} /> }])];
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
      figure={field === "share_bp" ? rateFigure(part, slot, { label: "Of what it gives", least: 0 }) : amountFigure(part, slot, { label: "For each unit", least: 0, step: Math.max(1, part.unit / 10) })}
      more={
        <span className="flex flex-wrap gap-x-4 gap-y-1 text-small">
          {funded[other] === 0 && (
            <button type="button" className="quiet" onClick={() => part.edit((t) => ({ ...t, funded: { ...t.funded, [other]: other === "each" ? part.unit : 5_000 } }))}>
              {other === "each" ? "and an amount for each unit" : "and a share of it"}
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
