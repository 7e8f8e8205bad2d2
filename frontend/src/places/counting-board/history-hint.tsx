/** In the slip of a figure of the response: what history says of it, and taking it over. */
import { useHistory, useNextSent, useShortTest } from "../../api/history";
import type { Frame, NextOfKind, OfferDoc, Ranging } from "../../api/types";
import { count } from "../../pieces/figures";
import { FEWEST_ALIKE, fits, isOfKind, sentInAll, takenFromKind, takenOver } from "../../offers/taking-over";

interface Props {
  figure: Ranging;
  offer: OfferDoc;
  frame: Frame;
  /** Of the plan. */
  days: number;
  take: (make: (offer: OfferDoc) => OfferDoc) => void;
}

/** The next one of a kind, taken from those before it; of messages as many as the offer sends. */
function NextLike({ next, offer, days, take }: { next: NextOfKind; offer: OfferDoc; days: number; take: Props["take"] }) {
  const sent = next.kind === "sent" ? sentInAll(offer, days) : null;
  const told = useNextSent(next.before, sent);
  if (sent !== null && told === null) return null;
  const figures = told ?? next;
  return (
    <li>
      <strong>The next one</strong>: {told ? `As ${count(next.offers)} before it: ${told.says}` : next.says}{" "}
      <button type="button" className="quiet" onClick={() => take((before) => takenFromKind(next.of, figures, before))}>
        Take it over<span className="sr-only"> from those before it</span>
      </button>
    </li>
  );
}

/** Where history says nothing: what a short test would tell. alone: whether it is also said where none would. */
function ShortTest({ says, alone = false, figure, frame }: { says: string; alone?: boolean } & Pick<Props, "figure" | "frame">) {
  const test = useShortTest(figure, frame.data_version);
  if (!test && !alone) return null;
  return (
    <p className="text-small text-soft">
      {says} {test}
    </p>
  );
}

/** So many offers that ran are told, those whose figure rests on most orders. */
const MOST = 3;

export function HistoryHint({ figure, offer, frame, days, take }: Props) {
  const asks = frame.past > 0 || figure === "top_up_bp"; // which free delivery tells of too
  const { says, looked } = useHistory(frame.data_version, asks);
  if (!asks) return <ShortTest says="No offer that ran is told yet." {...{ figure, frame }} />;
  if (!says) return <p className="text-small text-soft">{looked === null ? "" : "Looking at what history says…"}</p>;
  const told = [...says.offers, ...says.free_delivery]
    .flatMap((learned) => learned.figures.filter((said) => said.of === figure && said.likely !== null && fits(said, offer)).map((said) => ({ learned, said })))
    .sort((a, b) => b.said.orders - a.said.orders)
    .slice(0, MOST);
  const alike = says.next.filter((one) => one.of === figure && one.offers >= FEWEST_ALIKE && isOfKind(one, offer));
  if (told.length + alike.length === 0) return <ShortTest says="History has nothing to say of this: no offer that ran tells it." alone {...{ figure, frame }} />;
  return (
    <ul aria-label="What history says" className="grid gap-1.5 text-small">
      {alike.map((one) => (
        <NextLike key={one.kind} next={one} {...{ offer, days, take }} />
      ))}
      {told.map(({ learned, said }) => (
        <li key={learned.id}>
          <strong>{learned.name}</strong>: {said.says}{" "}
          <button type="button" className="quiet" onClick={() => take((one) => takenOver(said, learned, one))}>
            Take it over<span className="sr-only"> from {learned.name}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
