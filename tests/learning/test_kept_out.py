"""The difference offers made, read from those they were not open to."""

import numpy as np

from yellow_abacus.learning.kept_out import FEWEST, read


def drawn(dice: np.random.Generator, more: float, each: float) -> tuple:
    """A season that lifts both sides alike, and a plan that lifts one."""
    lift = dice.uniform(0.7, 1.5)
    counts = [dice.poisson(rate) for rate in (400 * lift * (1 + more), 150 * lift, 1_600, 600)]
    kept = [
        dice.normal(mean, 500, size) for mean, size in zip((1_000 + each, 1_400, 1_000, 1_400), counts, strict=True)
    ]
    let_in = [np.repeat([True, False], counts[:2]), np.repeat([True, False], counts[2:])]
    return np.concatenate(kept[:2]), np.concatenate(kept[2:]), *let_in


def test_ranges_hold_the_difference_nine_times_in_ten():
    dice, held = np.random.default_rng(6), np.zeros(2)
    for _ in range(300):
        found = read(*drawn(dice, 0.2, -150.0), days=14, days_before=56)
        held += [found.orders.low <= 0.2 <= found.orders.high, found.each.low <= -150 <= found.each.high]
    assert (held >= 255).all()
    assert (held <= 288).all()


def test_nobody_or_too_few_kept_out_tell_nothing():
    kept, everybody = np.ones(200), np.ones(200, dtype=bool)
    assert read(kept, kept, everybody, everybody, 14, 56) is None
    few = everybody.copy()
    few[: FEWEST - 1] = False
    assert read(kept, kept, few, few, 14, 56) is None
