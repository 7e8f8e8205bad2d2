/** One offer that ran: its sentence, what it did, and what history says of every figure of the response. */
import type { Frame, LearnedOffer, OfferDoc, SavedPlan } from "../../api/types";
import { count, days, money, rate } from "../../pieces/figures";
import { NumberBox } from "../../pieces/number-box";
import { Slip } from "../../pieces/slip";
import { Word } from "../../pieces/words";
import { Act, ChangeMenu } from "../../offers/offer-menu";
import { Sentence } from "../../offers/sentence";
import { AroundThreshold } from "./around-threshold";
import { OrdersByDay, UsesByDay } from "./orders-by-day";
import { SaidRows } from "./said-rows";
import { asPlan, type PastOffers } from "./use-past";

interface Props {
  /** Null for one that runs already, which is written on the Counting board. */
  offer: OfferDoc | null;
  learned: LearnedOffer | null;
  frame: Frame;
  plans: SavedPlan[];
  past: PastOffers;
  /** The first and the last day there are orders of. */
  between: [string, string];
}

export function PastOffer({ offer, learned, frame, plans, past, between }: Props) {
  const what = offer?.name || learned?.name || "this offer";
  const put = (make: (offer: OfferDoc) => OfferDoc) => past.put((offers) => offers.map((one) => (one.id === offer?.id ? make(one) : one)));
  return (
    <li className="border-t-[1.5px] border-line py-3" data-offer={offer?.id ?? learned?.id}>
      <div className="flex items-baseline justify-between gap-3">
        <span className="text-small font-semibold text-soft">{what}</span>
        {offer && (
          <ChangeMenu what={what}>
            <Act does={() => past.put((offers) => offers.filter((one) => one.id !== offer.id))}>It never ran: take it off</Act>
          </ChangeMenu>
        )}
      </div>
      {offer && <Sentence offer={offer} plan={asPlan(offer, ...between)} frame={frame} problems={[]} change={(make) => put((one) => make(asPlan(one, ...between)).offers[0] ?? one)} />}
      {offer && offer.terms.given.by !== "itself" && <Sent {...{ offer, put }} />}
      {learned && (
        <div className="mt-1 grid grid-cols-[minmax(0,1fr)_minmax(0,26rem)] gap-x-8 max-lg:grid-cols-1">
          <div>
            <p className="text-small text-soft">
              {learned.uses === 1 ? "1 order used it" : `${count(learned.uses)} orders used it`}
              {learned.goods > 0 && (
                <>
                  : {money(learned.given_away, frame)} off goods of {money(learned.goods, frame)}, {rate(Math.round((learned.given_away / learned.goods) * 10_000))}
                  {learned.charged ? ", as they were charged" : ", as the sentence says"}
                </>
              )}
              . {learned.days === 1 ? "1 day" : `${count(learned.days)} days`} of your history.
            </p>
            <SaidRows {...{ learned, frame, plans }} />
          </div>
          <div className="grid content-start gap-3">
            {learned.uses_by_day.length > 0 && <UsesByDay learned={learned} />}
            {learned.by_day.length > 0 && <OrdersByDay learned={learned} />}
            {learned.around.length > 0 && <AroundThreshold learned={learned} terms={offer?.terms ?? null} frame={frame} />}
          </div>
        </div>
      )}
      {!learned && offer && <p className="text-small text-soft">{days(offer.terms.when.first_day ?? between[0], offer.terms.when.last_day ?? between[1])}</p>}
    </li>
  );
}

/** To how many the code was sent; without it the share of orders that used it is all that can be told. */
function Sent({ offer, put }: { offer: OfferDoc; put: (make: (offer: OfferDoc) => OfferDoc) => void }) {
  const { sends } = offer.terms.response;
  const set = (size: number | null) =>
    put((one) => {
      const { response } = one.terms;
      const next = size === null ? null : { ...(response.sends ?? { response_bp: 0, anyway_bp: 0, cost: 0, days: 3, to: "any" as const, daily: false, among: null }), size };
      return { ...one, terms: { ...one.terms, response: { ...response, sends: next } } };
    });
  return (
    <p className="text-small">
      The code went out{" "}
      <Slip title="To how many it was sent" trigger={<Word>{sends ? `in ${count(sends.size)} messages` : "openly, to nobody in particular"}</Word>}>
        <NumberBox label="Messages" value={sends?.size ?? null} scale={1} step={10} least={1} most={10_000_000} onChange={set} onClear={() => set(null)} autoFocus />
        <p className="mt-2 text-small text-soft">Leave it empty if it was not sent to anybody in particular.</p>
      </Slip>
      .
    </p>
  );
}
