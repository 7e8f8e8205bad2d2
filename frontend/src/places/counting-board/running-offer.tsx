/** An offer that runs already, as it stands before the plan's own: kept, or dropped. */
import { useNames, useRunning } from "../../api/queries";
import { putRunning } from "../../api/saving";
import type { Forecast, Frame, OfferDoc, Plan } from "../../api/types";
import { soMany, money, rate } from "../../pieces/figures";
import { newTerms } from "../../pieces/new-parts";
import { nameOfRunning } from "../../pieces/offer-names";
import { useNotice } from "../../pieces/notice";
import { NumberWord } from "../../offers/number-word";
import { Act, ChangeMenu } from "../../offers/offer-menu";
import { droppedIn, withDropped, withKept } from "../../offers/offers";
import { MOST } from "../../offers/responses";
import { offerInWords } from "../../offers/sentence";

interface RunningProps {
  offer: OfferDoc;
  plan: Plan;
  frame: Frame;
  figures: Forecast["offers"][number] | null;
  change: (make: (plan: Plan) => Plan) => void;
}

export function RunningOffer({ offer, plan, frame, figures, change }: RunningProps) {
  const running = useRunning();
  const { data: goods } = useNames();
  const { fail } = useNotice();
  const what = nameOfRunning(running, offer);
  const dropped = droppedIn(plan, offer.id);
  const toggle = () => change((before) => (dropped ? withKept(before, offer.id) : withDropped(before, offer.id, {})));
  /** Its own response begins unsaid: the history holds what it does as it is. */
  const another = (): OfferDoc => ({ ...structuredClone(offer), in_plan: true, terms: { ...structuredClone(offer.terms), response: newTerms([]).response } });
  const inItsPlace = () => change((before) => ({ ...withKept(before, offer.id), offers: [...before.offers.filter((one) => one.id !== offer.id), another()] }));
  const runsNoMore = async () => {
    try {
      await putRunning((running) => running.filter((one) => one.id !== offer.id));
    } catch (error) {
      fail(error);
    }
  };
  return (
    <li data-offer={offer.id} className="grid grid-cols-[30px_1fr] gap-x-3.5">
      <button
        type="button"
        aria-pressed={!dropped}
        aria-label={`${what}, which runs already: ${dropped ? "dropped" : "kept"}`}
        title="Click: drop it in this plan, or keep it."
        className={`mt-0.5 flex h-[27px] w-[31px] items-center justify-center rounded-bead border-[1.5px] border-ink bg-sheet text-small font-bold transition-transform duration-150 ${dropped ? "border-dashed text-soft" : "text-ink"}`}
        style={{ transform: dropped ? "translateX(-22px)" : "none" }}
        onClick={toggle}
      >
        {dropped ? "–" : "="}
      </button>
      <div className={`min-w-0 ${dropped ? "text-soft" : ""}`}>
        <div className="flex items-baseline justify-between gap-2">
          <span className="truncate text-small font-semibold text-soft">
            {offer.name && `${offer.name} · `}
            <span className="font-normal">runs already{dropped && ", dropped in this plan"}</span>
          </span>
          <ChangeMenu what={what}>
            <Act does={toggle}>{dropped ? "Keep it in this plan" : "Drop it in this plan"}</Act>
            <Act does={inItsPlace}>Put another in its place, in this plan</Act>
            <Act does={() => void runsNoMore()}>It runs no more, in no plan</Act>
          </ChangeMenu>
        </div>
        <p className="text-small">{offerInWords(offer, plan, frame, goods ?? [], running)}</p>
        {dropped ? (
          <p className="mt-1 text-small text-ink">
            You expect it brings <Brings {...{ plan, frame, change }} dropped={dropped} /> of the orders it reaches: those stay away now.
          </p>
        ) : (
          figures && (
            <p className="text-small text-soft">
              {soMany(figures.reached, "order")} · gives away {money(figures.given_away, frame, { whole: true })}, today too
            </p>
          )
        )}
      </div>
    </li>
  );
}

type Dropped = Plan["dropped"][number];

/** How many orders an offer brings, which stay away without it. */
function Brings({ plan, frame, dropped, change }: Omit<RunningProps, "offer" | "figures"> & { dropped: Dropped }) {
  const value = dropped.extra_bp ?? 0;
  const set = (extra_bp: number) => (before: Plan) => withDropped(before, dropped.offer, { extra_bp });
  return (
    <NumberWord
      title="Orders it brings, as a share of those that would come without it"
      currency={frame}
      figure={{
        label: "Extra orders",
        value,
        scale: 100,
        step: 100,
        least: 0,
        most: MOST.extra_bp,
        unit: "%",
        tell: rate,
        set: (next) => change(set(next)),
        withValue: (next) => set(next)(plan),
      }}
      more={
        dropped.extra_bp !== null && (
          <button type="button" className="quiet justify-self-start text-small" onClick={() => change((before) => withDropped(before, dropped.offer, { extra_bp: null, extra_first_bp: null }))}>
            Leave it unsaid again
          </button>
        )
      }
    >
      {dropped.extra_bp === null ? "no more" : `${rate(value)} more`}
    </NumberWord>
  );
}
