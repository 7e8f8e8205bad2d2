"""A plan: offers in order, over a window of days."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, timedelta

from yellow_abacus.core.forecast.sharp import Sharp
from yellow_abacus.core.offers import Offer, When
from yellow_abacus.core.pricing.pricing import Apply

Opened = tuple[tuple[int, Offer], ...]
"""Offers open on one day: the index of each in the plan, and the offer as it holds on that day."""


@dataclass(frozen=True)
class Plan:
    """first_day and last_day are both part of the window. `offers` holds only those slid into the plan.

    apply: which offers are kept where not all go together. sharp: the cart some shoppers build, None for nobody.
    """

    first_day: date
    last_day: date
    offers: tuple[Offer, ...]
    apply: Apply = "best"
    sharp: Sharp | None = None

    @property
    def today(self) -> "Plan":
        """The same time as it stands: the offers that run already, of which there are none yet."""
        return replace(self, offers=(), sharp=None)

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
            opened = self.opened_on(day)
            like = tuple((at, offer.when) for at, offer in opened)
            found.setdefault(like, (opened, []))[1].append(day)
        return list(found.values())

    def window(self) -> list[date]:
        """Every day of the plan."""
        return [self.first_day + timedelta(days=number) for number in range(self.days)]
