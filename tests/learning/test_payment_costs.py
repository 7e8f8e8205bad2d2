"""What being paid cost is found again from payments whose costs are known, and comes to what all of them cost."""

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from yellow_abacus.learning.payment_costs import PaymentCost, payment_cost

TOTALS = st.lists(st.integers(5_00, 900_00), min_size=60, max_size=300, unique=True).map(np.array)


@example(np.arange(60, 200) * 100, 1, 0, 0.0, 0)  # a cent or two each
@given(TOTALS, st.integers(0, 500), st.integers(0, 60), st.sampled_from([0.0, 0.05]), st.integers(0, 2**32 - 1))
def test_what_most_payments_cost_is_found_again(total, cost_bp, fixed, odd, seed):
    dice = np.random.default_rng(seed)
    cost = (total * cost_bp + 5_000) // 10_000 + fixed
    some = dice.random(len(total)) < odd
    cost = np.where(some, np.maximum(cost + dice.integers(-3, 4, len(total)), 0), cost)
    found = payment_cost(total, cost)
    assert found.cost_bp == pytest.approx(cost_bp, abs=1)
    told = total * found.cost_bp / 10_000 + found.fixed
    assert told.sum() == pytest.approx(cost.sum(), abs=max(0.011 * cost.sum(), len(total)))
    if not odd:
        assert found.exact is not None


@given(TOTALS, st.integers(0, 2**32 - 1))
def test_two_costs_are_taken_on_average(total, seed):
    dear = np.random.default_rng(seed).random(len(total)) < 0.5
    cost = (total * np.where(dear, 290, 140) + 5_000) // 10_000 + 25
    found = payment_cost(total, cost)
    told = total * found.cost_bp / 10_000 + found.fixed
    assert told.sum() == pytest.approx(cost.sum(), rel=0.012)
    assert found.fixed >= 0


def test_totals_that_are_all_alike_tell_a_fixed_amount():
    assert payment_cost(np.full(20, 50_00), np.full(20, 95)) == PaymentCost(0, 95.0, 20)
