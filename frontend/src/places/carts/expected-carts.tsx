/** The carts to expect: one sentence of what they come to, the sentence that says them, and their profiles. */
import { DropdownMenu } from "radix-ui";
import { useState } from "react";

import type { Frame, MixSeen, MixTerms } from "../../api/types";
import { soMany, days, listed, money, share } from "../../pieces/figures";
import { mixInWords, USUAL } from "../../pieces/mix-names";
import { Slip } from "../../pieces/slip";
import { DayBox, Faults, Word } from "../../pieces/words";
import { MixSentence } from "./mix-sentence";
import { inOrder, type Mix } from "./mixes";
import { ProfileRods } from "./profile-rods";
import { Sketches } from "./sketches";

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const MONTHS = ["January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December"];
const short = (names: string[], letters: number) => names.map((name) => name.slice(0, letters));
/** Days of a month that have to be counted for it to be told from others. */
const FEWEST_DAYS = 7;

export function ExpectedCarts({ mix, frame, hasHistory }: { mix: Mix; frame: Frame; hasHistory: boolean }) {
  const { seen, terms } = mix;
  return (
    <section aria-label="Carts to expect" className="min-w-0 flex-1">
      <h1 className="max-w-[62rem] text-answer">
        From <DaysWord mix={mix} /> expect <MixName mix={mix} />
        {seen ? (
          <>
            : {soMany(seen.orders, "order")}, {money(seen.orders ? seen.goods / seen.orders : 0, frame)} each
            {seen.first_share !== null && `, ${share(seen.first_share)} of them first orders`}; {seen.kept < 0 ? "you lose" : "you keep"}{" "}
            <b>{money(Math.abs(seen.kept), frame, { whole: true })}</b> before any offer.
          </>
        ) : (
          "…"
        )}
      </h1>
      <MixSentence {...{ mix, frame, hasHistory }} />
      <Faults of={mix.problems.filter(({ pointer }) => !pointer.startsWith("/terms/") || pointer === "/terms/sketched")} />
      {mix.isSketching && <Sketches {...{ mix, frame, hasHistory }} />}
      {!seen && <div className="mt-3 h-[9rem]" />}
      {seen && (
        <div className="mt-3 grid grid-cols-[minmax(0,7fr)_minmax(0,12fr)] items-end gap-x-10 max-[900px]:grid-cols-[minmax(0,1fr)]">
          <ProfileRods
            title="Over the week"
            names={short(WEEKDAYS, 2)}
            long={WEEKDAYS}
            profile={profileOf(terms.weekday_bp, seen.weekday)}
            counted={seen.weekday_counted}
            isOwn={terms.weekday_bp.length > 0}
            unseen={seen.tells_weekdays ? "" : seen.counted_days === 0 ? UNCOUNTED : "fewer than four weeks are counted: every day alike, until you say otherwise"}
            draft={(profile) => mix.draft({ weekday_bp: asBp(profile) })}
            put={(profile) => mix.change({ weekday_bp: profile ? asBp(profile) : [] })}
          />
          <ProfileRods
            title="Over the year"
            names={short(MONTHS, 3)}
            long={MONTHS}
            profile={profileOf(terms.month_bp, seen.month)}
            counted={seen.month_counted}
            isOwn={terms.month_bp.length > 0}
            unseen={unseenMonths(seen)}
            draft={(profile) => mix.draft({ month_bp: asBp(profile) })}
            put={(profile) => mix.change({ month_bp: profile ? asBp(profile) : [] })}
          />
        </div>
      )}
      {seen && <Added seen={seen} frame={frame} />}
    </section>
  );
}

const asBp = (profile: number[]) => profile.map((one) => Math.round(one * 10_000));

/** The merchant's own at once, while its answer is under way. */
const profileOf = (own: readonly number[], counted: readonly number[]) => (own.length ? own.map((one) => one / 10_000) : counted);

const UNCOUNTED = "all alike, until you say otherwise";

function unseenMonths({ days_of_month, counted_days }: MixSeen): string {
  if (counted_days === 0) return UNCOUNTED;
  const unseen = MONTHS.filter((_, at) => days_of_month[at]! < FEWEST_DAYS);
  if (unseen.length === 0) return "";
  const seen = 12 - unseen.length;
  return unseen.length > 4 ? `${seen === 1 ? "1 month is" : `${seen} months are`} counted, the others stand at 1` : `${listed(unseen)} not counted, and at 1`;
}

const PARTS: Record<string, string> = {
  counted: "going by those days",
  left_out: "the days left out",
  weekday_bp: "your week",
  month_bp: "your year",
  named: "the named days",
  orders_a_day: "your orders a day",
  sketched: "the sketched carts",
  growth_bp: "growth",
  segments: "the weights",
} satisfies Record<Exclude<keyof MixTerms, "last_days" | "first_day" | "last_day" | "growth_low_bp" | "growth_high_bp">, string>;

function Added({ seen, frame }: { seen: MixSeen; frame: Frame }) {
  if (seen.corrections.length === 0) return null;
  return (
    <p className="mt-1 text-small text-soft">
      Against all of your history as it was:{" "}
      {seen.corrections.map(({ part, orders, kept }, at) => (
        <span key={part}>
          {at > 0 && "; "}
          {PARTS[part]} <b className="text-ink">{money(kept, frame, { whole: true, signed: true })}</b>
          {Math.abs(orders) >= 0.5 && ` (${orders > 0 ? "+" : ""}${soMany(orders, "order")})`}
        </span>
      ))}
      .
    </p>
  );
}

function DaysWord({ mix }: { mix: Mix }) {
  const { first_day, last_day } = mix.days;
  return (
    <Slip title="The days to look at" width={340} trigger={<Word>{days(first_day, last_day)}</Word>}>
      <div className="flex gap-3">
        <DayBox label="First day" value={first_day} onChange={(day) => day && mix.setDays(inOrder(mix.days, { first_day: day }))} />
        <DayBox label="Last day" value={last_day} onChange={(day) => day && mix.setDays(inOrder(mix.days, { last_day: day }))} />
      </div>
      <p className="mt-2 text-small text-soft">A plan counts its own days; these are only what you look at here.</p>
    </Slip>
  );
}

/** Which mix is open, and what can be done with mixes. */
function MixName({ mix }: { mix: Mix }) {
  const [naming, setNaming] = useState(false);
  const [name, setName] = useState("");
  const taken = mix.names.some((one) => one.toLowerCase() === name.trim().toLowerCase());
  const isUsual = mix.name === USUAL;
  const said = mixInWords(mix.name);
  const keep = () => {
    if (!name.trim() || taken) return;
    mix.keepAs(name.trim());
    setNaming(false);
    setName("");
  };
  if (naming)
    return (
      <span className="text-body font-normal">
        <input
          autoFocus
          aria-label="Name of the carts to expect"
          className="w-48 align-middle"
          maxLength={80}
          value={name}
          aria-invalid={taken}
          onChange={(event) => setName(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Enter") keep();
            if (event.key === "Escape") setNaming(false);
          }}
        />{" "}
        <button type="button" className="press" disabled={!name.trim() || taken} onClick={keep}>
          Keep
        </button>
      </span>
    );
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="word" aria-label={`${said}. Choose or keep other carts to expect`}>
        {said}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="slip min-w-60 text-body font-normal" align="start" sideOffset={6}>
          <DropdownMenu.Label className="px-2 text-small text-soft">Carts to expect</DropdownMenu.Label>
          <DropdownMenu.RadioGroup value={mix.name} onValueChange={mix.choose}>
            {mix.names.map((one) => (
              <DropdownMenu.RadioItem key={one} value={one} className="choice flex items-center gap-2.5">
                <span aria-hidden className="flex size-3.5 items-center justify-center rounded-bead border-[1.5px] border-ink">
                  <DropdownMenu.ItemIndicator className="size-3.5 rounded-bead border-[1.5px] border-ink bg-yellow" />
                </span>
                {one === USUAL ? "The usual carts" : one}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.Separator className="my-1.5 border-t border-line" />
          <DropdownMenu.Item className="choice" onSelect={() => setTimeout(() => setNaming(true), 50)}>
            Keep these under another name
          </DropdownMenu.Item>
          <DropdownMenu.Item className="choice" onSelect={mix.forget}>
            {isUsual ? "As the history shows them" : "Forget these"}
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
