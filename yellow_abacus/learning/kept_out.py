"""What a plan's offers did, read from shoppers they were not open to: a zone, a group, whoever its clauses leave out.

Orders let in changed from before to its days by a factor, those kept out by another; what is left between the two is
the plan's, if both would have moved alike without it (a difference in differences). docs/sums.md, "Afterwards".

>>> told = difference(Side(120, 100, 9.0, 10.0, 4.0, 4.0), Side(100, 100, 10.0, 10.0, 4.0, 4.0))
>>> round(told.orders.likely, 6), round(told.each.likely, 6)
(0.2, -1.0)
"""

import math
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.ground.money import Bools, Floats
from yellow_abacus.learning.estimate import NINE_IN_TEN, Estimate

FEWEST = 30
"""Orders of each side, before and on its days."""
DAYS_BEFORE = 56


@dataclass(frozen=True)
class Side:
    """Those let in, or those kept out: how many orders came on the plan's days, and before, scaled to as many days;
    what one kept, minor units, and the variance of that. scale: by how much those before were scaled."""

    during: float
    before: float
    kept_during: float
    kept_before: float
    variance_during: float
    variance_before: float
    scale: float = 1.0


@dataclass(frozen=True)
class Difference:
    """orders: how many more came, as a share. each: what one kept more, minor units. kept_out: orders of the plan's
    days that no offer of it was open to."""

    orders: Estimate
    each: Estimate
    kept_out: int


def side_of(during: Floats, before: Floats, days: int, days_before: int) -> Side | None:
    """during, before: what each order kept. None where there are too few."""
    if min(len(during), len(before)) < FEWEST:
        return None
    scale = days / days_before
    spread = (float(np.var(during, ddof=1)), float(np.var(before, ddof=1)))
    return Side(len(during), len(before) * scale, float(during.mean()), float(before.mean()), *spread, scale)


def difference(let_in: Side, kept_out: Side) -> Difference:
    """What the plan made of those let in, beside those kept out."""
    log = math.log(let_in.during / let_in.before) - math.log(kept_out.during / kept_out.before)
    unsure = math.sqrt(sum(1 / one.during + one.scale / one.before for one in (let_in, kept_out)))
    orders = Estimate(*(math.exp(log + by * unsure) - 1 for by in (0, -NINE_IN_TEN, NINE_IN_TEN)))
    each = (let_in.kept_during - let_in.kept_before) - (kept_out.kept_during - kept_out.kept_before)
    variance = sum(
        one.variance_during / one.during + one.variance_before * one.scale / one.before for one in (let_in, kept_out)
    )
    by = NINE_IN_TEN * math.sqrt(variance)
    return Difference(orders, Estimate(each, each - by, each + by), int(kept_out.during))


def read(
    during: Floats, before: Floats, lets_in: Bools, let_in_before: Bools, days: int, days_before: int
) -> Difference | None:
    """during, before: what each order kept; lets_in, let_in_before: whether any offer of the plan is open to its
    shopper and place. None where nobody, or too few, were kept out."""
    inside = side_of(during[lets_in], before[let_in_before], days, days_before)
    outside = side_of(during[~lets_in], before[~let_in_before], days, days_before)
    return None if inside is None or outside is None else difference(inside, outside)
