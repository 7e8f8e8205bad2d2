"""What shoppers may meet while a plan runs: a set of offers there for them, and what an order comes to then.

docs/sums.md, "States".
"""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.sums import Sums
from yellow_abacus.core.ground.money import Floats


@dataclass(frozen=True, eq=False)
class State:
    """orders: expected in the plan's time that meet it. available: numbers of the plan's offers that are there.

    sums: of one of those orders, on average, in the order of `available`.
    """

    orders: float
    available: tuple[int, ...]
    sums: Sums

    def extra(self, plan: Plan) -> Floats:
        """Extra orders each offer brings, as a share of those it reaches; where several do, the shares add up."""
        return np.array([plan.offers[at].response.extra for at in self.available], dtype=np.float64)
