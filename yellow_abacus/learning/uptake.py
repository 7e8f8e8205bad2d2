"""How many held a code: of the orders it was open for and works on, the share that used it.

An order it does not work on tells nothing of who held it. Where most uses are on orders it should not work on, the
shop gave something else than the sentence says, and all orders it was open for are counted instead. docs/sums.md,
"What history says".
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.learning.ran import Ran

Kind = Literal["sent", "to_few", "to_all", "code"]
"""Of codes: sent in messages, told to few, shown to all, or not said."""


@dataclass(frozen=True)
class Uses:
    """How often a code was used. used, of: by first orders, then others; `of` is the orders that could have."""

    used: tuple[int, int]
    of: tuple[int, int]

    @property
    def all_used(self) -> int:
        return sum(self.used)

    @property
    def all_of(self) -> int:
        return sum(self.of)


def kind_of(ran: Ran) -> Kind | None:
    """How a code came to shoppers; None for what needs none."""
    if ran.offer.given.key is None:
        return None
    response = ran.offer.response
    return "sent" if response.sends is not None else response.shown or "code"


def uses_of(ran: Ran) -> Uses:
    """Of an offer with a code."""
    used, could = _used_and_could(ran)
    return Uses(_by_cohort(used, ran.past.is_first), _by_cohort(could, ran.past.is_first))


def _used_and_could(ran: Ran) -> tuple[Bools, Bools]:
    """Orders that used it, of those that could have; and those."""
    used, could = ran.used & ran.open, ran.open & ran.works
    if 2 * int((used & could).sum()) < int(used.sum()):
        could = ran.open
    return used & could, could


@dataclass(frozen=True, eq=False)
class UsesByDay:
    """One entry a day the offer ran. days: ordinals. used, could: as in `Uses`, of all orders."""

    days: Ints
    used: Ints
    could: Ints


def uses_by_day(ran: Ran) -> UsesByDay:
    """Of an offer with a code, on the days of the history on which it ran."""
    used, could = _used_and_could(ran)
    first = max(ran.first_day, ran.past.first_day) if ran.days else 0
    day = ran.past.day_by_cart - first
    many = (np.bincount(day[some], minlength=ran.days)[: ran.days] for some in (used, could))
    return UsesByDay(first + np.arange(ran.days), *many)


def answered(ran: Ran) -> tuple[int, int]:
    """How many messages brought an order with the code, of all that were sent."""
    sends = ran.offer.response.sends
    assert sends is not None, "nothing was sent"
    sent = sends.sent(max(ran.days, 1))
    return min(int(ran.used.sum()), sent), sent


def _by_cohort(orders: Bools, is_first: Bools) -> tuple[int, int]:
    counts: Ints = np.bincount(is_first[orders].astype(np.int64), minlength=2)
    return int(counts[1]), int(counts[0])
