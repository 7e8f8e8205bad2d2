/** What orders tell of offers that nobody told the shop: each becomes an offer that ran, to be corrected. */
import { useId, type ReactNode } from "react";

import { useNames } from "../../api/queries";
import type { FoundGift, FoundSpell, Frame, HistorySays, OfferDoc } from "../../api/types";
import { cash, count, soMany, days, listed, rate } from "../../pieces/figures";
import { nameOfSku } from "../../pieces/product-picker";
import { offerOf, offerOfFree, offerOfGift, offerOfSpell, type PastOffers } from "./use-past";

interface Props {
  says: HistorySays;
  past: PastOffers;
  frame: Frame;
}

export function Untold({ says, past, frame }: Props) {
  return (
    <>
      {says.found.length > 0 && <Found {...{ says, past, frame }} />}
      {says.gifts.length > 0 && <Gifts {...{ says, past, frame }} />}
      {says.spells.length > 0 && <Spells {...{ says, past }} />}
      {says.freed.length > 0 && <Freed {...{ says, past, frame }} />}
    </>
  );
}

/** Codes in the orders that no offer knows. */
function Found({ says, past, frame }: Props) {
  const found = says.found.map((one) => ({
    name: one.code,
    about: `with the code ${one.code}`,
    words: `${soMany(one.orders, "order")}, ${days(one.first_day, one.last_day)}${one.off_bp === null ? "; they do not tell what came off" : `; ${rate(one.off_bp)} came off`}`,
    offer: () => offerOf(one, 10 ** frame.minor_digits),
  }));
  return (
    <Listed title="Codes in your orders that no offer knows" {...{ found, past }}>
      {says.others > 0 && <p className="text-small text-soft">and {count(says.others)} more codes, used less</p>}
    </Listed>
  );
}

/** Goods that orders got for nothing, and no offer says why. */
function Gifts({ says, past, frame }: Props) {
  const { data: names } = useNames();
  const called = (sku: string) => nameOfSku(sku, names ?? []);
  const givenFor = ({ given_for, from_value, with_sku }: FoundGift): string => {
    if (given_for === "value") return `from ${cash(from_value!, frame)}`;
    if (given_for === "goods") return `with ${called(with_sku!)}`;
    return given_for === "every_order" ? "in every order" : "your orders do not tell for what";
  };
  const found = says.gifts.map((one) => {
    const name = listed(one.skus.map(called), "or");
    const parts = [one.units > 1 ? `${count(one.units)} of it` : "", givenFor(one), one.code && `with the code ${one.code}`, days(one.first_day, one.last_day), `${soMany(one.orders, "order")}`];
    return { name, about: `that puts in ${name}`, words: parts.filter(Boolean).join(", "), offer: () => offerOfGift(one) };
  });
  return <Listed title="Goods that nobody paid for" {...{ found, past }} />;
}

/** Goods that cost less for some days, and no offer says why. */
function Spells({ says, past }: Omit<Props, "frame">) {
  const { data: names } = useNames();
  const called = ({ skus, category, everything }: FoundSpell): string => {
    if (everything) return "Almost everything";
    if (category) return category;
    const first = nameOfSku(skus[0]!, names ?? []);
    return skus.length === 1 ? first : `${first} and ${count(skus.length - 1)} more`;
  };
  const found = says.spells.map((one) => ({
    name: called(one),
    about: `on ${called(one)}`,
    words: `${rate(one.off_bp)} less, ${days(one.first_day, one.last_day)}, in ${soMany(one.orders, "order")}`,
    offer: () => offerOfSpell(one),
  }));
  return <Listed title="Goods that cost less for some days" {...{ found, past }} />;
}

function Freed({ says, past, frame }: Props) {
  const found = says.freed.map((one) => {
    const all = one.zones.length === frame.zones.length;
    const to = all ? "everywhere" : `to ${listed(one.zones)}`;
    return {
      name: `From ${cash(one.free_from, frame)} ${to}`,
      about: `from ${cash(one.free_from, frame)} ${to}`,
      words: `${cash(one.usual, frame)} on other days; ${days(one.first_day, one.last_day)}, ${soMany(one.orders, "order")} that would have paid`,
      offer: () => offerOfFree(one, all),
    };
  });
  return <Listed title="Delivery that was free from less for some days" {...{ found, past }} />;
}

interface ListedProps {
  title: string;
  /** about: what tells its button from the others to who does not see where it stands. */
  found: { name: string; about: string; words: string; offer: () => OfferDoc }[];
  past: PastOffers;
  children?: ReactNode;
}

/** What orders tell of and nobody told the shop, each to be told as an offer that ran. */
function Listed({ title, found, past, children }: ListedProps) {
  const id = useId();
  return (
    <section aria-labelledby={id} className="mt-4">
      <h2 id={id} className="text-title">
        {title}
      </h2>
      <ul className="mt-1 grid gap-1">
        {found.map(({ name, about, words, offer }) => (
          <li key={`${name} ${words}`} className="flex items-baseline gap-3">
            <span>
              <strong>{name}</strong> · {words}
            </span>
            <button type="button" className="quiet text-small" onClick={() => past.add(offer())}>
              Tell it as an offer<span className="sr-only"> {about}</span>
            </button>
          </li>
        ))}
      </ul>
      {children}
    </section>
  );
}
