"""How far off the volume of such days was before: forecast again from ever longer parts of the history.

From each part, told by the same rule (all days, or the last so many), the orders of the days right after it are
forecast and held against what came. docs/sums.md, "Afterwards".
"""

import math
from dataclasses import dataclass
from datetime import date

import numpy as np
from scipy.special import ndtri

from yellow_abacus.core.forecast.expected import Expected
from yellow_abacus.core.forecast.volume import Counted, count_days, measured

FEWEST_DAYS = 8 * 7
"""Days a forecast is made from, at least."""
FEWEST, MOST = 3, 60
"""Forecasts that tell anything, and so many at most are made."""


@dataclass(frozen=True)
class OffBefore:
    """off: the standard deviation of the log of what came over what was forecast, what chance alone makes left out.
    stretches: of how many stretches of days."""

    off: float
    stretches: int

    @property
    def between(self) -> tuple[float, float]:
        """The 5 and 95 % points of what comes, in times what is forecast."""
        aside = float(ndtri(0.95)) * self.off
        return math.exp(-aside), math.exp(aside)


def off_before(expected: Expected, days: int) -> OffBefore | None:
    """How far off forecasts of so many days were; None where the history is too short to tell, or the merchant says
    how many orders come."""
    terms = expected.terms
    if terms.counted in ("range", "year_ago") or terms.orders_a_day is not None or terms.month_bp:
        return None
    left_out = [(one.first_day, one.last_day) for one in terms.left_out]
    whole = count_days(expected.history.day_by_cart, left_out)
    ends = range(FEWEST_DAYS, len(whole.days) - days + 1, max(days, (len(whole.days) - FEWEST_DAYS) // MOST, 1))
    squares = []
    for end in ends:
        start = max(end - terms.last_days, 0) if terms.counted == "last" else 0
        volume = measured(Counted(whole.days[start:end], whole.orders[start:end]), terms.named)
        told = sum(volume.on(date.fromordinal(int(day))) for day in whole.days[end : end + days])
        came = int(whole.orders[end : end + days].sum())
        if told > 0 and came > 0:
            squares.append(math.log(came / told) ** 2 - 1 / came)
    if len(squares) < FEWEST:
        return None
    return OffBefore(math.sqrt(max(float(np.mean(squares)), 0.0)), len(squares))
