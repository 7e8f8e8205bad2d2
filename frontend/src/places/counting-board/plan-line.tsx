/** The line above the answer: which plan, over which days, and how many orders that counts. */
import { DropdownMenu } from "radix-ui";
import { useRef, useState } from "react";

import { useNavigate } from "react-router";

import { useMixes, useRunning } from "../../api/queries";
import type { FieldProblem, Forecast, Plan, SavedPlan } from "../../api/types";
import { count, soMany, days } from "../../pieces/figures";
import { FileChoice } from "../../pieces/file-choice";
import { mixInWords, USUAL } from "../../pieces/mix-names";
import { useNotice } from "../../pieces/notice";
import { Slip } from "../../pieces/slip";
import { Choices, DayBox, Faults, Word } from "../../pieces/words";
import { bringInPlans, savePlan } from "../../offers/offer-files";

/** Which carts the plan expects. */
function MixWord({ plan, change, unsound }: Pick<LineProps, "plan" | "change"> & { unsound: FieldProblem[] }) {
  const { data } = useMixes();
  const names = [...new Set([...(data?.mixes ?? []).map((mix) => mix.name), plan.mix || USUAL])];
  return (
    <Slip title="Which carts to expect" trigger={<Word unsound={unsound}>{mixInWords(plan.mix || USUAL)}</Word>}>
      <Choices
        label="Carts to expect"
        value={plan.mix || USUAL}
        onChange={(name) => change((before) => ({ ...before, mix: name === USUAL ? "" : name }))}
        options={names.map((name) => [name, mixInWords(name)] as const)}
      />
      <p className="mt-2 text-small text-soft">What they are, and further ones, you say at Carts.</p>
      <Faults of={unsound} />
    </Slip>
  );
}

/** Told without taking room: nothing below moves while somebody types. */
function Saving({ saving }: { saving: boolean }) {
  return (
    <span className="relative -ms-2 w-0 text-small text-soft" aria-live="polite">
      {"\u200b"}
      {saving && <span className="absolute top-0 left-2 whitespace-nowrap">saving…</span>}
    </span>
  );
}

interface LineProps {
  saved: SavedPlan;
  all: SavedPlan[];
  plan: Plan;
  forecast: Forecast | null;
  problems: FieldProblem[];
  saving: boolean;
  change: (make: (plan: Plan) => Plan) => void;
  choose: (id: number) => void;
  add: () => void;
  copy: () => void;
  remove: () => void;
  save: () => void;
  bringIn: (file: File) => void;
}

export function PlanLine({ saved, all, plan, forecast, problems, saving, change, choose, add, copy, remove, save, bringIn }: LineProps) {
  const running = useRunning();
  const go = useNavigate();
  const { say, fail } = useNotice();
  const file = useRef<HTMLInputElement>(null);
  const plansFile = useRef<HTMLInputElement>(null);
  const [renaming, setRenaming] = useState(false);
  const [noting, setNoting] = useState(false);
  const wrong = problems.filter((one) => ["/first_day", "/last_day", "/name", "/note", "/offers", "/mix"].includes(one.pointer));
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-2 text-body">
        {renaming ? (
          <input
            aria-label="Name of the plan"
            className="w-64 py-0"
            value={plan.name}
            maxLength={80}
            autoFocus
            onChange={(event) => change((before) => ({ ...before, name: event.target.value }))}
            onBlur={() => setRenaming(false)}
            onKeyDown={(event) => (event.key === "Enter" || event.key === "Escape") && setRenaming(false)}
          />
        ) : (
          <DropdownMenu.Root>
            <DropdownMenu.Trigger className="word font-head text-title" aria-label={`Plan: ${plan.name}. Choose or change a plan`}>
              {plan.name}
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal>
              <DropdownMenu.Content className="slip min-w-60" align="start" sideOffset={6}>
                <DropdownMenu.Label className="px-2 text-small text-soft">Open a plan</DropdownMenu.Label>
                <DropdownMenu.RadioGroup value={String(saved.id)} onValueChange={(id) => choose(Number(id))}>
                  {all.map((one) => (
                    <DropdownMenu.RadioItem key={one.id} value={String(one.id)} className="choice flex items-center gap-2.5">
                      <span aria-hidden className="flex size-3.5 items-center justify-center rounded-bead border-[1.5px] border-ink">
                        <DropdownMenu.ItemIndicator className="size-3.5 rounded-bead border-[1.5px] border-ink bg-yellow" />
                      </span>
                      {one.id === saved.id ? plan.name : one.plan.name}
                    </DropdownMenu.RadioItem>
                  ))}
                </DropdownMenu.RadioGroup>
                <DropdownMenu.Separator className="my-1.5 border-t border-line" />
                {(
                  [
                    ["Rename this plan", () => setTimeout(() => setRenaming(true), 50)],
                    [plan.note ? "Change its note" : "Write a note on it", () => setTimeout(() => setNoting(true), 50)],
                    ["Copy this plan", copy],
                    ["Hand it over", () => void go(`/handing-over?plan=${saved.id}`)],
                    ["The case for it", () => void go(`/the-case?plan=${saved.id}`)],
                    ["Start a new plan", add],
                    ["Save this plan to a file", () => void savePlan(saved.id, plan.name).catch(fail)],
                    ["Bring plans in from a file", () => plansFile.current?.click()],
                    ["Save its offers to a file", save],
                    ["Bring offers in from a file", () => file.current?.click()],
                    ["Delete this plan", remove],
                  ] as const
                ).map(([words, does]) => (
                  <DropdownMenu.Item key={words} className="choice" onSelect={does}>
                    {words}
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
        )}
        <FileChoice ref={file} label="JSON file of offers" accept=".json,application/json" take={bringIn} />
        <FileChoice
          ref={plansFile}
          label="JSON file of plans"
          accept=".json,application/json"
          take={(chosen) =>
            void bringInPlans(chosen)
              .then((many) => say(`${many === 1 ? "1 plan is" : `${count(many)} plans are`} brought in; Ctrl Z takes it back.`))
              .catch(fail)
          }
        />
        <span aria-hidden>·</span>
        <Slip
          title="The plan’s days"
          width={340}
          trigger={<Word unsound={wrong.filter((one) => one.pointer.endsWith("_day"))}>{days(plan.first_day, plan.last_day)}</Word>}
        >
          <div className="flex gap-3">
            <DayBox label="First day" value={plan.first_day} onChange={(day) => day && change((before) => ({ ...before, first_day: day }))} />
            <DayBox label="Last day" value={plan.last_day} onChange={(day) => day && change((before) => ({ ...before, last_day: day }))} />
          </div>
          <Faults of={wrong} />
        </Slip>
        {!forecast && plan.mix && <MixWord {...{ plan, change }} unsound={problems.filter(({ pointer }) => pointer === "/mix")} />}
        {forecast && (
          <>
            <span aria-hidden>·</span>
            <span className="text-soft">
              {soMany(forecast.today.orders, "order")} expected of <MixWord {...{ plan, change }} unsound={problems.filter(({ pointer }) => pointer === "/mix")} />
            </span>
            <span aria-hidden>·</span>
            <span className="text-soft">held against today, with {running.length === 0 ? "no offer" : running.length === 1 ? "1 offer" : `${count(running.length)} offers`}</span>
          </>
        )}
        <Saving {...{ saving }} />
      </div>
      {(noting || plan.note) && (
        <textarea
          aria-label="Note on the plan"
          rows={1}
          className="block w-full max-w-[46rem] resize-none border-transparent bg-transparent px-0 py-0 text-small italic text-soft [field-sizing:content]"
          value={plan.note}
          maxLength={4000}
          autoFocus={noting}
          placeholder="A note only you see"
          onBlur={() => setNoting(false)}
          onChange={(event) => change((before) => ({ ...before, note: event.target.value }))}
        />
      )}
      <Faults of={wrong} />
    </>
  );
}
