/** One thing otherwise, in words: what it is, and the editor behind it. */
import { useDelivery, useNames } from "../../api/queries";
import type { Delivery, Frame, Named, Plan } from "../../api/types";
import { cash, rate } from "../../pieces/figures";
import { NumberBox } from "../../pieces/number-box";
import { EVERYTHING, scopeInWords, ScopeWord } from "../../pieces/scope-word";
import { Slip } from "../../pieces/slip";
import { Choices } from "../../pieces/words";
import type { Otherwise } from "./columns";

type Kind = Otherwise["kind"];
type Of<K extends Kind> = Extract<Otherwise, { kind: K }>;
type Changing = Of<"prices"> | Of<"costs"> | Of<"tariffs">;

const MOST_CHANGE = 100_000;
const LEAST_CHANGE = -9_000;

const KINDS: readonly (readonly [Kind, string])[] = [
  ["free_from", "what delivery is free from"],
  ["prices", "what goods are sold at"],
  ["costs", "what goods cost"],
  ["tariffs", "what carriers ask"],
  ["combining", "what one order may combine"],
  ["apply", "which offers are kept where not all go together"],
];

const changed = (bp: number, up: string, down: string): string => (bp === 0 ? "as they are" : `${rate(Math.abs(bp))} ${bp > 0 ? up : down}`);

export function otherwiseInWords(one: Otherwise, frame: Frame, goods: Named[]): string {
  switch (one.kind) {
    case "free_from":
      return `delivery ${one.zone ? `to ${one.zone} ` : ""}${one.amount === null ? "never free" : `free from ${cash(one.amount, frame)}`}`;
    case "prices":
      return `prices of ${scopeInWords(one.on, goods)} ${changed(one.change_bp, "higher", "lower")}`;
    case "costs":
      return `costs of ${scopeInWords(one.on, goods)} ${changed(one.change_bp, "higher", "lower")}`;
    case "tariffs":
      return `${one.tariff || "all carriers"} ${changed(one.change_bp, "dearer", "cheaper")}`;
    case "combining":
      return `${one.codes_per_order === 1 ? "1 code" : `${one.codes_per_order} codes`} an order, ${one.self_applying === "one" ? "one offer" : "any offers"} by ${one.self_applying === "one" ? "itself" : "themselves"}${one.codes_with_self_applying ? "" : ", never both"}`;
    case "apply":
      return one.apply === "best" ? "the best for the shopper kept" : "the first in order kept";
  }
}

/** What a kind begins with, not far from how the shop is. */
function begin(kind: Kind, { frame, delivery, plan }: { frame: Frame; delivery: Delivery | undefined; plan: Plan }): Otherwise {
  const unit = 10 ** frame.minor_digits;
  const free = delivery?.zones.flatMap((zone) => zone.options).find((option) => option.free_from !== null)?.free_from;
  switch (kind) {
    case "free_from":
      return { kind, amount: free ? free + 10 * unit : 50 * unit, zone: "" };
    case "combining":
      return { kind, codes_per_order: (delivery?.settings.codes_per_order ?? 1) === 1 ? 2 : 1, self_applying: delivery?.settings.self_applying ?? "any", codes_with_self_applying: delivery?.settings.codes_with_self_applying ?? true };
    case "tariffs":
      return { kind, change_bp: 1_000, tariff: "" };
    case "apply":
      return { kind, apply: plan.apply === "best" ? "first" : "best" };
    case "prices":
    case "costs":
      return { kind, change_bp: 500, on: EVERYTHING };
  }
}

interface Props {
  /** What the button says. */
  words: string;
  name: string;
  otherwise: Otherwise | null;
  plan: Plan;
  frame: Frame;
  onChange: (otherwise: Otherwise) => void;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
}

/** The word that opens the slip in which one thing is said to be otherwise. */
export function OtherwiseWord({ words, name, otherwise, plan, frame, onChange, open, onOpenChange }: Props) {
  const { data: delivery } = useDelivery();
  return (
    <Slip
      title="One thing otherwise, to be seen here alone"
      width={400}
      {...{ open, onOpenChange }}
      trigger={
        <button type="button" className="quiet">
          {words}
          <span className="sr-only">: {name}</span>
        </button>
      }
    >
      <Choices label="What is otherwise" value={otherwise?.kind ?? ("" as Kind)} options={KINDS} onChange={(kind) => onChange(begin(kind, { frame, delivery, plan }))} />
      {otherwise && <div className="mt-2 grid gap-2 border-t border-line pt-2">{<Editor {...{ otherwise, frame, delivery, onChange }} />}</div>}
      <p className="mt-2 text-small text-soft">Nothing of the shop or the plan is changed.</p>
    </Slip>
  );
}

function Editor({ otherwise, frame, delivery, onChange }: Pick<Props, "frame" | "onChange"> & { otherwise: Otherwise; delivery: Delivery | undefined }) {
  switch (otherwise.kind) {
    case "free_from":
      return <FreeFrom one={otherwise} {...{ frame, onChange }} />;
    case "prices":
    case "costs":
      return (
        <>
          <Change one={otherwise} {...{ onChange }} />
          <OnGoods one={otherwise} {...{ frame, onChange }} />
        </>
      );
    case "tariffs":
      return (
        <>
          <Change one={otherwise} {...{ onChange }} />
          <label className="flex items-baseline gap-2">
            Tariff
            <select value={otherwise.tariff} onChange={(event) => onChange({ ...otherwise, tariff: event.target.value })}>
              <option value="">all of them</option>
              {delivery?.tariffs.map(({ tariff }) => <option key={tariff.name}>{tariff.name}</option>)}
            </select>
          </label>
        </>
      );
    case "combining":
      return <Combining one={otherwise} {...{ onChange }} />;
    case "apply":
      return (
        <Choices
          label="Which are kept"
          value={otherwise.apply}
          onChange={(apply) => onChange({ kind: "apply", apply })}
          options={[
            ["best", "Those that cost the shopper least together"],
            ["first", "The first on the rod shuts out later ones"],
          ]}
        />
      );
  }
}

interface EditorOf<K extends Kind> {
  one: Of<K>;
  onChange: (one: Otherwise) => void;
}

function FreeFrom({ one, frame, onChange }: EditorOf<"free_from"> & { frame: Frame }) {
  const unit = 10 ** frame.minor_digits;
  return (
    <>
      <Choices
        inRow
        label="Whether delivery is ever free"
        value={one.amount === null ? "never" : "from"}
        options={[
          ["from", "Free from a value"],
          ["never", "Never free"],
        ]}
        onChange={(way) => onChange({ ...one, amount: way === "never" ? null : 50 * unit })}
      />
      {one.amount !== null && (
        <NumberBox label="Delivery is free from" value={one.amount} scale={unit} digits={frame.minor_digits} step={5 * unit} least={1} most={1_000_000 * unit} unit={frame.currency} buttons autoFocus onChange={(amount) => onChange({ ...one, amount })} />
      )}
      <label className="flex items-baseline gap-2">
        Zone
        <select value={one.zone} onChange={(event) => onChange({ ...one, zone: event.target.value })}>
          <option value="">all of them</option>
          {frame.zones.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
    </>
  );
}

function Change<One extends Changing>({ one, onChange }: { one: One; onChange: (one: Otherwise) => void }) {
  return <NumberBox label={one.kind === "tariffs" ? "Dearer by (below 0: cheaper)" : "Higher by (below 0: lower)"} value={one.change_bp} scale={100} step={100} least={LEAST_CHANGE} most={MOST_CHANGE} unit="%" digits={0} buttons autoFocus onChange={(change_bp) => onChange({ ...one, change_bp })} />;
}

function OnGoods({ one, frame, onChange }: { one: Of<"prices"> | Of<"costs">; frame: Frame; onChange: (one: Otherwise) => void }) {
  const { data } = useNames();
  const [goods, on] = [data ?? [], one.on];
  return (
    <p>
      of <ScopeWord title="Of which goods" text={scopeInWords(on, goods)} scope={on} frame={frame} goods={goods} onChange={(next) => onChange({ ...one, on: next })} />
    </p>
  );
}

function Combining({ one, onChange }: EditorOf<"combining">) {
  return (
    <>
      <NumberBox
        label="Codes an order takes"
        value={one.codes_per_order}
        scale={1}
        step={1}
        least={1}
        most={8}
        buttons
        onChange={(codes_per_order) => onChange({ ...one, codes_per_order })}
      />
      <Choices
        label="Offers that apply by themselves"
        value={one.self_applying}
        options={[
          ["any", "Any number of offers applies by itself"],
          ["one", "One offer applies by itself"],
        ]}
        onChange={(self_applying) => onChange({ ...one, self_applying })}
      />
      <label className="choice flex items-center gap-2.5">
        <input type="checkbox" checked={one.codes_with_self_applying} onChange={(event) => onChange({ ...one, codes_with_self_applying: event.target.checked })} />
        Codes go with offers that apply by themselves
      </label>
    </>
  );
}

