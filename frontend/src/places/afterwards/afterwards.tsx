/** Afterwards: the offers that ran, what history says of how shoppers responded to them, and taking it over. */
import { Fragment } from "react";

import { useHistory } from "../../api/history";
import { useCarts, useFrame, useKept, usePlans } from "../../api/queries";
import type { Carts, Frame, HistorySays, KeptLine, SavedPlan } from "../../api/types";
import { EmptyShop } from "../../pieces/empty-shop";
import { count, soMany, days } from "../../pieces/figures";
import { newId, newOffer, newReward, newTerms } from "../../pieces/new-parts";
import { CALLED } from "../../offers/responses";
import { FEWEST_ALIKE } from "../../offers/taking-over";
import { KeptForecasts } from "./kept-forecasts";
import { OfferOfPlans } from "./offer-of-plans";
import { AnswersBySent } from "./answers-by-sent";
import { AroundThreshold } from "./around-threshold";
import { SaidRows } from "./said-rows";
import { PastOffer } from "./past-offer";
import { Untold } from "./untold";
import { asRan, usePast, type PastOffers } from "./use-past";

export function AfterwardsPlace() {
  const { data: frame } = useFrame();
  const { data: plans } = usePlans();
  const { data: carts } = useCarts();
  const past = usePast();
  if (!frame || !plans || !carts || !past) return null;
  if (frame.empty || carts.orders === 0) return <EmptyShop frame={frame} />;
  return <Looked {...{ frame, past, carts }} plans={plans.plans} />;
}

const NONE: KeptLine[] = [];

function Looked({ frame, plans, past, carts }: { frame: Frame; plans: SavedPlan[]; past: PastOffers; carts: Carts }) {
  const kept = useKept().data?.kept ?? NONE;
  const { says, looked, failed } = useHistory(frame.data_version);
  const first = says?.first_day ?? carts.first_day;
  const last = says?.last_day ?? carts.last_day;
  const told = past.offers.length;
  const title = told === 0 ? "What did your offers do? Tell which ones ran, and history answers." : headline(says, told);
  return (
    <div className="px-7 pt-4 pb-10">
      {kept.length > 0 && <KeptForecasts {...{ kept, frame, plans, past }} />}
      {kept.length > 0 ? <h2 className="mt-8 border-t-[1.5px] border-ink pt-4 text-answer">{title}</h2> : <h1 className="text-answer">{title}</h1>}
      <p className="mt-1 text-small text-soft" aria-live="polite">
        {failed || (says ? `By ${soMany(says.orders, "order")}, ${days(first, last)}.` : "")}
        {looked !== null && !failed && ` Looking back, ${count(looked * 100)} % done…`}
      </p>
      {says && <Untold {...{ says, past, frame }} />}
      <ul aria-label="Offers that ran" className="mt-4">
        {past.offers.map((offer) => (
          <PastOffer key={offer.id} {...{ offer, frame, plans, past }} learned={says?.offers.find((one) => one.id === offer.id && !one.running) ?? null} between={[first, last]} />
        ))}
      </ul>
      <p className="mt-4 flex items-baseline gap-5">
        <button type="button" className="press" onClick={() => past.add(fresh(frame, first, last))}>
          Write an offer that ran
        </button>
        <OfferOfPlans plans={plans} of={() => true} choose={(offer, saved) => past.add({ ...asRan(offer, saved.plan), id: newId() })} align="start">
          Copy one from a plan
        </OfferOfPlans>
      </p>
      {says && <Next says={says} />}
      {says && <Tests says={says} />}
      <RunAlready {...{ says, frame, plans, past }} between={[first, last]} />
      {says && <FreeFrom {...{ says, frame, plans }} />}
    </div>
  );
}

function headline(says: HistorySays | null, told: number): string {
  const figures = says?.offers.flatMap((offer) => offer.figures.filter((one) => one.likely !== null)) ?? [];
  const ran = told === 1 ? "1 offer that ran" : `${count(told)} offers that ran`;
  return says ? `History tells ${figures.length === 1 ? "1 figure" : `${count(figures.length)} figures`} of ${ran}.` : `You told of ${ran}.`;
}

const fresh = (frame: Frame, first_day: string, last_day: string) => {
  const terms = newTerms([newReward("percent_off", 10 ** frame.minor_digits)]);
  return newOffer({ ...terms, when: { ...terms.when, first_day, last_day } });
};

function Next({ says }: { says: HistorySays }) {
  const told = says.next.filter((one) => one.offers >= FEWEST_ALIKE);
  if (told.length === 0) return null;
  return (
    <section aria-labelledby="next-title" className="mt-6">
      <h2 id="next-title" className="text-title">
        The next one like them
      </h2>
      {told.map((one) => (
        <div key={one.kind} className="mt-1 grid gap-2">
          <p>
            {one.says} {one.gives}
          </p>
          {one.by_sent.length > 0 && <AnswersBySent next={one} />}
        </div>
      ))}
    </section>
  );
}

/** Of the figures that were looked for and no offer tells: what a short test would. */
function Tests({ says }: { says: HistorySays }) {
  const looked = [...says.offers, ...says.free_delivery].flatMap((one) => one.figures);
  const known = new Set(looked.filter((one) => one.likely !== null).map((one) => one.of));
  const tests = says.tests.filter(({ of }) => !known.has(of) && looked.some((one) => one.of === of));
  if (tests.length === 0) return null;
  return (
    <section aria-labelledby="tests-title" className="mt-6">
      <h2 id="tests-title" className="text-title">
        What a short test would tell
      </h2>
      <dl className="mt-1 grid max-w-[62rem] grid-cols-[13rem_minmax(0,1fr)] gap-x-5 gap-y-1 text-small">
        {tests.map((one) => (
          <Fragment key={one.of}>
            <dt>{CALLED[one.of]}</dt>
            <dd className="text-soft">{one.says}</dd>
          </Fragment>
        ))}
      </dl>
    </section>
  );
}

/** Offers that run already, and what history says of them. */
function RunAlready({ says, frame, plans, past, between }: { says: HistorySays | null; frame: Frame; plans: SavedPlan[]; past: PastOffers; between: [string, string] }) {
  const running = says?.offers.filter((one) => one.running) ?? [];
  if (running.length === 0) return null;
  return (
    <section aria-labelledby="runs-title" className="mt-6">
      <h2 id="runs-title" className="text-title">
        Offers that run already
      </h2>
      <ul>
        {running.map((learned) => (
          <PastOffer key={learned.id} offer={null} {...{ frame, plans, past, learned, between }} />
        ))}
      </ul>
    </section>
  );
}

/** What delivery does that is free from a value, as the shop has it. */
function FreeFrom({ says, frame, plans }: { says: HistorySays; frame: Frame; plans: SavedPlan[] }) {
  if (says.free_delivery.length === 0) return null;
  return (
    <section aria-labelledby="free-title" className="mt-6">
      <h2 id="free-title" className="text-title">
        Delivery that is free from a value
      </h2>
      <ul>
        {says.free_delivery.map((one) => (
          <li key={one.id} className="border-t-[1.5px] border-line py-3">
            <span className="text-small font-semibold text-soft">{one.name}</span>
            <div className="mt-1 grid grid-cols-[minmax(0,1fr)_minmax(0,26rem)] gap-x-8 max-lg:grid-cols-1">
              <div>
                <p className="text-small text-soft">
                  {one.uses === 1 ? "1 order came to it" : `${count(one.uses)} orders came to it`}, by {one.days === 1 ? "1 day" : `${count(one.days)} days`} on which nothing else was known to hold.
                </p>
                <SaidRows learned={one} {...{ frame, plans }} />
              </div>
              {one.around.length > 0 && <AroundThreshold learned={one} terms={null} frame={frame} />}
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
