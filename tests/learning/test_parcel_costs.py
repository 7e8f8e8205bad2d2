"""What carriers asked is found again from parcels whose prices are known, and comes to what all of them cost."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.learning.parcel_costs import NEAR, parcel_cost

UPTO = st.lists(st.sampled_from([500, 1_000, 2_000, 5_000, 10_000]), min_size=1, max_size=4, unique=True).map(sorted)


@st.composite
def tariffs(draw):
    upto = draw(UPTO)
    amounts = np.cumsum(draw(st.lists(st.integers(80, 400), min_size=len(upto), max_size=len(upto)))).tolist()
    last = draw(st.sampled_from([None, upto[-1]]))
    ends = [*upto[:-1], last]
    steps = tuple(WeightStep(end, float(amount)) for end, amount in zip(ends, amounts, strict=True))
    return Tariff("made", steps=steps, per_kilogram=None if last is None else 110.0)


@given(tariffs(), st.integers(60, 400), st.integers(0, 2**32 - 1))
def test_prices_most_parcels_cost_are_found_again(made, many, seed):
    dice = np.random.default_rng(seed)
    weight = dice.integers(20, 12_000, many) * 1_000
    cost = made.price_of_parcel(weight.astype(float)).astype(np.int64)
    found = parcel_cost(weight, cost)
    asked = found.asked(weight)
    assert not [*found.tariff("found").problems()]
    assert asked.sum() == pytest.approx(cost.sum(), rel=NEAR + 1e-6)
    if found.exact is not None:
        assert found.exact == (asked == cost).sum() >= 0.5 * many


@given(tariffs(), st.integers(10, 400), st.integers(0, 2**32 - 1), st.sampled_from([20, 150, 600]))
def test_otherwise_it_is_what_they_cost_on_average(made, many, seed, spread):
    dice = np.random.default_rng(seed)
    weight = dice.integers(20, 12_000, many) * 1_000
    cost = made.price_of_parcel(weight.astype(float)) + dice.gamma(2, spread / 2, many)
    found = parcel_cost(weight, np.rint(cost).astype(np.int64))
    amounts = [step.amount for step in found.steps]
    assert not [*found.tariff("found").problems()]
    assert amounts == sorted(amounts)
    if found.exact is None:
        assert found.asked(weight).sum() == pytest.approx(np.rint(cost).sum(), abs=many)


def test_heavier_parcels_that_are_not_clearly_dearer_are_of_one_step():
    dice = np.random.default_rng(5)
    weight = dice.integers(20, 12_000, 300) * 1_000
    found = parcel_cost(weight, dice.integers(400, 900, 300))
    assert [step.upto for step in found.steps] == [None]


def test_a_dearer_parcel_now_and_then_is_part_of_the_average():
    weight = np.full(100, 900_000)
    cost = np.where(np.arange(100) < 80, 400, 900)
    assert parcel_cost(weight, cost).steps == (WeightStep(None, 500.0),)
    assert parcel_cost(weight, np.full(100, 400)).exact == 100
