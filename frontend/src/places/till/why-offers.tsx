/** Why each offer of the plan applies to the cart, or what it lacks, with one click that adds it. */
import { Link } from "react-router";

import { useRunning } from "../../api/queries";
import type { Cart, Frame, Mended, Named, Plan, Way } from "../../api/types";
import { capital, listed, money } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { keptBeside } from "../../pieces/offer-names";
import { withNames } from "../../pieces/product-picker";
import { offerInWords } from "../../offers/sentence";

interface WhyProps {
  plan: Plan;
  planId: number;
  way: Way;
  mends: Mended[];
  frame: Frame;
  goods: Named[];
  nameOf: (offer: string) => string;
  put: (cart: Cart) => void;
}

export function WhyOffers({ plan, planId, way, mends, frame, goods, nameOf, put }: WhyProps) {
  const running = useRunning();
  const own = plan.offers.filter((one) => one.in_plan);
  const offers = [...keptBeside(running, plan), ...own];
  if (offers.length === 0) return <p className="text-soft">No offer stands in this plan, so every cart is as it is today.</p>;
  return (
    <>
      <ol className="grid gap-3">
        {offers.map((offer) => {
          const reason = way.plan.reasons.find((one) => one.offer === offer.id);
          const mend = mends.find((one) => one.offer === offer.id);
          const applied = reason?.reason === "applied";
          return (
            <li key={offer.id} className="grid grid-cols-[16px_1fr] gap-x-2.5">
              <span aria-hidden className={`mt-1 size-3.5 rounded-bead border-[1.5px] border-ink ${applied ? "bg-yellow" : "border-dashed bg-sheet"}`} />
              <div className="min-w-0">
                <p>
                  <Link to={`/counting-board?plan=${planId}&offer=${offer.id}`} className="font-semibold hover:underline" title={offerInWords(offer, plan, frame, goods, running)}>
                    {nameOf(offer.id)}
                  </Link>{" "}
                  {applied ? "applies: " : ""}
                  {withNames(reason?.text ?? "", goods)}.
                </p>
                {mend && (
                  <button type="button" className="quiet text-start text-small" onClick={() => put(mend.cart)}>
                    {capital(withNames(mend.label, goods))}
                  </button>
                )}
              </div>
            </li>
          );
        })}
      </ol>
      {way.sets.length > 1 && (
        <section aria-labelledby="sets-title" className="mt-4">
          <h3 id="sets-title" className="text-body">
            Held against each other
          </h3>
          <p className="text-small text-soft">Of the offers that may stand together, the shopper gets what costs least, things put in counted off.</p>
          <table className="figures mt-1 w-full text-small">
            <Headings>
              <Heading>Offers</Heading>
              <Heading n>To pay</Heading>
              <Heading n>Put in, worth</Heading>
            </Headings>
            <tbody>
              {way.sets.map((set) => (
                <tr key={set.offers.join()} className={set.kept ? "font-semibold" : ""}>
                  <td>
                    {listed(set.offers.map(nameOf))}
                    {set.kept && " · taken"}
                  </td>
                  <td className="n">{money(set.pays, frame)}</td>
                  <td className="n">{money(set.put_in, frame)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
    </>
  );
}
