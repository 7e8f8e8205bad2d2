"""Shares of orders or shoppers, counted: of one offer, and of the next one like several before it.

Counts of one offer meet a prior that knows nothing, Beta(1, 1). Offers of a kind differ from each other by more than
chance, so their shares are taken as drawn from one Beta distribution whose mean and spread are not known: a
beta-binomial model, weighed over a grid of both, and the range is of what a next offer's share may be (Gelman et
al., Bayesian Data Analysis, 3rd ed., section 5.3). docs/sums.md, "What history says".

>>> share_of(0, 40).low
0.0
>>> share_of(30, 100).likely
0.3
"""

from collections.abc import Sequence

import numpy as np
from scipy.special import betaincinv, betaln, expit

from yellow_abacus.core.ground.money import Floats
from yellow_abacus.learning.estimate import HIGH, LOW, Estimate, between

DRAWS, SEED = 20_000, 5
MEANS = expit(np.linspace(-10, 6, 161))
SPREADS = np.logspace(-0.3, 5, 64)
"""How many orders' worth of agreement there is between offers of a kind."""


def share_of(uses: int, of: int) -> Estimate:
    """The share behind `uses` of so many, at least 1. Where none did its low is 0, where all did its high is 1."""
    a, b = 1 + uses, 1 + of - uses
    low = 0.0 if uses == 0 else float(betaincinv(a, b, LOW))
    high = 1.0 if uses == of else float(betaincinv(a, b, HIGH))
    return Estimate(uses / of, low, high)


def share_draws(uses: int, of: int, dice: np.random.Generator, draws: int) -> Floats:
    """Draws of the share behind a count."""
    return dice.beta(1 + uses, 1 + of - uses, draws)


def share_of_next(uses: Sequence[int], of: Sequence[int]) -> Estimate:
    """The share a next offer of the kind may have. uses, of: one entry an offer before it, at least one."""
    mean, spread = np.meshgrid(MEANS, SPREADS, indexing="ij")
    a, b = mean * spread, (1 - mean) * spread
    told = [betaln(k + a, n - k + b) - betaln(a, b) for k, n in zip(uses, of, strict=True)]
    log_weight = np.sum(told, axis=0)
    weight = np.exp(log_weight - log_weight.max()) * mean * (1 - mean)  # alike over means, not over their log odds
    dice = np.random.default_rng(SEED)
    at = dice.choice(weight.size, DRAWS, p=(weight / weight.sum()).ravel())
    drawn = dice.beta(np.maximum(a.ravel()[at], 1e-6), np.maximum(b.ravel()[at], 1e-6))
    return between(drawn, float(np.median(drawn)))
