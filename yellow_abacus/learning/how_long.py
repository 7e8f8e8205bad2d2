"""How long a plan must run until what it does can be told from chance: at 5 % error, two-sided, and 80 % power.

>>> days_to_tell(0.10, orders_a_day=40.0, spread=1.0, days_before=365)
23
>>> orders_to_tell(100.0, variance=1_000_000.0)
3136
"""

from dataclasses import replace
from datetime import date
from math import ceil, exp, log, sqrt

import numpy as np

from yellow_abacus.core.forecast.expected import Expected
from yellow_abacus.learning.estimate import NINE_IN_TEN

SURE = 1.96 + 0.84
"""Standard errors a difference must be apart for 5 % error and 80 % power."""
LONGEST = 3 * 365
"""Days: beyond that nobody waits."""


def spread_of(expected: Expected) -> float:
    """How much more daily orders spread than chance alone would have it; 1 where they do not."""
    counted = expected.counted
    if len(counted.days) < 2:
        return 1.0
    volume = replace(expected.volume, growth=0.0)
    usual = np.array([volume.on(date.fromordinal(int(day))) for day in counted.days])
    told = usual > 0
    off = (counted.orders[told] - usual[told]) ** 2 / usual[told]
    return max(float(off.sum()) / max(int(told.sum()) - 1, 1), 1.0)


def days_to_tell(more: float, orders_a_day: float, spread: float, days_before: int) -> int | None:
    """Days until so many more orders, as a share of the usual, can be told; None where nobody would wait so long.

    The daily orders of those days stand against those of as many days before as there are.
    """
    if more <= 0 or orders_a_day <= 0 or days_before < 1:
        return None
    most = (log(1 + more) / SURE) ** 2 * orders_a_day / spread - 1 / days_before
    days = ceil(1 / most) if most > 0 else LONGEST + 1
    return days if days <= LONGEST else None


def least_told(days: int, orders_a_day: float, spread: float, days_before: int) -> float | None:
    """The least share of more orders that so many days tell, as `days_to_tell` has it; None where there is nothing to
    hold them against."""
    if orders_a_day <= 0 or days_before < 1:
        return None
    return exp(SURE * sqrt(spread / orders_a_day * (1 / days + 1 / days_before))) - 1


def seen_between(share: float, orders: float) -> tuple[float, float]:
    """Between what a share would be told by so many orders, nine times in ten."""
    off = NINE_IN_TEN * sqrt(share * (1 - share) / orders)
    return max(share - off, 0.0), min(share + off, 1.0)


def missing_between(share: float, orders: float, days: int, days_before: int) -> tuple[float, float]:
    """The same of a share that is missing from so many orders, as many being expected by those of other days."""
    off = NINE_IN_TEN * sqrt((1 - share + days / days_before) / orders)
    return max(share - off, 0.0), min(share + off, 1.0)


def orders_to_tell(difference: float, variance: float) -> int | None:
    """Orders until a difference in what one of them keeps can be told, where half of the shoppers are kept from it.
    difference: minor units; variance: of what one keeps, in their squares."""
    if not difference:
        return None
    return ceil(SURE**2 * variance / difference**2 * 4)
