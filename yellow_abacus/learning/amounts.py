"""What a next offer may give away on an order, as several before it did.

Logs of the offers' means are normal around one that is not known, by a spread that is not known, each but for the
chance that is in so few orders as it had: weighed over a grid of both, means alike and spreads alike in their logs
(Gelman et al., Bayesian Data Analysis, 3rd ed., section 5.4). docs/sums.md, "What history says".

>>> drawn = amounts_of_next([800.0, 820.0, 790.0], [0.001, 0.001, 0.001])
>>> bool(700 < np.quantile(drawn, 0.05) < 800 < np.quantile(drawn, 0.95) < 920)
True
"""

from collections.abc import Sequence

import numpy as np

from yellow_abacus.core.ground.money import Floats
from yellow_abacus.learning.shares import DRAWS, SEED
from yellow_abacus.learning.weighing import draws_of

LOG_SPREADS = (-4.6, 0.7)
"""Offers differ by a hundredth at least, and by twice the middle one at most."""
AROUND, GRID = 3.0, (31, 21)


def amounts_of_next(means: Sequence[float], unsure: Sequence[float]) -> Floats:
    """Draws of the next one's mean. means: above 0, one entry an offer, at least one. unsure: the variance of each
    by chance, in squares of it."""
    logs = np.log(means)

    def log_weight(middle: Floats, log_spread: Floats) -> Floats:
        told = np.zeros(middle.shape)
        for log, chance in zip(logs.tolist(), unsure, strict=True):
            variance = np.exp(2 * log_spread) + chance
            told = told - np.log(variance) / 2 - (log - middle) ** 2 / (2 * variance)
        return told

    dice = np.random.default_rng(SEED)
    ends = (float(logs.min()) - AROUND, float(logs.max()) + AROUND)
    middle, log_spread = draws_of(log_weight, (ends, LOG_SPREADS), GRID, dice, DRAWS)
    return np.exp(middle + np.exp(log_spread) * dice.standard_normal(DRAWS))
