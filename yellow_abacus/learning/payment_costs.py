"""What being paid cost: the share of the total and the fixed amount that most payments cost to the cent, or else the
ones that come nearest on average. docs/sums.md, "What being paid cost".

>>> total = np.array([12_00, 25_50, 40_00, 61_20, 99_00] * 4)
>>> payment_cost(total, np.floor(total * 0.014 + 0.5).astype(np.int64) + 25)
PaymentCost(cost_bp=140, fixed=25.0, exact=20)
"""

from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.ground.money import WHOLE_BP, Floats, Ints
from yellow_abacus.learning.parcel_costs import how_many_exact

MOST_PAIRED = 500
"""So many payments, evenly spread, are paired to find what most cost."""
BESIDE = 5
"""Basis points, up to which the share may be another than pairs tell."""
WITHIN = 1
"""Minor units, give or take which a payment cost just what is told of it: it may be rounded otherwise."""


@dataclass(frozen=True)
class PaymentCost:
    """cost_bp: of the total; fixed: minor units. exact: how many payments cost just that, give or take one minor
    unit; None where it is what they cost on average."""

    cost_bp: int
    fixed: float
    exact: int | None

    def asked(self, total: Ints) -> Floats:
        """For each payment, as in `payment_cost`: minor units."""
        return total * self.cost_bp / WHOLE_BP + self.fixed


def payment_cost(total: Ints, cost: Ints) -> PaymentCost:
    """total: what the shopper paid, above 0; cost: of that. Minor units; one entry a payment, at least one."""
    some = np.linspace(0, len(total) - 1, min(len(total), MOST_PAIRED)).astype(np.int64)
    one, other = np.triu_indices(len(some), 1)
    apart = total[some][other] - total[some][one]
    slopes = (cost[some][other] - cost[some][one])[apart != 0] / apart[apart != 0]
    about = round(float(np.median(slopes)) * WHOLE_BP) if len(slopes) else 0
    rates = sorted(range(about - BESIDE, about + BESIDE + 1), key=lambda rate: (rate % 10 > 0, rate % 5 > 0))
    every = [_with_rate(rate, total, cost) for rate in dict.fromkeys(map(_within, rates))]

    def fits(one: PaymentCost) -> tuple[int, int]:
        apart = np.abs(_to_the_cent(one, total) - cost)
        return int((apart <= WITHIN).sum()), int((apart == 0).sum())

    best = max(every, key=fits)  # of those alike the roundest
    exact = how_many_exact(_to_the_cent(best, total), cost, WITHIN)
    return _on_average(total, cost) if exact is None else replace(best, exact=exact)


def _to_the_cent(one: PaymentCost, total: Ints) -> Floats:
    """What it asks of each payment, in whole minor units."""
    return np.floor(one.asked(total) + 0.5)


def _with_rate(rate: int, total: Ints, cost: Ints) -> PaymentCost:
    """With such a share, basis points, and the fixed amount that most cost besides."""
    return PaymentCost(rate, max(float(np.rint(np.median(cost - total * rate / WHOLE_BP))), 0.0), None)


def _on_average(total: Ints, cost: Ints) -> PaymentCost:
    """So that all together cost just what they did."""
    spread = float(total.var())
    rate = _within(round(float(np.cov(total, cost, bias=True)[0, 1]) / spread * WHOLE_BP) if spread else 0)
    fixed = float(cost.mean() - total.mean() * rate / WHOLE_BP)
    if fixed < 0:
        rate, fixed = _within(round(float(cost.sum() / total.sum()) * WHOLE_BP)), 0.0
    return PaymentCost(rate, round(fixed, 2), None)


def _within(rate: int) -> int:
    return min(max(rate, 0), WHOLE_BP)
