"""Why an offer applies on one cart, or does not, as a sentence that helps."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from yellow_abacus.core.clauses.when import When
from yellow_abacus.core.clauses.who import Who
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.pricing import Apply
from yellow_abacus.core.pricing.reasons import MEASURES, Measure
from yellow_abacus.files.cart_json import CartDoc, OutcomeDoc, ReasonDoc
from yellow_abacus.files.reasons_json import IN_WORDS, size_in_words
from yellow_abacus.files.words import money

WEEKDAYS = ("Mondays", "Tuesdays", "Wednesdays", "Thursdays", "Fridays", "Saturdays", "Sundays")


@dataclass(frozen=True)
class ReasonWords:
    """names: of the plan's offers, by id. first_day, last_day: of the plan. apply: which offers it keeps."""

    offers: Sequence[Offer]
    names: Mapping[str, str]
    first_day: date
    last_day: date
    apply: Apply
    currency: str
    minor_digits: int

    def of(self, told: ReasonDoc, cart: CartDoc, outcome: OutcomeDoc) -> str:
        """The sentence, without its full stop."""
        offer = next(one for one in self.offers if one.id == told.offer)
        match told.reason:
            case "applied":
                return self._applied(offer, outcome)
            case "short":
                return self._short(offer, told)
            case "over":
                return self._over(offer)
            case "out_of_dates":
                return self._out_of_dates(offer, cart)
            case "wrong_hours":
                return f"only {hours_in_words(offer.when)}"
            case "not_this_shopper":
                return f"only for {who_in_words(offer.who)}"
            case "not_this_destination":
                return f"not to {cart.zone}" if cart.zone else IN_WORDS[told.reason]
            case "not_this_channel" | "not_this_payment":
                return f"only by {_any_of(offer.where.channels or offer.where.payments)}"
            case "no_code":
                return self._no_code(offer)
            case "reward_not_in_cart":
                return "what it would give is not in the cart yet"
            case "shut_out":
                return self._shut_out(offer, told.shut_out_by)
        return IN_WORDS[told.reason]

    def _cash(self, amount: int) -> str:
        return money(amount, self.currency, self.minor_digits)

    def _applied(self, offer: Offer, outcome: OutcomeDoc) -> str:
        goods = sum(off.amount for line in outcome.lines for off in line.taken_off if off.offer == offer.id)
        delivery = sum(off.amount for off in outcome.delivery_taken_off if off.offer == offer.id)
        told = [f"takes {self._cash(goods)} off"] if goods else []
        told += [f"takes {self._cash(delivery)} off delivery"] if delivery else []
        told += [f"puts in {one.quantity} × {one.sku}" for one in outcome.put_in if one.offer == offer.id]
        return " and ".join(told)

    def _short(self, offer: Offer, told: ReasonDoc) -> str:
        of, by = told.short_of or MEASURES[0], told.short_by or 0
        missing = size_in_words(of, by, self.currency, self.minor_digits)
        needed = _needed(offer, of)
        if needed is None:
            return f"{missing} short"
        return f"{missing} short of {size_in_words(of, needed, self.currency, self.minor_digits)}"

    def _over(self, offer: Offer) -> str:
        most = next((one for one in offer.earned.conditions if one.bound == "at_most"), None)
        if most is None or most.kind == "only":
            return "there is more in the cart than it allows"
        return f"over {size_in_words(most.kind, most.n, self.currency, self.minor_digits)}"

    def _out_of_dates(self, offer: Offer, cart: CartDoc) -> str:
        first, last = offer.when.first_day or self.first_day, offer.when.last_day or self.last_day
        day = cart.time.date() if cart.time is not None else None
        if day is None or first <= day <= last:
            return "not open at that moment"
        return f"starts on {day_in_words(first)}" if day < first else f"ended on {day_in_words(last)}"

    def _no_code(self, offer: Offer) -> str:
        given = offer.given
        if given.by == "codes":
            return f"needs one of its {len(given.codes):,} codes"
        return f"needs the {'link with the ' if given.by == 'link' else ''}code {given.code}"

    def _shut_out(self, offer: Offer, by: str | None) -> str:
        if by is None:
            return IN_WORDS["shut_out"]
        other = self.names.get(by, by)
        if self.apply == "first":
            return f"shut out by {other}, which comes first"
        if offer.alongside.yields_at_all:
            return f"gives way to {other}"
        return f"shut out by {other}, which saves the shopper more"


def _needed(offer: Offer, of: Measure) -> int | None:
    """What the condition asks for that counts so; None where a reward asks for units itself."""
    return next((one.n for one in offer.earned.conditions if one.kind == of and one.bound != "at_most"), None)


def day_in_words(day: date) -> str:
    return f"{day.day} {day:%B}"


def hours_in_words(when: When) -> str:
    days = f"on {_any_of([WEEKDAYS[day] for day in when.weekdays])}" if when.weekdays else ""
    if when.from_minute is None or when.to_minute is None:
        return days or "at other moments"
    return f"{days} from {_clock(when.from_minute)} to {_clock(when.to_minute)}".strip()


def _clock(minute: int) -> str:
    return f"{minute // 60}:{minute % 60:02}"


def who_in_words(who: Who) -> str:
    told = []
    if who.first_order:
        told.append("a first order")
    if who.nth_order is not None:
        told.append(f"order {who.nth_order} of a shopper and later ones")
    if who.days_since is not None:
        told.append(f"shoppers away for {who.days_since} days")
    if who.groups or who.tags:
        told.append(_any_of([*who.groups, *who.tags]))
    if who.shoppers:
        told.append("shoppers it names")
    left_out = [*who.except_groups, *who.except_tags]
    if left_out:
        told.append(f"others than {_any_of(left_out)}")
    if who.except_shoppers:
        told.append("others than those it leaves out")
    return " and ".join(told)


def _any_of(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} or {names[-1]}" if names else "others"
