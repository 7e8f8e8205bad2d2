/** What orders cost, beside what is set for them. */
import type { Frame } from "../../api/types";
import { count, money, rate } from "../../pieces/figures";

/** How near the two come that needs no word. */
const NEAR_BP = 100;

/** cost: of all orders together, and as it is set, null where it is not; exact: how many cost just what is found, null where that is an average. */
export interface Cost {
  cost: number;
  set: number | null;
  orders: number;
  exact: number | null;
}

/** How what is set is called where it is what orders cost, and where it is not. */
export interface SetWords {
  same: string;
  other: string;
}

/** How many basis points more orders cost than is set, to a tenth of a percent; null where nothing is. */
const moreThanSet = ({ cost, set }: Cost) => (set ? Math.round((cost / set - 1) * 1_000) * 10 : null);

const isNear = (off: number | null) => off !== null && Math.abs(off) < NEAR_BP;

/** whose: which orders; what: what they cost to be. */
export function compared(one: Cost, whose: string, what: string, words: SetWords, frame: Frame): string {
  const off = moreThanSet(one);
  const each = (sum: number) => money(Math.round(sum / one.orders), frame);
  const told = `${count(one.orders)} ${whose} cost ${each(one.cost)} each ${what}`;
  if (off === null || one.set === null) return `${told}.`;
  if (isNear(off)) return `${told}, ${words.same}.`;
  return `${told}, ${rate(Math.abs(off))} ${off > 0 ? "more" : "less"} than the ${each(one.set)} ${words.other}.`;
}

interface Props {
  one: Cost;
  /** As `compared` says it. */
  says: string;
  prices: string;
  /** What the button says where something is set, and where nothing is. */
  button: { change: string; begin: string };
  /** Said to those who do not see what it stands beside. */
  unseen?: string;
  take: () => void;
}

/** That, and what they cost, to be taken where it is not what is set. */
export function BesideSet({ one, says, prices, button, unseen = "", take }: Props) {
  const off = moreThanSet(one);
  const just = one.exact === null ? "On average" : one.exact === one.orders ? "All cost just" : `${count(one.exact)} cost just`;
  return <Told says={says} found={isNear(off) ? null : `${just} ${prices}.`} button={off === null ? button.begin : button.change} unseen={unseen} take={take} />;
}

interface ToldProps {
  says: string;
  /** What may be taken; null where that is what is set. */
  found: string | null;
  button: string;
  /** Said to those who do not see what it stands beside. */
  unseen: string;
  take: () => void;
}

/** What orders tell of something that is set. */
export function Told({ says, found, button, unseen, take }: ToldProps) {
  return (
    <p className="mt-2 text-small text-soft">
      {says}
      {found !== null && (
        <>
          {" "}
          <strong className="text-ink">{found}</strong>{" "}
          <button type="button" className="quiet" onClick={take}>
            {button}
            {unseen && <span className="sr-only">{unseen}</span>}
          </button>
        </>
      )}
    </p>
  );
}
