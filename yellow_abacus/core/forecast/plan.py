"""A plan: offers in order, over a window of days."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, timedelta

from yellow_abacus.core.clauses.response import Ranging
from yellow_abacus.core.forecast.sharp import Sharp
from yellow_abacus.core.ground.money import WHOLE_BP
from yellow_abacus.core.offers import Offer, When
from yellow_abacus.core.pricing.pricing import Apply

Opened = tuple[tuple[int, Offer], ...]
"""Offers open on one day: the index of each in the plan, and the offer as it holds on that day."""


def both_sides(first: Iterable[Offer], then: Iterable[Offer]) -> tuple[Offer, ...]:
    """The offers of today and of a plan, those that are on both sides once: those of the side told first, then what
    the other has more."""
    these = tuple(first)
    return (*these, *(one for one in then if one not in these))


@dataclass(frozen=True)
class Dropped:
    """An offer that runs today and not under the plan. extra, extra_first: orders it brings, as a share of those it
    reaches that would come without it; of shoppers' first orders, None for the same."""

    offer: Offer
    extra: float = 0.0
    extra_first: float | None = None

    @property
    def stay_by_cohort(self) -> tuple[float, float]:
        """Of first orders it reaches, and of others, those that come without it."""
        first = self.extra if self.extra_first is None else self.extra_first
        return 1 / (1 + first), 1 / (1 + self.extra)


@dataclass(frozen=True)
class Plan:
    """first_day and last_day are both part of the window. `offers` holds only those slid into the plan, and those
    that run already and are kept.

    apply: which offers are kept where not all go together. sharp: the cart some shoppers build, None for nobody.
    running: all offers that run already; dropped: those of them that are not kept. lost_if_sold_out_bp: of the orders
    that miss something sold out, those that are not placed at all; None where orders go on as if there were enough.
    """

    first_day: date
    last_day: date
    offers: tuple[Offer, ...]
    apply: Apply = "best"
    sharp: Sharp | None = None
    running: tuple[Offer, ...] = ()
    dropped: tuple[Dropped, ...] = ()
    lost_if_sold_out_bp: int | None = None

    @property
    def today(self) -> "Plan":
        """The same time as it stands, with the offers that run already."""
        return replace(self.staying, dropped=())

    @property
    def staying(self) -> "Plan":
        """As today, without the orders that dropped offers bring."""
        return replace(self, offers=self.running, sharp=None)

    @property
    def as_if_enough(self) -> "Plan":
        """The same where nothing but what is put in ever sells out."""
        return self if self.lost_if_sold_out_bp is None else replace(self, lost_if_sold_out_bp=None)

    @property
    def typed(self) -> "Plan":
        """The same for carts of which it is told what codes were typed, also those of offers that run already."""
        offers, running = (tuple(replace(one, runs=False) for one in some) for some in (self.offers, self.running))
        return replace(self, offers=offers, running=running)

    @property
    def every(self) -> tuple[Offer, ...]:
        return both_sides(self.running, self.offers)

    @property
    def ranged(self) -> dict[tuple[int, Ranging], tuple[float, float, float]]:
        """Low, likely and high of every figure that has a range, as shares, by offer's number and figure. A code's is
        that of the first offer with it."""
        found = {}
        for at, offer in enumerate(self.offers):
            for one in offer.response.ranges:
                likely = offer.response.likely(one.of)
                if likely is not None and one.low < one.high:
                    found[at, one.of] = (one.low / WHOLE_BP, likely / WHOLE_BP, one.high / WHOLE_BP)
        return found

    @property
    def own(self) -> tuple[int, ...]:
        """Numbers of the offers that do not run yet."""
        return tuple(at for at, offer in enumerate(self.offers) if not offer.runs)

    @property
    def days(self) -> int:
        return (self.last_day - self.first_day).days + 1

    def opened_on(self, day: date) -> Opened:
        settled = ((at, offer.on_day(day)) for at, offer in enumerate(self.offers))
        return tuple((at, offer) for at, offer in settled if offer is not None)

    def open_over(self, days: Iterable[date]) -> list[tuple[Opened, list[date]]]:
        """Each set of offers open on some of the days, and the days on which it is."""
        found: dict[tuple[tuple[int, When], ...], tuple[Opened, list[date]]] = {}
        for day in days:
            opened, today = self.opened_on(day), self.today.opened_on(day) if self.running else ()
            like = tuple((at, offer.when) for at, offer in (*opened, *today))
            found.setdefault(like, (opened, []))[1].append(day)
        return list(found.values())

    def open_for(self, offer: Offer) -> tuple[int, int]:
        """The first day, an ordinal, on which an offer of the plan may be open, and how many such days there are from
        then on, at least 1."""
        first, last = offer.when.first_day or self.first_day, offer.when.last_day or self.last_day
        opens = max(self.first_day, first).toordinal()
        return opens, max(min(self.last_day, last).toordinal() - opens + 1, 1)

    def paid_for(self, offer: Offer) -> int:
        """What an offer of the plan costs however many use it, minor units."""
        return offer.response.paid(self.open_for(offer)[1])

    def window(self) -> list[date]:
        """Every day of the plan."""
        return [self.first_day + timedelta(days=number) for number in range(self.days)]
