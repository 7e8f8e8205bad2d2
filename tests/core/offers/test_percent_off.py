import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.offers.test_turn import BATCH, POTS, turn_on
from yellow_abacus.core.ground.money import percent_of
from yellow_abacus.core.offers import PercentOff


def test_a_percentage_of_all_that_is_picked_however_often_it_is_earned():
    for times in (1, 5):
        assert PercentOff(1000).take(turn_on(BATCH, POTS, times)).off_by_line.tolist() == [200, 100]


def test_what_it_was_taken_of_is_told_where_the_charge_has_its_part():
    turn = turn_on(BATCH, POTS)
    assert PercentOff(1000).take(turn).base_by_cart is None
    assert PercentOff(1000, with_delivery=True).take(turn).base_by_cart.tolist() == [2000, 1000]


@given(st.integers(1, 10_000), st.integers(0, 9000), st.integers(0, 9000))
def test_goods_and_charge_together_lose_the_percentage_of_their_sum(rate, base, charge):
    off = PercentOff(rate, with_delivery=True).off_charge(np.array([charge]), np.array([base]))
    whole = int(percent_of(np.array([base + charge]), rate)[0])
    assert off.tolist() == [whole - int(percent_of(np.array([base]), rate)[0]) if base else 0]


def test_set_by_set():
    assert PercentOff(3333).off_sets(np.array([100, 1, 2])).tolist() == [33, 0, 1]


@pytest.mark.parametrize(("rate", "is_wrong"), [(0, True), (10_001, True), (1, False), (10_000, False)])
def test_percentages_that_make_no_sense(rate, is_wrong):
    assert [problem.path for problem in PercentOff(rate).problems()] == [("percent_bp",)] * is_wrong
