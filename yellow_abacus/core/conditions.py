"""What earns an offer: conditions that measure something over a scope, and how many times it is earned.

docs/sums.md, "Conditions".
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.money import Ints
from yellow_abacus.core.problem import Problem, amount_between
from yellow_abacus.core.scope import EVERYTHING, Scope
from yellow_abacus.core.shape import CLOSED


@dataclass(frozen=True)
class Spend:
    """The goods in scope come to `at_least` minor units, after what earlier offers took off."""

    at_least: int
    over: Scope = EVERYTHING
    kind: Literal["spend"] = "spend"

    __pydantic_config__ = CLOSED

    def measure_by_cart(self, batch: CartBatch, net_by_line: Ints) -> Ints:
        return batch.axes.sum_by_cart(net_by_line * batch.lines_in(self.over))

    def problems(self) -> Iterator[Problem]:
        return amount_between("at_least", "The spend needed", self.at_least, least=1)


Condition = Spend
"""Every kind of condition; a new kind joins this union."""


@dataclass(frozen=True)
class Earned:
    """All `conditions` must hold; none at all always holds.

    repeat: *once*, or *each_time* the threshold is reached again.
    """

    conditions: tuple[Condition, ...] = ()
    repeat: Literal["once", "each_time"] = "once"

    __pydantic_config__ = CLOSED

    def times_by_cart(self, batch: CartBatch, net_by_line: Ints) -> Ints:
        """Times earned `t`: the least over the conditions; 1 where there are none."""
        times = np.ones(batch.axes.carts, dtype=np.int64)
        for number, condition in enumerate(self.conditions):
            reached = condition.measure_by_cart(batch, net_by_line) // condition.at_least
            if self.repeat == "once":
                reached = np.minimum(reached, 1)
            times = reached if number == 0 else np.minimum(times, reached)
        return times


NOTHING_NEEDED = Earned()
