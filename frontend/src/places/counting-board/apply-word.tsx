/** Which offers are kept on an order where not all go together. */
import { Link } from "react-router";

import type { Plan } from "../../api/types";
import { Choices, ClauseWord } from "../../pieces/words";

export function ApplyWord({ plan, change }: { plan: Plan; change: (make: (plan: Plan) => Plan) => void }) {
  const text = plan.apply === "best" ? "the best for the shopper" : "the first in order";
  return (
    <p className="text-small">
      If offers clash, keep{" "}
      <ClauseWord title="Where not all go together" text={text} unsound={[]}>
        <Choices
          label="Which are kept"
          value={plan.apply}
          onChange={(apply) => change((before) => ({ ...before, apply }))}
          options={[
            ["best", "Those that cost the shopper least together"],
            ["first", "The first on the rod shuts out later ones"],
          ]}
        />
        <p className="mt-2 text-small text-soft">
          How many codes an order takes, and whether they go with other offers, is set for the whole shop at{" "}
          <Link to="/delivery" className="quiet">
            Delivery
          </Link>
          .
        </p>
      </ClauseWord>
      .
    </p>
  );
}
