"""Groups of carts that sums are kept apart for: whose order it is, and which weekdays' orders it stands for.

How many orders a weekday has, and what share of first-time shoppers hold a code, then only weigh sums that are
there already. An order of which it is not known whether it is the shopper's first counts among the others.
docs/sums.md, "Groups".
"""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN, Facts
from yellow_abacus.core.clauses.when import WEEKDAYS
from yellow_abacus.core.ground.keeper import Apart
from yellow_abacus.core.ground.money import Floats, Ints

FIRST, RETURNING = 0, 1
COHORTS = 2
DRAWN, ANY_DAY = WEEKDAYS, 2 * WEEKDAYS
"""Days of a group: 0 to 6, a weekday whose orders its carts share; from DRAWN on, a weekday that carts of any day
stand for by branching; ANY_DAY, carts that come on any."""


@dataclass(frozen=True, eq=False)
class Groups(Apart):
    """day, cohort: of each group that has carts. number_by_cart: the group of each cart. A mix keeps them."""

    day: Ints
    cohort: Ints
    number_by_cart: Ints

    def __len__(self) -> int:
        return len(self.day)

    def spreading(self, by_weekday: Floats, told_apart: bool) -> Floats:
        """How a weekday's orders fall on the groups: one row a weekday, one column a group, in times what the group
        has of all carts.

        by_weekday: the share of all carts that came on each. told_apart: whether carts share the orders of their own
        weekday; if not, all carts share all orders. A weekday without carts takes them from all others.
        """
        known, has = by_weekday.sum(), by_weekday > 0
        found = np.ones((WEEKDAYS, len(self)))
        weekday = np.arange(WEEKDAYS)
        if told_apart and known:
            of_day = self.day < DRAWN
            day = self.day[of_day]
            own = (weekday[:, None] == day) / np.where(has, by_weekday, 1.0)[day]
            found[:, of_day] = known * np.where(has[:, None], own, 1 / known)
        drawn = (self.day >= DRAWN) & (self.day < ANY_DAY)
        found[:, drawn] = weekday[:, None] == self.day[drawn] - DRAWN
        return found


def grouped(facts: Facts, drawn_by_cart: Ints | None) -> Groups:
    """drawn_by_cart: the weekday a cart stands for by branching, UNKNOWN for none."""
    day = np.where(facts.weekday_by_cart == UNKNOWN, ANY_DAY, facts.weekday_by_cart)
    if drawn_by_cart is not None:
        day = np.where(drawn_by_cart == UNKNOWN, day, DRAWN + drawn_by_cart)
    cohort = np.where(facts.orders_before_by_cart == 0, FIRST, RETURNING)
    numbers, number_by_cart = np.unique(day * COHORTS + cohort, return_inverse=True)
    return Groups(numbers // COHORTS, numbers % COHORTS, number_by_cart)
