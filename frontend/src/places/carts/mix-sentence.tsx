/** A mix as a sentence: which part of the history to go by, and what will be otherwise. */
import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

import { usePlans } from "../../api/queries";
import type { FieldProblem, Frame, LeftOut, MixTerms, NamedDays, Segment } from "../../api/types";
import { count, soMany, days, rate } from "../../pieces/figures";
import { daysAfter, daysBetween } from "../../pieces/iso-days";
import { changedAt } from "../../pieces/lists";
import { NumberBox } from "../../pieces/number-box";
import { NumberWord } from "../../pieces/number-word";
import { Slip } from "../../pieces/slip";
import { cartsInWords, WhoseChoice } from "../../pieces/whose";
import { Choices, DayBox, Faults, Word } from "../../pieces/words";
import { inOrder, type Days, type Mix } from "./mixes";

const FACTOR = { scale: 100, step: 1_000, least: 0, most: 1_000_000, unit: "%" };

type PartProps = { mix: Mix; frame: Frame };

export function MixSentence({ mix, frame, hasHistory }: PartProps & { hasHistory: boolean }) {
  const { terms, change } = mix;
  const wrong = (start: string) => mix.problems.filter(({ pointer }) => pointer.startsWith(`/terms/${start}`));
  const without = <Item,>(items: readonly Item[], at: number) => items.toSpliced(at, 1);
  return (
    <p className="mt-1 text-sentence">
      {hasHistory && (
        <>
          Go by <CountedWord mix={mix} unsound={[...wrong("last_day"), ...wrong("first_day"), ...wrong("counted")]} />
        </>
      )}
      {terms.left_out.map((one, at) => (
        <span key={`out ${at}`}>
          , without{" "}
          <LeftOutWord
            {...{ one }}
            unsound={wrong(`left_out/${at}/`)}
            set={(part) => change({ left_out: changedAt(terms.left_out, at, part) })}
            drop={() => change({ left_out: without(terms.left_out, at) })}
          />
        </span>
      ))}
      {hasHistory ? "; expect " : "Expect "}
      {(terms.orders_a_day !== null || !hasHistory) && (
        <>
          <ADayWord {...{ mix, hasHistory }} unsound={wrong("orders_a_day")} /> and{" "}
        </>
      )}
      <NumberWord
        title="More or fewer orders than then"
        unsound={wrong("growth_bp")}
        figure={{ label: "More orders than the history had", value: terms.growth_bp, scale: 100, step: 100, least: -10_000, most: 1_000_000, unit: "%", set: (growth_bp) => change({ growth_bp, ...around(growth_bp, terms) }) }}
        more={<HowSure mix={mix} />}
      >
        {terms.growth_bp === 0 ? (terms.orders_a_day === null && hasHistory ? "as many orders" : "no growth") : `${rate(Math.abs(terms.growth_bp))} ${terms.growth_bp > 0 ? "more" : "fewer"} orders`}
      </NumberWord>
      {terms.named.map((one, at) => (
        <span key={`named ${at}`}>
          ,{" "}
          <NamedWord
            {...{ one }}
            unsound={wrong(`named/${at}/`)}
            set={(part) => change({ named: changedAt(terms.named, at, part) })}
            drop={() => change({ named: without(terms.named, at) })}
          />
        </span>
      ))}
      {terms.segments.map((one, at) => (
        <span key={`segment ${at}`}>
          ,{" "}
          <SegmentWord
            {...{ one, frame }}
            unsound={wrong(`segments/${at}/`)}
            set={(part) => change({ segments: changedAt(terms.segments, at, part) })}
            drop={() => change({ segments: without(terms.segments, at) })}
          />
        </span>
      ))}
      . <AndAlso {...{ mix, hasHistory }} />
    </p>
  );
}

function countedInWords({ counted, last_days, first_day, last_day }: MixTerms): string {
  switch (counted) {
    case "all":
      return "all of your history";
    case "last":
      return `its last ${soMany(last_days, "day")}`;
    case "range":
      return first_day && last_day ? days(first_day, last_day) : "some of its days";
    case "year_ago":
      return "the same weeks a year before";
  }
}

function CountedWord({ mix: { terms, change, history }, unsound }: { mix: Mix; unsound: FieldProblem[] }) {
  const range = { first_day: terms.first_day ?? history.first_day, last_day: terms.last_day ?? history.last_day };
  return (
    <Slip title="Which orders to go by" width={360} trigger={<Word unsound={unsound}>{countedInWords(terms)}</Word>}>
      <Choices
        label="Which orders to go by"
        value={terms.counted}
        onChange={(counted) => change(counted === "range" ? { counted, ...range } : { counted })}
        options={[
          ["all", "All of your history"],
          ["last", "Its last days"],
          ["range", "From one day to another"],
          ["year_ago", "The plan’s weeks a year before, and two more on either side"],
        ]}
      />
      {terms.counted === "last" && (
        <div className="mt-2">
          <NumberBox label="How many days" value={terms.last_days} scale={1} step={7} least={1} most={3_660} unit="days" buttons onChange={(last_days) => change({ last_days })} />
        </div>
      )}
      {terms.counted === "range" && (
        <div className="mt-2">
          <TwoDays {...range} set={change} />
        </div>
      )}
      <Faults of={unsound} />
    </Slip>
  );
}

interface EntryProps<One> {
  one: One;
  unsound: FieldProblem[];
  set: (part: Partial<One>) => void;
  drop: () => void;
}

function Entry({ title, text, unsound, drop, children }: { title: string; text: string; unsound: FieldProblem[]; drop: () => void; children: ReactNode }) {
  return (
    <Slip title={title} width={350} trigger={<Word unsound={unsound}>{text}</Word>}>
      {children}
      <button type="button" className="quiet mt-2" onClick={drop}>
        Take this off
      </button>
      <Faults of={unsound} />
    </Slip>
  );
}

function TwoDays({ first_day, last_day, set }: Days & { set: (days: Days) => void }) {
  const put = (part: Partial<Days>) => set(inOrder({ first_day, last_day }, part));
  return (
    <div className="flex gap-3">
      <DayBox label="First day" value={first_day} onChange={(day) => day && put({ first_day: day })} />
      <DayBox label="Last day" value={last_day} onChange={(day) => day && put({ last_day: day })} />
    </div>
  );
}

function TextBox({ label, value, onChange }: { label: string; value: string; onChange: (text: string) => void }) {
  return (
    <label className="mt-2 block text-small text-soft">
      {label}
      <input className="block w-full text-body text-ink" maxLength={80} value={value} onChange={(event) => onChange(event.target.value)} />
    </label>
  );
}

function ADayWord({ mix: { terms, change, seen }, hasHistory, unsound }: { mix: Mix; hasHistory: boolean; unsound: FieldProblem[] }) {
  const told = terms.orders_a_day ?? 0;
  return (
    <Slip title="Orders on an average day" width={330} trigger={<Word unsound={unsound}>{`${soMany(told, "order", told % 1 ? 1 : 0)} a day`}</Word>}>
      <NumberBox autoFocus buttons label="Orders a day" value={terms.orders_a_day} scale={1} step={1} least={0} most={1_000_000} fine unit="orders" onChange={(orders_a_day) => change({ orders_a_day })} />
      {hasHistory && seen && (
        <button type="button" className="quiet mt-2" onClick={() => change({ orders_a_day: null })}>
          As many as came: {count(seen.counted_orders / Math.max(seen.counted_days, 1), 1)} a day
        </button>
      )}
      <Faults of={unsound} />
    </Slip>
  );
}

function LeftOutWord({ one, unsound, set, drop }: EntryProps<LeftOut>) {
  return (
    <Entry title="Days that are not counted" text={`${days(one.first_day, one.last_day)}${one.why ? ` (${one.why})` : ""}`} {...{ unsound, drop }}>
      <TwoDays {...one} set={set} />
      <WhenAnOfferRan put={set} />
      <TextBox label="Why, such as a post everybody saw" value={one.why} onChange={(why) => set({ why })} />
    </Entry>
  );
}

/** The days on which an offer of a plan ran. */
function WhenAnOfferRan({ put }: { put: (part: Partial<LeftOut>) => void }) {
  const plans = usePlans().data?.plans ?? [];
  const ran = plans.flatMap(({ plan }) =>
    plan.offers.filter((offer) => offer.in_plan).map((offer, at) => ({
      why: offer.name || `offer ${at + 1} of ${plan.name}`,
      first_day: offer.terms.when.first_day ?? plan.first_day,
      last_day: offer.terms.when.last_day ?? plan.last_day,
    })),
  );
  if (ran.length === 0) return null;
  return (
    <label className="mt-2 block text-small text-soft">
      Or the days an offer ran
      <select className="block w-full text-body text-ink" value="" onChange={(event) => put(ran[Number(event.target.value)]!)}>
        <option value="" disabled>
          choose one
        </option>
        {ran.map((one, at) => (
          <option key={at} value={at}>
            {one.why}, {days(one.first_day, one.last_day)}
          </option>
        ))}
      </select>
    </label>
  );
}

function NamedWord({ one, unsound, set, drop }: EntryProps<NamedDays>) {
  const text = `${rate(one.factor_bp)} of the usual on ${days(one.first_day, one.last_day)}${one.name ? ` (${one.name})` : ""}`;
  return (
    <Entry title="Days with more or fewer orders" {...{ text, unsound, drop }}>
      <NumberBox {...FACTOR} label="Of the usual orders" value={one.factor_bp} buttons onChange={(factor_bp) => set({ factor_bp })} />
      <div className="mt-2">
        <TwoDays {...one} set={set} />
      </div>
      <TextBox label="What they are called" value={one.name} onChange={(name) => set({ name })} />
      <p className="mt-2 text-small text-soft">Days of the past count too: what came on them is held against this, so that a fair of last year is not taken for a busy month.</p>
    </Entry>
  );
}

function SegmentWord({ one, frame, unsound, set, drop }: EntryProps<Segment> & { frame: Frame }) {
  return (
    <Entry title="Carts that weigh more or less" text={`${cartsInWords(one)} at ${rate(one.times_bp)}`} {...{ unsound, drop }}>
      <WhoseChoice label="Whose carts" value={one} frame={frame} onChange={(whose) => whose && set(whose)} />
      <div className="mt-2">
        <NumberBox {...FACTOR} label="Of the weight they had" value={one.times_bp} buttons onChange={(times_bp) => set({ times_bp })} />
      </div>
      <p className="mt-2 text-small text-soft">This shifts shares; as many orders come as before.</p>
    </Entry>
  );
}

/** Adds a correction. */
function AndAlso({ mix: { terms, days: shown, change, seen, sketch }, hasHistory }: { mix: Mix; hasHistory: boolean }) {
  const aDay = Math.round((seen?.counted_orders ?? 0) / Math.max(seen?.counted_days ?? 1, 1));
  const additions: [string, () => void][] = [
    ...(hasHistory && terms.sketched.length === 0 ? [["sketch carts that do not exist yet", sketch] as [string, () => void]] : []),
    ...(hasHistory && terms.orders_a_day === null ? [["say how many orders come a day", () => change({ orders_a_day: aDay })] as [string, () => void]] : []),
    ["leave days out", () => change({ left_out: [...terms.left_out, { ...dayBefore(shown.first_day, 365), why: "" }] })],
    ["name busy or quiet days", () => change({ named: [...terms.named, { name: "", first_day: shown.first_day, last_day: shown.first_day, factor_bp: 15_000 }] })],
    ["let some carts weigh more", () => change({ segments: [...terms.segments, { of: "first", name: "", days: null, times_bp: 15_000 }] })],
  ];
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="quiet text-small">and also…</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="slip" align="start" sideOffset={6}>
          {additions.map(([words, add]) => (
            <DropdownMenu.Item key={words} className="choice before:content-['…_']" onSelect={add}>
              {words}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function dayBefore(day: string, back: number): Days {
  const found = daysAfter(day, -back);
  return { first_day: found, last_day: found };
}

/** The low and the high of growth move aside for what is likely. */
const around = (likely: number, { growth_low_bp: low, growth_high_bp: high }: MixTerms): Partial<MixTerms> =>
  low === null || high === null ? {} : { growth_low_bp: Math.min(low, likely), growth_high_bp: Math.max(high, likely) };

/** Between what bounds orders will come, nine times in ten. */
function HowSure({ mix: { terms, change, seen, days: shown } }: { mix: Mix }) {
  const { growth_bp, growth_low_bp: low, growth_high_bp: high } = terms;
  const put = (growth_low_bp: number | null, growth_high_bp: number | null) => change({ growth_low_bp, growth_high_bp });
  const before = seen?.before && {
    ...seen.before,
    low: asOff(growth_bp, seen.before.low_bp),
    high: asOff(growth_bp, seen.before.high_bp),
    days: count(daysBetween(shown.first_day, shown.last_day) + 1),
  };
  const history = before && (
    <p className="text-small">
      History, {count(before.stretches)} times {before.days} days: orders were {rate(before.low_bp)} to {rate(before.high_bp)} of what the days before them said, nine times in ten.{" "}
      {(before.low !== low || before.high !== high) && (
        <button type="button" className="quiet" onClick={() => put(before.low, before.high)}>
          Take it over<span className="sr-only"> as how sure you are</span>
        </button>
      )}
    </p>
  );
  if (low === null || high === null)
    return (
      <>
        {history}
        <button type="button" className="quiet justify-self-start text-small" onClick={() => put(growth_bp - 1_000, growth_bp + 1_000)}>
          Say how sure you are
        </button>
      </>
    );
  const bounds = { scale: 100, step: 100, unit: "%" };
  return (
    <>
      <p className="text-small text-soft">Nine times in ten between</p>
      <NumberBox label="Low" value={low} {...bounds} least={-9_900} most={growth_bp} onChange={(growth_low_bp) => change({ growth_low_bp })} />
      <NumberBox label="High" value={high} {...bounds} least={growth_bp} most={1_000_000} onChange={(growth_high_bp) => change({ growth_high_bp })} />
      {history}
      <button type="button" className="quiet justify-self-start text-small" onClick={() => put(null, null)}>
        One figure, no range
      </button>
    </>
  );
}

/** Growth where so many times as many orders come as it says, to whole percents. */
const asOff = (growth_bp: number, times_bp: number) => Math.round(((10_000 + growth_bp) * times_bp) / 1_000_000) * 100 - 10_000;
