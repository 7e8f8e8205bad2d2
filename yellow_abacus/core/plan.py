"""A plan: offers in order, over a window of days."""

from dataclasses import dataclass
from datetime import date, timedelta

from yellow_abacus.core.offers import Offer


@dataclass(frozen=True)
class Plan:
    """first_day and last_day are both part of the window. `offers` holds only those slid into the plan."""

    first_day: date
    last_day: date
    offers: tuple[Offer, ...]

    @property
    def days(self) -> int:
        return (self.last_day - self.first_day).days + 1

    def open_offers_by_days(self) -> dict[tuple[int, ...], int]:
        """Spans: each set of open offers (indices in plan order) and for how many days it is open."""
        spans: dict[tuple[int, ...], int] = {}
        for number in range(self.days):
            day = self.first_day + timedelta(days=number)
            opened = tuple(at for at, offer in enumerate(self.offers) if offer.when.open_on(day))
            spans[opened] = spans.get(opened, 0) + 1
        return spans
