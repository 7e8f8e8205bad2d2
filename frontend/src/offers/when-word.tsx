/** When an offer is open: its days, moments, weekdays and hours. */
import type { Plan, Terms, When } from "../api/types";
import { days, listed } from "../pieces/figures";
import type { Say, Token } from "./part";
import { Choices, ClauseWord, DayBox, spot, Ticks, TimeBox } from "../pieces/words";

export const WEEKDAYS = ["Mondays", "Tuesdays", "Wednesdays", "Thursdays", "Fridays", "Saturdays", "Sundays"];

const clock = (minute: number): string => `${Math.floor(minute / 60)}:${String(minute % 60).padStart(2, "0")}`;

const WITH_PLAN = "while the plan runs";

function daysInWords(when: When, always: string, withYear: boolean): string {
  const { first_day: first, last_day: last, first_minute, last_minute } = when;
  const from = first_minute == null ? "" : ` ${clock(first_minute)}`;
  const until = last_minute == null ? "" : ` ${clock(last_minute)}`;
  if (first && last && !from && !until) return days(first, last, withYear);
  const begins = first ? `from ${days(first, first, withYear)}${from}` : "";
  const ends = last ? `until ${days(last, last, withYear)}${until}` : "";
  return [begins, ends].filter(Boolean).join(" ") || always;
}

function hoursInWords({ weekdays, from_minute: from, to_minute: to }: When): string {
  const on = weekdays.length ? `on ${listed(weekdays.map((day) => WEEKDAYS[day]!))}` : "";
  const at = from != null && to != null ? `${on ? "" : "every day "}from ${clock(from)} to ${clock(to)}` : "";
  return [on, at].filter(Boolean).join(" ");
}

/** The days, and a word more where weekdays or hours are chosen. */
export function whenTokens({ when }: Terms, { plan, running, offer, full = false }: Say): Token[] {
  const always = running.includes(offer) ? "until further notice" : WITH_PLAN;
  const tokens: Token[] = [
    {
      key: "when",
      text: daysInWords(when, always, full),
      word: ({ edit, at }) => {
        const unsound = spot("/when", at("/when").filter(({ pointer }) => !/weekdays|from_minute|to_minute/.test(pointer)));
        return <DaysWord {...{ when, plan, unsound }} onChange={(next) => edit((t) => ({ ...t, when: next }))} />;
      },
    },
  ];
  const hours = hoursInWords(when);
  if (hours)
    tokens.push(", ", {
      key: "hours",
      text: hours,
      word: ({ edit, at }) => {
        const put = (change: Partial<When>) => edit((t) => ({ ...t, when: { ...t.when, ...change } }));
        const unsound = spot("/when/weekdays", ["weekdays", "from_minute", "to_minute"].flatMap((field) => at(`/when/${field}`)));
        return (
          <ClauseWord title="On which weekdays, at what hours" text={hours} unsound={unsound} width={330} drop={() => put({ weekdays: [], from_minute: null, to_minute: null })}>
            <Ticks
              label="Weekdays"
              all={WEEKDAYS}
              ticked={when.weekdays.map((day) => WEEKDAYS[day]!)}
              onChange={(names) => put({ weekdays: names.map((name) => WEEKDAYS.indexOf(name)) })}
            />
            <div className="mt-2 flex gap-3">
              <TimeBox label="From" value={when.from_minute} onChange={(minute) => put({ from_minute: minute, to_minute: minute === null ? null : (when.to_minute ?? (minute + 240) % 1440) })} />
              <TimeBox label="To" value={when.to_minute} onChange={(minute) => put({ to_minute: minute, from_minute: minute === null ? null : (when.from_minute ?? (minute + 1200) % 1440) })} />
            </div>
            <p className="mt-2 text-small text-soft">Hours across midnight belong to the day they start. All by the shop’s own clock.</p>
          </ClauseWord>
        );
      },
    });
  return tokens;
}

function DaysWord({ when, plan, onChange, unsound }: { when: When; plan: Plan; onChange: (when: When) => void; unsound: React.ComponentProps<typeof ClauseWord>["unsound"] }) {
  const own = when.first_day != null || when.last_day != null;
  return (
    <ClauseWord title="When it is open" text={daysInWords(when, WITH_PLAN, false)} unsound={unsound} width={340}>
      <Choices
        label="When"
        value={own ? "own" : "plan"}
        onChange={(mode) =>
          onChange({
            ...when,
            first_day: mode === "own" ? plan.first_day : null,
            last_day: mode === "own" ? plan.last_day : null,
            first_minute: null,
            last_minute: null,
          })
        }
        options={[
          ["plan", `While the plan runs, ${days(plan.first_day, plan.last_day, false)}`],
          ["own", "On days of its own"],
        ]}
      />
      {own && (
        <div className="mt-2 grid grid-cols-2 gap-x-3 gap-y-1">
          <DayBox label="First day" value={when.first_day ?? ""} onChange={(day) => onChange({ ...when, first_day: day || null, first_minute: day ? when.first_minute : null })} />
          <TimeBox label="from what time" value={when.first_minute} onChange={(minute) => onChange({ ...when, first_minute: when.first_day ? minute : null })} />
          <DayBox label="Last day" value={when.last_day ?? ""} onChange={(day) => onChange({ ...when, last_day: day || null, last_minute: day ? when.last_minute : null })} />
          <TimeBox label="until what time" value={when.last_minute} onChange={(minute) => onChange({ ...when, last_minute: when.last_day ? minute : null })} />
        </div>
      )}
    </ClauseWord>
  );
}
