"""How far off the volume of such days was before."""

from datetime import date

import numpy as np
import pytest

from tests.learning.made_shops import GOODS, SHOP
from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.forecast.expected import History, MixTerms, expect
from yellow_abacus.core.forecast.volume_before import off_before

START = date(2025, 1, 1).toordinal()


def history(orders_by_day: np.ndarray) -> History:
    day = np.repeat(np.arange(len(orders_by_day)) + START, orders_by_day)
    carts, nothing = np.arange(len(day)), np.zeros(len(day), dtype=np.int64)
    return History(SHOP, make_batch(GOODS, nothing, carts, nothing, nothing + 1, nothing), day, "EUR")


def test_volume_that_stays_is_off_by_chance_alone():
    orders = np.random.default_rng(1).poisson(40, 300)
    found = off_before(expect(history(orders)), 14)
    assert found
    assert found.off < 0.03
    assert found.stretches == (300 - 56) // 14


def test_volume_that_moves_by_itself_is_off_by_as_much():
    """A level that is drawn anew every 14 days: the last 14 days say nothing of the next."""
    dice = np.random.default_rng(2)
    level = np.repeat(np.exp(0.3 * dice.normal(size=26)), 14)
    found = off_before(expect(history(dice.poisson(40 * level)), MixTerms(counted="last", last_days=14)), 14)
    assert found
    assert found.off == pytest.approx(0.3 * 2**0.5, rel=0.35)  # of one level beside another
    low, high = found.between
    assert low * high == pytest.approx(1)
    assert np.log(high) == pytest.approx(1.645 * found.off, rel=1e-3)


@pytest.mark.parametrize("terms", [MixTerms(orders_a_day=30.0), MixTerms(month_bp=(10_000,) * 12)])
def test_what_the_merchant_says_is_not_held_against_the_past(terms):
    orders = np.random.default_rng(3).poisson(np.linspace(20, 80, 300))
    assert off_before(expect(history(orders), terms), 14) is None
    found = off_before(expect(history(orders)), 14)
    assert found
    assert found.off > 0.1


def test_a_short_history_tells_nothing():
    assert off_before(expect(history(np.full(70, 30))), 14) is None
    assert off_before(expect(history(np.full(1, 30))), 14) is None
