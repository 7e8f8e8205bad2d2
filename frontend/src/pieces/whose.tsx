/** Whose orders are meant: some shoppers, or some kind of cart. */
import { useTypes } from "../api/queries";
import type { Frame, Whose } from "../api/types";
import { soMany } from "./figures";
import { NumberBox } from "./number-box";
import { Choices } from "./words";

const KINDS: [Whose["of"], string][] = [
  ["first", "First orders"],
  ["returning", "Returning shoppers"],
  ["zone", "A zone"],
  ["channel", "A channel"],
  ["category", "Carts mostly of a category"],
  ["type", "Carts of a type"],
  ["away", "Shoppers who were long away"],
];
const LONG_AWAY = 90;

/** Their carts, as a part of a sentence. */
export function cartsInWords({ of, name, days }: Whose): string {
  switch (of) {
    case "first":
      return "first orders";
    case "returning":
      return "returning shoppers";
    case "away":
      return `shoppers ${soMany(days ?? 0, "day")} away or more`;
    case "type":
      return `carts like “${name || "…"}”`;
    case "category":
      return `carts mostly of ${name || "a category"}`;
    default:
      return name || `a ${of}`;
  }
}

/** Some of the shoppers told of before. */
export function shoppersInWords({ of, name, days }: Whose): string {
  switch (of) {
    case "first":
      return "with their first order";
    case "returning":
      return "who come back";
    case "away":
      return `away for ${soMany(days ?? 0, "day")} or more`;
    case "type":
      return `with carts like “${name || "…"}”`;
    case "category":
      return `who buy mostly ${name || "one category"}`;
    case "zone":
      return `in ${name || "one zone"}`;
    case "channel":
      return `from ${name || "one channel"}`;
  }
}

interface WhoseChoiceProps {
  label: string;
  value: Whose | null;
  frame: Frame;
  onChange: (whose: Whose | null) => void;
  /** What it is called that nobody is left out; not offered where it is not said. */
  all?: string;
  /** Kinds that are not offered. */
  without?: readonly Whose["of"][];
}

/** Chooses among what the shop has. */
export function WhoseChoice({ label, value, frame, onChange, all, without = [] }: WhoseChoiceProps) {
  const { data: types } = useTypes();
  const named: Partial<Record<Whose["of"], string[]>> = {
    zone: frame.zones,
    channel: frame.shoppers.channels,
    category: frame.categories,
    type: types?.types.map((type) => type.name),
  };
  const names = (value && named[value.of]) ?? [];
  const offered = KINDS.filter(([of]) => value?.of === of || (!without.includes(of) && (!(of in named) || named[of]?.length)));
  const choose = (of: Whose["of"] | "all") => onChange(of === "all" ? null : { of, name: named[of]?.[0] ?? "", days: of === "away" ? LONG_AWAY : null });
  return (
    <>
      <Choices label={label} value={value?.of ?? "all"} onChange={choose} options={all === undefined ? offered : [["all", all], ...offered]} />
      {value && names.length > 0 && (
        <label className="mt-2 block text-small text-soft">
          Which
          <select className="ms-2 text-body text-ink" value={value.name} onChange={(event) => onChange({ ...value, name: event.target.value })}>
            {[...new Set([...names, value.name])].map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
      )}
      {value?.of === "away" && (
        <div className="mt-2">
          <NumberBox label="Days since their last order, at least" value={value.days} scale={1} step={10} least={1} most={3_660} unit="days" onChange={(days) => onChange({ ...value, days })} />
        </div>
      )}
    </>
  );
}
