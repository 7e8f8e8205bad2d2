/** What history says of each figure: three beads on a rod, in words, and taking it over into an offer of a plan. */
import { ask } from "../../api/client";
import { keepPlan } from "../../api/queries";
import type { Frame, Learned, OfferDoc, Said, SavedPlan } from "../../api/types";
import { money, rate } from "../../pieces/figures";
import { Heading } from "../../pieces/headings";
import { useNotice } from "../../pieces/notice";
import { withOffer } from "../../offers/offers";
import { CALLED, MOST } from "../../offers/responses";
import { fits, takenOver } from "../../offers/taking-over";
import { OfferOfPlans } from "./offer-of-plans";

interface Props {
  learned: Learned;
  frame: Frame;
  plans: SavedPlan[];
}

export function SaidRows({ learned, frame, plans }: Props) {
  return (
    <table className="figures mt-1 w-full">
      <thead className="sr-only">
        <tr>
          <Heading>Figure</Heading>
          <Heading>Low, likely and high</Heading>
          <Heading>What it rests on</Heading>
          <Heading>Take over</Heading>
        </tr>
      </thead>
      <tbody>
        {learned.figures.map((said) => (
          <tr key={said.of}>
            <th scope="row" className="w-44 align-top font-normal!">
              {CALLED[said.of]}
            </th>
            <td className="w-44 align-top">{said.likely !== null && <Beads said={said} />}</td>
            <td className={`align-top text-small ${said.likely === null ? "text-soft" : ""}`}>
              {said.says}
              {said.reach && ` They top up from at most ${reachOf(said, learned, frame)}.`}
            </td>
            <td className="w-20 ps-3! align-top">{said.likely !== null && <TakeOver {...{ said, learned, plans }} />}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function reachOf({ reach }: Said, { around }: Learned, frame: Frame): string {
  if (!reach) return "";
  const units = around.length > 1 && around[1]!.start - around[0]!.start === 1;
  return units ? `${reach.likely} units away` : `${money(reach.likely, frame)} away, between ${money(reach.low, frame)} and ${money(reach.high, frame)}`;
}

const [WIDE, EDGE, MIDDLE] = [170, 9, 13];

/** Low, likely and high on a rod from none to a round figure above the high one. */
function Beads({ said }: { said: Said }) {
  const high = said.high ?? 0;
  const top = Math.min(Math.max(Math.ceil((high * 1.15) / 500) * 500, 500), MOST[said.of]);
  const at = (bp: number) => EDGE + (Math.min(bp, top) / top) * (WIDE - 2 * EDGE);
  const [low, likely] = [said.low ?? 0, said.likely ?? 0];
  return (
    <svg width={WIDE} height={38} role="img" aria-label={`low ${rate(low)}, likely ${rate(likely)}, high ${rate(high)}`}>
      <line x1={EDGE} x2={WIDE - EDGE} y1={MIDDLE} y2={MIDDLE} stroke="var(--color-ink)" strokeWidth={2} />
      <line x1={at(low)} x2={at(high)} y1={MIDDLE} y2={MIDDLE} stroke="var(--color-tax)" strokeWidth={5} />
      {[low, high].map((bp, number) => (
        <circle key={number} cx={at(bp)} cy={MIDDLE} r={5.5} fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth={1.5} />
      ))}
      <circle cx={at(likely)} cy={MIDDLE} r={7} fill="var(--color-ink)" />
      <text x={EDGE} y={34} fontSize={11} fill="var(--color-soft)">
        0
      </text>
      <text x={WIDE - EDGE} y={34} fontSize={11} textAnchor="end" fill="var(--color-soft)">
        {rate(top)}
      </text>
    </svg>
  );
}

/** Into one offer of one plan, with its range. */
function TakeOver({ said, learned, plans }: Omit<Props, "frame"> & { said: Said }) {
  const { say, fail } = useNotice();
  const take = async (saved: SavedPlan, offer: OfferDoc) => {
    try {
      const plan = withOffer(saved.plan, offer.id, (one) => takenOver(said, learned, one));
      keepPlan(await ask<SavedPlan>("PUT", `/plans/${saved.id}`, { revision: saved.revision, plan }));
      say(`“${saved.plan.name}” now expects ${rate(said.likely!)} ${CALLED[said.of]}.`);
    } catch (error) {
      fail(error);
    }
  };
  return (
    <OfferOfPlans {...{ plans }} of={(offer) => fits(said, offer)} choose={(offer, saved) => void take(saved, offer)} align="end" label={`Take over: ${CALLED[said.of]}`} className="text-small whitespace-nowrap">
      take over
    </OfferOfPlans>
  );
}
