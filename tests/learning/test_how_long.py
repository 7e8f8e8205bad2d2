"""How long it takes to tell a difference from chance: in that time it is told about four times in five."""

from math import log

import numpy as np
import pytest

from yellow_abacus.learning.how_long import (
    LONGEST,
    days_to_tell,
    least_told,
    missing_between,
    orders_to_tell,
    seen_between,
)


@pytest.mark.parametrize(("more", "a_day", "before"), [(0.2, 30.0, 365), (0.1, 80.0, 200), (0.5, 12.0, 90)])
def test_in_so_many_days_more_orders_are_told_four_times_in_five(more, a_day, before):
    days = days_to_tell(more, a_day, 1.0, before)
    dice = np.random.default_rng(3)
    usual, during = dice.poisson(a_day * before, 4_000), dice.poisson(a_day * (1 + more) * days, 4_000)
    step = np.log(during / days) - np.log(usual / before)
    told = np.abs(step) > 1.96 * np.sqrt(1 / during + 1 / usual)
    assert 0.76 <= told.mean() <= 0.95  # whole days make it a little longer than need be
    if days > 2:
        fewer = (log(1 + more) / 2.8) ** 2 * a_day * (days - 1)
        assert fewer < 1 + (days - 1) / before


def test_orders_that_spread_more_take_longer():
    assert days_to_tell(0.1, 40.0, 3.0, 365) > 2 * days_to_tell(0.1, 40.0, 1.0, 365)
    assert days_to_tell(0.001, 40.0, 1.0, 365) is None
    assert days_to_tell(0.05, 0.5, 1.0, 30) is None
    assert days_to_tell(0.0, 40.0, 1.0, 365) is None
    assert LONGEST == 1095


def test_a_difference_between_halves_is_told_four_times_in_five():
    difference, spread = 120.0, 900.0
    orders = orders_to_tell(difference, spread**2)
    dice = np.random.default_rng(4)
    half = orders // 2
    found = dice.normal(difference, spread, (3_000, half)).mean(axis=1) - dice.normal(0, spread, (3_000, half)).mean(
        axis=1
    )
    told = np.abs(found) > 1.96 * spread * np.sqrt(2 / half)
    assert told.mean() == pytest.approx(0.8, abs=0.03)
    assert orders_to_tell(0.0, 100.0) is None


@pytest.mark.parametrize(("days", "a_day", "spread"), [(14, 40.0, 1.0), (28, 12.0, 2.5)])
def test_the_least_that_is_told_is_told_in_so_many_days_and_less_is_not(days, a_day, spread):
    least = least_told(days, a_day, spread, 365)
    assert days_to_tell(least * 1.001, a_day, spread, 365) == days
    assert days_to_tell(least * 0.98, a_day, spread, 365) > days
    assert least_told(days, a_day, spread, 0) is None


def test_shares_of_a_test_lie_between_nine_times_in_ten():
    dice = np.random.default_rng(8)
    low, high = seen_between(0.1, 600)
    seen = dice.binomial(600, 0.1, 20_000) / 600
    assert 0.87 <= ((seen >= low) & (seen <= high)).mean() <= 0.93
    low, high = missing_between(0.25, 200, 14, 90)
    usual = dice.poisson(200 * 90 / 14, 20_000) * 14 / 90
    missing = 1 - dice.poisson(200 * 0.75, 20_000) / usual
    assert 0.86 <= ((missing >= low) & (missing <= high)).mean() <= 0.94
