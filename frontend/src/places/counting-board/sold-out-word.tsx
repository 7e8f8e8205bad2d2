/** What shoppers do when something they want is sold out, as a sentence below the stock that is needed. */
import type { Plan } from "../../api/types";
import { rate } from "../../pieces/figures";
import { NumberBox } from "../../pieces/number-box";
import { Choices, ClauseWord } from "../../pieces/words";

/** Where it is first said that some orders are lost. */
const AT_FIRST_BP = 3_000;

export function SoldOutWord({ plan, change }: { plan: Plan; change: (make: (plan: Plan) => Plan) => void }) {
  const lost = plan.lost_if_sold_out_bp;
  const set = (lost_if_sold_out_bp: number | null) => change((before) => ({ ...before, lost_if_sold_out_bp }));
  const text = lost === null ? "go on as if there were enough" : lost === 0 ? "go without it" : lost === 10_000 ? "are not placed" : `go without it, but for ${rate(lost)} that are not placed`;
  return (
    <p className="mt-1">
      When something is sold out, orders that want it{" "}
      <ClauseWord title="When something is sold out" text={text} unsound={[]}>
        <Choices
          label="What orders do that want it"
          value={lost === null ? "enough" : "without"}
          onChange={(way) => set(way === "enough" ? null : AT_FIRST_BP)}
          options={[
            ["enough", "They go on as if there were enough"],
            ["without", "They go without it, or are not placed"],
          ]}
        />
        {lost !== null && <NumberBox label="Orders not placed, of those that want it" value={lost} scale={100} step={500} least={0} most={10_000} unit="%" onChange={set} buttons />}
        <p className="mt-2 text-small text-soft">Today’s orders run out of it too; nothing new comes in while the plan runs. An order of that alone is always lost.</p>
      </ClauseWord>
      .
    </p>
  );
}
