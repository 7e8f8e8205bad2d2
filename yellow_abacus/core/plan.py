"""A plan: offers in order, over a window of days."""

from dataclasses import dataclass
from datetime import date, timedelta

from yellow_abacus.core.offers import Offer, When
from yellow_abacus.core.pricing import Apply

Opened = tuple[tuple[int, Offer], ...]
"""Offers open on one day: the index of each in the plan, and the offer as it holds on that day."""


@dataclass(frozen=True)
class Plan:
    """first_day and last_day are both part of the window. `offers` holds only those slid into the plan.

    apply: which offers are kept where not all go together.
    """

    first_day: date
    last_day: date
    offers: tuple[Offer, ...]
    apply: Apply = "best"

    @property
    def days(self) -> int:
        return (self.last_day - self.first_day).days + 1

    def opened_on(self, day: date) -> Opened:
        settled = ((at, offer.on_day(day)) for at, offer in enumerate(self.offers))
        return tuple((at, offer) for at, offer in settled if offer is not None)

    def spans(self) -> list[tuple[Opened, int]]:
        """Each set of open offers and for how many days it is open."""
        days: dict[tuple[tuple[int, When], ...], int] = {}
        opened: dict[tuple[tuple[int, When], ...], Opened] = {}
        for number in range(self.days):
            now = self.opened_on(self.first_day + timedelta(days=number))
            key = tuple((at, offer.when) for at, offer in now)
            opened.setdefault(key, now)
            days[key] = days.get(key, 0) + 1
        return [(opened[key], count) for key, count in days.items()]
