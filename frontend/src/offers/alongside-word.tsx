/** Which other offers an offer does not go with. */
import type { Alongside, Terms } from "../api/types";
import { listed } from "../pieces/figures";
import { newTerms } from "../pieces/new-parts";
import { nameOfOffer, nameOfRunning } from "../pieces/offer-names";
import type { PartProps, Say, Token } from "./part";
import { Choices, ClauseWord, Ticks } from "../pieces/words";

type Mode = "none" | "some" | "all";

const BESIDE_ALL = newTerms([]).alongside;

export function alongsideTokens({ alongside }: Terms, say: Say): Token[] {
  const named = (mode: "named" | "all", ids: string[]) => (mode === "all" ? "any other offer" : listed(namesOf(ids, say), "or"));
  const never = named(alongside.never, alongside.never_with);
  const yields = named(alongside.yields, alongside.yields_to);
  const clauses = [never && `not with ${never}`, yields && `yielding to ${yields}`];
  const text = clauses.filter(Boolean).join(", ") || (say.held === "alongside" ? "beside any other offer" : "");
  return text ? [", ", { key: "alongside", text, word: (part) => <AlongsideWord {...{ alongside, part, text }} /> }] : [];
}

interface Other {
  id: string;
  name: string;
}

/** Every offer there is, by name: of the plan, and of those that run already. */
const all = ({ plan, running }: Say): Other[] => [
  ...plan.offers.map((offer) => ({ id: offer.id, name: nameOfOffer(plan, offer) })),
  ...running
    .filter((offer) => !plan.offers.some((one) => one.id === offer.id))
    .map((offer) => ({ id: offer.id, name: nameOfRunning(running, offer) })),
];

const namesOf = (ids: string[], say: Say): string[] =>
  all(say)
    .filter((one) => ids.includes(one.id))
    .map((one) => one.name);

function AlongsideWord({ alongside, part, text }: { alongside: Alongside; part: PartProps; text: string }) {
  const { edit, at } = part;
  const put = (change: Partial<Alongside>) =>
    edit((t) => ({ ...t, alongside: { ...t.alongside, ...change } }));
  return (
    <ClauseWord tall title="Beside which other offers" text={text} unsound={at("/alongside")} width={340} onOpenChange={(open) => part.hold(open ? "alongside" : null)} drop={() => edit((t) => ({ ...t, alongside: BESIDE_ALL }))}>
      <Others label="Never on one order with" mode={alongside.never} ids={alongside.never_with} part={part} onChange={(never, never_with) => put({ never, never_with })} />
      <Others label="Yields: only where none of these took effect" mode={alongside.yields} ids={alongside.yields_to} part={part} onChange={(yields, yields_to) => put({ yields, yields_to })} />
    </ClauseWord>
  );
}

interface OthersProps {
  label: string;
  mode: "named" | "all";
  ids: string[];
  part: PartProps;
  onChange: (mode: "named" | "all", ids: string[]) => void;
}

function Others({ label, mode, ids, part, onChange }: OthersProps) {
  const others = all(part).filter((one) => one.id !== part.offer.id);
  const value: Mode = mode === "all" ? "all" : ids.length ? "some" : "none";
  return (
    <fieldset className="mt-1">
      <legend className="text-small text-soft">{label}</legend>
      <Choices
        label={label}
        value={value}
        onChange={(next) => onChange(next === "all" ? "all" : "named", next === "some" ? others.slice(0, 1).map((offer) => offer.id) : [])}
        options={[
          ["none", "No other offer"],
          ...(others.length ? ([["some", "These offers"]] as const) : []),
          ["all", "Any other offer"],
        ]}
      />
      {value === "some" && (
        <Ticks
          label={label}
          all={others.map((one) => one.name)}
          ticked={namesOf(ids, part)}
          onChange={(names) => onChange("named", others.filter((one) => names.includes(one.name)).map((one) => one.id))}
        />
      )}
    </fieldset>
  );
}
