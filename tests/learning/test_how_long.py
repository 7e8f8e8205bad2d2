"""How long it takes to tell a difference from chance: in that time it is told about four times in five."""

from math import log

import numpy as np
import pytest

from yellow_abacus.learning.how_long import LONGEST, days_to_tell, orders_to_tell


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
