"""To which shoppers an offer is held."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.facts import Facts
from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.naming import all_folded
from yellow_abacus.core.ground.problem import Problem, amount_between
from yellow_abacus.core.ground.shape import CLOSED

MOST_ORDERS = 1000
MOST_DAYS = 3660
MOST_NAMES = 20_000


@dataclass(frozen=True)
class Who:
    """Any shopper, unless something is said; all that is said must hold.

    groups, tags, shoppers: one of those named; the `except_` ones win. first_order: on the shopper's first order
    only. nth_order: from the shopper's nth order on. days_since: the last order was at least so many days ago.
    """

    groups: tuple[str, ...] = ()
    except_groups: tuple[str, ...] = ()
    tags: tuple[str, ...] = ()
    except_tags: tuple[str, ...] = ()
    shoppers: tuple[str, ...] = ()
    except_shoppers: tuple[str, ...] = ()
    first_order: bool = False
    nth_order: int | None = None
    days_since: int | None = None

    __pydantic_config__ = CLOSED

    def problems(self) -> Iterator[Problem]:
        if self.nth_order is not None:
            yield from amount_between("nth_order", "The number of the order", self.nth_order, 1, MOST_ORDERS)
        if self.days_since is not None:
            yield from amount_between("days_since", "The number of days", self.days_since, 1, MOST_DAYS)
        if self.first_order and ((self.nth_order or 1) > 1 or self.days_since is not None):
            yield Problem(("first_order",), "Nobody's first order is also a later one.", "Keep one of the two.")
        for clause in ("groups", "tags", "shoppers"):
            wanted, unwanted = getattr(self, clause), getattr(self, f"except_{clause}")
            if len(wanted) + len(unwanted) > MOST_NAMES:
                yield Problem((clause,), f"There are more than {MOST_NAMES} names.", "Use a tag or a group for them.")
            elif wanted and all_folded(wanted) <= all_folded(unwanted):
                yield Problem((f"except_{clause}",), "Everybody let in is left out again.", "Take a name off.")

    def passes(self, facts: Facts) -> Bools:
        result = np.ones(len(facts.orders_before_by_cart), dtype=np.bool_)
        for known, wanted, unwanted in (
            (facts.group, self.groups, self.except_groups),
            (facts.tags, self.tags, self.except_tags),
            (facts.shopper, self.shoppers, self.except_shoppers),
        ):
            if wanted:
                result &= known.among(wanted)
            if unwanted:
                result &= ~known.among(unwanted)
        if self.first_order:
            result &= facts.orders_before_by_cart == 0
        if self.nth_order is not None:
            result &= facts.orders_before_by_cart >= self.nth_order - 1
        if self.days_since is not None:
            result &= facts.days_since_by_cart >= self.days_since
        return result
