"""A plan: offers in order, over a window of days."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, timedelta

from yellow_abacus.core.ground.money import Floats
from yellow_abacus.core.offers import Offer, When
from yellow_abacus.core.pricing.pricing import Apply

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
    def today(self) -> "Plan":
        """The same time as it stands: the offers that run already, of which there are none yet."""
        return replace(self, offers=())

    @property
    def days(self) -> int:
        return (self.last_day - self.first_day).days + 1

    def opened_on(self, day: date) -> Opened:
        settled = ((at, offer.on_day(day)) for at, offer in enumerate(self.offers))
        return tuple((at, offer) for at, offer in settled if offer is not None)

    def window(self) -> list[date]:
        """Every day of the plan."""
        return [self.first_day + timedelta(days=number) for number in range(self.days)]


def merged(weighed: Iterable[tuple[Opened, Floats]]) -> list[tuple[Opened, Floats]]:
    """Sets of offers of one plan, those alike put together with their weights added."""
    weights: dict[tuple[tuple[int, When], ...], Floats] = {}
    sets: dict[tuple[tuple[int, When], ...], Opened] = {}
    for opened, weight in weighed:
        like = tuple((at, offer.when) for at, offer in opened)
        sets.setdefault(like, opened)
        weights[like] = weights[like] + weight if like in weights else weight
    return [(sets[like], weight) for like, weight in weights.items()]
