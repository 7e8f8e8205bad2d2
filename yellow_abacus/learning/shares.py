"""Shares of orders or shoppers, counted: of one offer, and of the next one like several before it.

Counts of one offer meet a prior that knows nothing, Beta(1, 1). Offers of a kind differ from each other by more than
chance, so their shares are taken as drawn from one Beta distribution whose mean and spread are not known: a
beta-binomial model, weighed over a grid of both (Gelman et al., Bayesian Data Analysis, 3rd ed., section 5.3). The
log odds of the mean may rise or fall with the log of what is counted, for a message to a hundred chosen shoppers is
not answered as one to all. docs/sums.md, "What history says".

>>> share_of(0, 40).low
0.0
>>> share_of(30, 100).likely
0.3
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.special import betaincinv, betaln, expit

from yellow_abacus.core.ground.money import Floats
from yellow_abacus.learning.estimate import HIGH, LOW, Estimate
from yellow_abacus.learning.weighing import draws_of

DRAWS, SEED = 20_000, 5
LOG_ODDS, LOG_SPREADS = (-10.0, 6.0), (-0.7, 11.5)
"""Between which a mean may lie, and how many orders' worth of agreement there is between offers of a kind."""
SLOPE = 0.5
"""By so much log odds may well rise or fall where e times as many are counted."""
GRID = (31, 15, 15)
LEAST_SHAPE = 1e-6
"""Of a Beta distribution."""


def share_of(uses: int, of: int) -> Estimate:
    """The share behind `uses` of so many, at least 1. Where none did its low is 0, where all did its high is 1."""
    a, b = 1 + uses, 1 + of - uses
    low = 0.0 if uses == 0 else float(betaincinv(a, b, LOW))
    high = 1.0 if uses == of else float(betaincinv(a, b, HIGH))
    return Estimate(uses / of, low, high)


def share_draws(uses: int, of: int, dice: np.random.Generator, draws: int) -> Floats:
    """Draws of the share behind a count."""
    return dice.beta(1 + uses, 1 + of - uses, draws)


@dataclass(frozen=True, eq=False)
class Alike:
    """How shares of a kind differ, one entry a draw. log_odds: of the mean, where the log counted is `middle`;
    spread: of the Beta around it; slope: by which the log odds rise with the log counted."""

    log_odds: Floats
    spread: Floats
    slope: Floats
    middle: float

    def shares(self, counted: Floats | float, dice: np.random.Generator) -> Floats:
        """Draws of the next one's share, where so many are counted: one number, or one a draw."""
        mean = expit(self.log_odds + self.slope * (np.log(counted) - self.middle))
        a, b = mean * self.spread, (1 - mean) * self.spread
        return dice.beta(np.maximum(a, LEAST_SHAPE), np.maximum(b, LEAST_SHAPE))


def alike(uses: Sequence[int], of: Sequence[int], *, by_number: bool = False) -> Alike:
    """How the shares behind several counts differ. uses, of: one entry an offer, at least one. by_number: whether a
    share may depend on what is counted."""
    sizes = np.log(np.asarray(of, dtype=np.float64))
    middle = float(sizes.mean())

    def log_weight(log_odds: Floats, log_spread: Floats, slope: Floats) -> Floats:
        odds, spread = expit(log_odds), np.exp(log_spread)
        told = np.log(odds) + np.log1p(-odds) - (slope / SLOPE) ** 2 / 2  # alike over means, not over their log odds
        for k, n, size in zip(uses, of, sizes.tolist(), strict=True):
            mean = expit(log_odds + slope * (size - middle))
            a, b = np.maximum(mean * spread, LEAST_SHAPE), np.maximum((1 - mean) * spread, LEAST_SHAPE)
            told = told + betaln(k + a, n - k + b) - betaln(a, b)
        return told

    slopes = (-4 * SLOPE, 4 * SLOPE) if by_number and len(set(of)) > 1 else (0.0, 0.0)
    dice = np.random.default_rng(SEED)
    log_odds, log_spread, slope = draws_of(log_weight, (LOG_ODDS, LOG_SPREADS, slopes), GRID, dice, DRAWS)
    return Alike(log_odds, np.exp(log_spread), slope, middle)
