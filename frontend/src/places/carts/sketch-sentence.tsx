/** A sketched cart type as a sentence; every part that can be set is a word in it. */
import type { FieldProblem, Frame, Named } from "../../api/types";
import { count, days, listed, rate } from "../../pieces/figures";
import { changedAt } from "../../pieces/lists";
import { daysAfter, today } from "../../pieces/iso-days";
import { NumberBox } from "../../pieces/number-box";
import { NumberWord } from "../../pieces/number-word";
import { scopeInWords, ScopeWord } from "../../pieces/scope-word";
import { Slip } from "../../pieces/slip";
import { Choices, DayBox, Faults, Word } from "../../pieces/words";
import { MOST_UNITS, type Sketch, type SketchedLine } from "./sketch-text";
import { inOrder } from "./mixes";

const WHOLE = 10_000;
const SHARE = { scale: 100, step: 100, least: 0, most: WHOLE, unit: "%" };
const UNITS = { scale: 1, step: 1, least: 1, most: MOST_UNITS, unit: "units" };
const MOST_LINES = 20;

interface Props {
  one: Sketch;
  frame: Frame;
  goods: Named[];
  /** Whether there are other orders, whose zones and shoppers stand for what is not said. */
  hasHistory: boolean;
  unsound: FieldProblem[];
  set: (part: Partial<Sketch>) => void;
  setShare: (share_bp: number) => void;
  drop: () => void;
}

export function SketchSentence(props: Props) {
  const { one, frame, goods, unsound, set, setShare, drop } = props;
  const wrong = (start: string) => unsound.filter(({ pointer }) => pointer.split("/").slice(4).join("/").startsWith(start));
  return (
    <p className="text-sentence">
      <NameWord {...props} unsound={wrong("name")} />, <NumberWord title={`How many orders are ${one.name}`} unsound={wrong("share_bp")} figure={{ ...SHARE, label: "Share of all orders", value: one.share_bp, set: setShare }}>
        {rate(one.share_bp)}
      </NumberWord>{" "}
      of orders:{" "}
      {one.lines.map((line, at) => (
        <span key={at}>
          {at > 0 && (at === one.lines.length - 1 ? " and " : ", ")}
          <UnitsWord {...{ line }} unsound={wrong(`lines/${at}/most`)} set={(part) => set({ lines: changedAt(one.lines, at, part) })} drop={one.lines.length > 1 ? () => set({ lines: one.lines.toSpliced(at, 1) }) : undefined} />{" "}
          <ScopeWord title="Goods of the line" text={`of ${scopeInWords(line.of, goods, "anything")}`} scope={line.of} {...{ frame, goods }} unsound={wrong(`lines/${at}/of`)} onChange={(of) => set({ lines: changedAt(one.lines, at, { of }) })} />
        </span>
      ))}
      {one.lines.length < MOST_LINES && (
        <>
          {" "}
          <button type="button" className="quiet text-small" onClick={() => set({ lines: [...one.lines, { ...one.lines.at(-1)!, least: 1, most: 1 }] })}>
            and more
          </button>
        </>
      )}
      ;{" "}
      {frame.zones.length > 1 && (
        <>
          <ZonesWord {...props} unsound={wrong("zones")} />,{" "}
        </>
      )}
      <FirstWord {...props} unsound={wrong("first_bp")} />, <DaysWord {...props} unsound={wrong("last_day")} />.{" "}
      <button type="button" className="quiet text-small" onClick={drop}>
        Take off<span className="sr-only"> {one.name}</span>
      </button>
      <Faults of={unsound} />
    </p>
  );
}

function NameWord({ one, set, unsound }: Props) {
  return (
    <Slip title="What the type is called" width={320} trigger={<Word unsound={unsound}>{one.name || "a cart"}</Word>}>
      <label className="block text-small text-soft">
        Name
        <input autoFocus className="block w-full text-body text-ink" maxLength={80} value={one.name} onChange={(event) => set({ name: event.target.value })} />
      </label>
      <Faults of={unsound} />
    </Slip>
  );
}

function UnitsWord({ line, set, drop, unsound }: { line: SketchedLine; set: (part: Partial<SketchedLine>) => void; drop?: () => void; unsound: FieldProblem[] }) {
  const text = line.least === line.most ? `${count(line.least)}` : `${count(line.least)} to ${count(line.most)}`;
  return (
    <Slip title="How many units" width={330} trigger={<Word unsound={unsound}>{text}</Word>}>
      <div className="grid gap-2">
        <NumberBox {...UNITS} autoFocus buttons label="At least" value={line.least} onChange={(least) => set({ least, most: Math.max(line.most, least) })} />
        <NumberBox {...UNITS} buttons label="At most" value={line.most} onChange={(most) => set({ most, least: Math.min(line.least, most) })} />
      </div>
      <p className="mt-2 text-small text-soft">Each number between the two is as likely. All are of one product, the ones that sell more more often.</p>
      {drop && (
        <button type="button" className="quiet mt-2" onClick={drop}>
          Take this line off
        </button>
      )}
      <Faults of={unsound} />
    </Slip>
  );
}

function ZonesWord({ one, set, frame, hasHistory, unsound }: Props) {
  const told = one.zones.filter(({ share_bp }) => share_bp > 0);
  const whole = told.reduce((sum, zone) => sum + zone.share_bp, 0);
  const usual = hasHistory ? "sent where others are" : `all to ${frame.zones[0]}`;
  const text = told.length === 0 ? usual : told.length === 1 ? `all to ${told[0]!.zone}` : listed(told.map(({ zone, share_bp }) => `${rate((share_bp / whole) * WHOLE)} to ${zone}`));
  const shares = frame.zones.map((zone) => one.zones.find((told) => told.zone === zone)?.share_bp ?? 0);
  return (
    <Slip title="Where such carts go" width={340} trigger={<Word unsound={unsound}>{text}</Word>}>
      <Choices
        label="Where such carts go"
        value={one.zones.length ? "own" : "usual"}
        onChange={(value) => set({ zones: value === "usual" ? [] : frame.zones.map((zone, at) => ({ zone, share_bp: at === 0 ? WHOLE : 0 })) })}
        options={[
          ["usual", hasHistory ? "Where other orders go" : `All to ${frame.zones[0]}`],
          ["own", "As said here"],
        ]}
      />
      {one.zones.length > 0 && (
        <div className="mt-2 grid gap-2">
          {frame.zones.map((zone, at) => (
            <NumberBox key={zone} {...SHARE} label={zone} value={shares[at]!} onChange={(share_bp) => set({ zones: frame.zones.map((name, number) => ({ zone: name, share_bp: number === at ? share_bp : shares[number]! })) })} />
          ))}
        </div>
      )}
      <Faults of={unsound} />
    </Slip>
  );
}

function FirstWord({ one, set, hasHistory, unsound }: Props) {
  const usual = hasHistory ? "as many first orders as others" : "all first orders";
  const text = one.first_bp === null ? usual : `${rate(one.first_bp)} first orders`;
  return (
    <Slip title="Whose carts they are" width={330} trigger={<Word unsound={unsound}>{text}</Word>}>
      <NumberBox {...SHARE} autoFocus buttons label={`First orders; empty for ${usual}`} value={one.first_bp} onChange={(first_bp) => set({ first_bp })} onClear={() => set({ first_bp: null })} />
      <Faults of={unsound} />
    </Slip>
  );
}

function DaysWord({ one, set, unsound }: Props) {
  const { first_day, last_day } = one;
  const text = first_day && last_day ? days(first_day, last_day) : "on any day";
  const range = { first_day: first_day ?? today(), last_day: last_day ?? daysAfter(today(), 29) };
  return (
    <Slip title="When such carts come" width={360} trigger={<Word unsound={unsound}>{text}</Word>}>
      <Choices
        inRow
        label="When such carts come"
        value={first_day ? "days" : "any"}
        onChange={(value) => set(value === "any" ? { first_day: null, last_day: null } : range)}
        options={[
          ["any", "On any day"],
          ["days", "On these days"],
        ]}
      />
      {first_day && (
        <div className="mt-2 flex gap-3">
          <DayBox label="First day" value={range.first_day} onChange={(day) => day && set(inOrder(range, { first_day: day }))} />
          <DayBox label="Last day" value={range.last_day} onChange={(day) => day && set(inOrder(range, { last_day: day }))} />
        </div>
      )}
      <p className="mt-2 text-small text-soft">On other days its share goes to the other carts.</p>
      <Faults of={unsound} />
    </Slip>
  );
}
