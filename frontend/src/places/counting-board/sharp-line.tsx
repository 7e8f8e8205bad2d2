/** The cart some sharp-eyed shoppers build, as a sentence below the answer. */
import { useNames } from "../../api/queries";
import type { FieldProblem, Plan } from "../../api/types";
import { listed, rate } from "../../pieces/figures";
import { NumberWord } from "../../pieces/number-word";
import { nameOfSku } from "../../pieces/product-picker";

interface SharpProps {
  plan: Plan;
  problems: FieldProblem[];
  change: (make: (plan: Plan) => Plan) => void;
}

export function SharpLine({ plan, problems, change }: SharpProps) {
  const { data: goods } = useNames();
  const { sharp } = plan;
  if (!sharp) return null;
  const cart = listed(sharp.cart.lines.map((line) => `${line.quantity} × ${nameOfSku(line.sku, goods ?? [])}`));
  return (
    <p className="text-small">
      <NumberWord
        title="How many build it"
        unsound={problems.filter((one) => one.pointer.startsWith("/sharp"))}
        figure={{
          label: "Share of orders",
          value: sharp.share_bp,
          scale: 100,
          step: 50,
          least: 1,
          most: 10_000,
          unit: "%",
          set: (share_bp) => change((before) => before.sharp ? { ...before, sharp: { ...before.sharp, share_bp } } : before),
        }}
        more={
          <button type="button" className="quiet text-start" onClick={() => change((before) => ({ ...before, sharp: null }))}>
            Count on nobody who builds it
          </button>
        }
      >
        {`${rate(sharp.share_bp)} of orders`}
      </NumberWord>{" "}
      are a leak somebody built instead: {cart} to {sharp.cart.zone}.
    </p>
  );
}
