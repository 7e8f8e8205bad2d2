"""What a carrier asks for a parcel; whole carts are held against the slow pricer in test_pricing."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.delivery.test_zones import GOODS, going
from tests.core.single_carts import one_cart
from yellow_abacus.core.delivery.parcels import ANYTHING, Carries, load_of
from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.core.delivery.zones import Option


def test_the_greater_of_weight_and_size_is_billed():
    light = Tariff("T", steps=(WeightStep(5000, 500.0), WeightStep(6000, 700.0)), divisor=5000)
    assert going(Option("Post", tariffs=("T",)), ("POT", 1), tariffs=(light,))[0] == 700.0
    dense = Tariff("T", steps=light.steps, divisor=6000)
    assert going(Option("Post", tariffs=("T",)), ("POT", 1), tariffs=(dense,))[0] == 500.0


@given(
    st.lists(st.integers(1, 9), unique=True).map(sorted),
    st.sampled_from([None, 100.0]),
    st.sampled_from([None, 5000]),
    st.booleans(),
)
def test_a_tariff_takes_what_it_has_a_price_for(kilograms, per_kilogram, divisor, is_open):
    steps = [WeightStep(one * 1000, 100.0 * one) for one in kilograms] + [WeightStep(None, 2000.0)] * is_open
    tariff = Tariff("Parcel", steps=tuple(steps), per_kilogram=per_kilogram, divisor=divisor)
    carts = [one_cart(GOODS, *lines) for lines in ([], [("SEED", 3)], [("LAMP", 5)], [("POT", 1)], [("POT", 2)])]
    for load, count in zip(map(load_of, carts), (0.0, 1.0, 2.0, 1.0, 1.0), strict=True):
        found = tariff.takes(load, np.array([count]), 250_000)
        assert found.tolist() == np.isfinite(tariff.cost(load, np.array([count]), 250_000)).tolist()


def test_insurance_is_asked_of_insured_goods_and_fuel_not_of_it():
    tariff = Tariff("T", steps=(WeightStep(None, 1000.0),), fuel_bp=1000, insurance_bp=100)
    assert going(Option("Post", tariffs=("T",)), ("LAMP", 2), ("SEED", 1), tariffs=(tariff,))[0] == 1100 + 120


@pytest.mark.parametrize(
    ("grams", "price"),
    [(0, 300.0), (1000, 300.0), (1000.001, 500.0), (3000, 500.0), (3000.001, 600.0), (4000, 600.0), (4001, 700.0)],
)
def test_each_step_holds_up_to_its_weight_then_each_started_kilogram_counts(grams, price):
    tariff = Tariff("T", steps=(WeightStep(1000, 300.0), WeightStep(3000, 500.0)), per_kilogram=100.0)
    assert tariff.price_of_parcel(np.array([grams * 1000.0])).tolist() == [price]
    heaviest = Tariff("T", steps=tariff.steps).price_of_parcel(np.array([grams * 1000.0]))
    assert heaviest.tolist() == [price if grams <= 3000 else np.inf]


def test_without_a_price_beyond_its_last_step_no_parcel_is_heavier_than_that():
    steps = (WeightStep(1000, 300.0), WeightStep(3000, 500.0))
    assert Tariff("T", steps=steps).limits == Carries(heaviest=3000)
    assert Tariff("T", steps=steps, carries=Carries(heaviest=2500)).limits == Carries(heaviest=2500)
    assert Tariff("T", steps=steps, per_kilogram=1.0).limits == ANYTHING


@pytest.mark.parametrize(
    ("told", "path"),
    [
        (Tariff("T"), ("steps",)),
        (Tariff("T", steps=(WeightStep(None, 1.0), WeightStep(5, 2.0))), ("steps", 0, "upto")),
        (Tariff("T", steps=(WeightStep(5, 1.0), WeightStep(5, 2.0))), ("steps", 1, "upto")),
        (Tariff("T", steps=(WeightStep(5, -1.0),)), ("steps", 0, "amount")),
        (Tariff("T", per_kilogram=-0.5), ("per_kilogram",)),
        (Tariff("T", per_kilogram=1.0, divisor=0), ("divisor",)),
        (Tariff("T", per_kilogram=1.0, fuel_bp=20_001), ("fuel_bp",)),
        (Tariff("T", per_kilogram=1.0, insurance_bp=-1), ("insurance_bp",)),
        (Tariff("T", per_kilogram=1.0, carries=Carries(longest=0)), ("carries", "longest")),
        (Tariff("T", steps=(WeightStep(5, 1.0), WeightStep(None, 2.0)), divisor=5000), None),
    ],
)
def test_tariffs_that_make_no_sense(told, path):
    assert [problem.path for problem in told.problems()] == [path] * (path is not None)
