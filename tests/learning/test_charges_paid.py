"""Charges that orders paid are found again from orders made by charges that are known."""

import subprocess
import sys

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.delivery.charges import ChargeByValue, ChargeByWeight, ChargeStep, FlatCharge, ValueStep
from yellow_abacus.learning.charges_paid import FEWEST, SHARE, charge_paid

AMOUNTS = st.lists(st.integers(1, 40).map(lambda units: units * 50), min_size=4, max_size=4, unique=True)
STEPS = st.lists(st.integers(1, 16), min_size=1, max_size=3, unique=True).map(sorted)


@st.composite
def charges(draw):
    amounts, steps = draw(AMOUNTS), draw(STEPS)
    flat = FlatCharge(amounts[0])
    by_value = ChargeByValue(amounts[0], tuple(ValueStep(at * 500, amounts[n + 1]) for n, at in enumerate(steps)))
    weights = [*(at * 250 for at in steps), 5_000]
    by_weight = ChargeByWeight(tuple(ChargeStep(at, amounts[n]) for n, at in enumerate(weights)))
    return draw(st.sampled_from([flat, by_value, by_weight])), draw(st.sampled_from([None, 6_000, 9_900]))


@given(charges(), st.integers(20, 400), st.integers(0, 2**32 - 1), st.sampled_from([0.0, 0.04]))
def test_what_most_orders_paid_is_found_again(made, orders, seed, odd):
    charge, free_from = made
    dice = np.random.default_rng(seed)
    value = np.rint(dice.gamma(2, 2_000, orders)).astype(np.int64) + 100
    weight = dice.integers(20, 5_000, orders) * 1_000
    asked = charge.asked(value, weight, np.zeros(orders))
    asked = asked if free_from is None else np.where(value >= free_from, 0, asked)
    paid = np.where(dice.random(orders) < odd, dice.integers(1, 3_000, orders), asked)
    found = charge_paid(value, weight, paid)
    assert not [*found.charge.problems()]
    assert found.exact == (found.asked(value, weight) == paid).sum()
    # each of its steps may be left out for so few orders, and it may be one of fewer parts for as many
    slack = 6 * max(FEWEST, SHARE * orders)
    assert found.exact > (asked == paid).sum() - slack
    assert found.exact >= np.unique(paid, return_counts=True)[1].max() - slack


def test_a_threshold_between_two_orders_is_the_roundest_there_is():
    value, none = np.array([40_11, 48_90, 61_00, 80_00] * 5), np.zeros(20, dtype=np.int64)
    assert charge_paid(value, none, np.where(value < 50_00, 490, 0)).free_from == 50_00
    weight = np.array([120, 480, 530, 2_600] * 5) * 1_000
    found = charge_paid(none, weight, np.where(weight <= 500_000, 490, 890))
    assert found.charge == ChargeByWeight((ChargeStep(500, 490), ChargeStep(2_600, 890)))


@pytest.mark.parametrize("before", [(), (ChargeStep(2_000, 490),)])
def test_each_started_kilogram_beyond_the_last_step_is_found(before):
    made = ChargeByWeight((*before, ChargeStep(5_000, 890)), 110)
    weight = np.random.default_rng(3).integers(100, 14_000, 400) * 1_000
    none = np.zeros_like(weight)
    found = charge_paid(none, weight, made.asked(none, weight, none.astype(float)))
    assert (found.charge, found.free_from, found.exact) == (made, None, 400)


def test_what_takes_long_to_load_is_not_loaded_at_the_start():
    told = subprocess.run(
        [sys.executable, "-c", "import sys, yellow_abacus.web.app; print('sklearn' in sys.modules)"],
        capture_output=True,
        text=True,
        check=True,
    )
    assert told.stdout.strip() == "False"


def test_orders_that_all_paid_otherwise_tell_the_commonest_amount():
    paid = np.array([*range(100, 140), 490, 490])
    found = charge_paid(np.arange(42) * 100, np.zeros(42, dtype=np.int64), paid)
    assert (found.charge, found.free_from, found.exact) == (FlatCharge(490), None, 2)
