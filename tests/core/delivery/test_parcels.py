"""What a cart puts on the scales, and into how many parcels it goes."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.delivery.test_zones import GOODS, PARCEL, going
from tests.core.single_carts import carts_of, one_cart
from yellow_abacus.core.delivery.charges import FlatCharge
from yellow_abacus.core.delivery.parcels import (
    ANYTHING,
    Carries,
    Load,
    able,
    holding,
    lighter,
    load_of,
    parcels,
    with_put_in,
)
from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.core.delivery.zones import Delivery, Option, Zone
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.shop.surcharges import AmountFor, Surcharge


def test_nothing_is_sent_of_an_empty_cart():
    goods = one_cart(GOODS)
    delivery = Delivery((Zone("Home", (Option("Post", FlatCharge(490), tariffs=("Parcel",)),)),), (PARCEL,), 100_000)
    load, option = load_of(goods), np.array([0])
    carriage = delivery.carriage(load, option)
    assert (carriage.cost[0], carriage.parcels[0]) == (0, 0)
    assert delivery.charge(np.zeros(1, dtype=np.int64), load, option, carriage).tolist() == [0]
    surcharge = Surcharge("Packing", AmountFor(100))
    assert surcharge.asked(goods, ("Home",), goods.worth_by_line).tolist() == [0]
    insured = replace(PARCEL, insurance_bp=100)
    with_gift = with_put_in(replace(load, insured=np.array([5000.0])), np.array([0]), np.array([1]))
    assert insured.cost(with_gift, np.zeros(1), 100_000).tolist() == [0]


def test_the_packaging_counts_towards_the_heaviest_parcel():
    tariff = Tariff("T", steps=(WeightStep(None, 500.0),), carries=Carries(heaviest=4200))
    option = Option("Post", tariffs=("T",))
    assert going(option, ("POT", 1), tariffs=(tariff,), packaging=200)[1] == 1
    assert going(option, ("POT", 2), tariffs=(tariff,), packaging=200) == (1000.0, 2, "T")


def test_a_load_of_some_carts_is_that_of_those_carts():
    load = load_of(one_cart(GOODS, ("POT", 2), ("LAMP", 1)))
    some = load.some(np.array([0]))
    assert isinstance(some, Load)
    assert (some.weight[0], some.volume[0], some.heaviest_unit[0], some.longest[0], some.insured[0]) == (
        9_000_000,
        54_000_000.0,
        4_000_000,
        300.0,
        6000.0,
    )


def test_what_is_put_in_is_carried_too():
    load = load_of(carts_of(GOODS, [("SEED", 1)], [("LAMP", 1)]))
    pot, lamp = GOODS.skus.index("POT"), GOODS.skus.index("LAMP")
    found = with_put_in(load, np.array([pot, lamp]), np.array([2, 0]))
    assert found.weight.tolist() == [8_010_000, 1_000_000]
    assert found.heaviest_unit.tolist() == [4_000_000, 1_000_000]
    assert (found.volume[0], found.longest.tolist()) == (54_000_000.0, [300.0, 0.0])
    assert found.worth.tolist() == [8300, 6000]
    assert found.insured.tolist() == [0.0, 6000.0]
    assert with_put_in(load, np.array([lamp, lamp]), np.array([1, 1])).insured.tolist() == [6000.0, 12_000.0]


@pytest.mark.parametrize(
    ("heaviest", "packaging", "count"), [(None, 0, 1), (8000, 0, 1), (7999, 0, 2), (8000, 200, 2), (1, 900, 1)]
)
def test_a_cart_goes_in_equal_parcels_of_which_none_is_too_heavy(heaviest, packaging, count):
    load = load_of(carts_of(GOODS, [("POT", 2)], []))
    assert parcels(load, heaviest, packaging * 1000).tolist() == [count, 0]


@pytest.mark.parametrize(
    ("carries", "can"),
    [
        (ANYTHING, [True, True, True]),
        (Carries(heaviest=4100), [True, False, True]),
        (Carries(heaviest=4200), [True, True, True]),
        (Carries(longest=299), [True, False, True]),
        (Carries(refuses=Scope(skus=("LAMP",))), [True, True, False]),
    ],
)
def test_what_can_go_at_all(carries, can):
    batch = carts_of(GOODS, [("SEED", 9)], [("POT", 1), ("SEED", 1)], [("LAMP", 1)])
    assert able(carries, load_of(batch), packaging=200_000).tolist() == can
    assert holding(batch, Scope(skus=("SEED",))).tolist() == [True, True, False]


@pytest.mark.parametrize(("one", "other", "both"), [(None, None, None), (5, None, 5), (None, 4, 4), (5, 4, 4)])
def test_the_tighter_of_two_bounds(one, other, both):
    assert lighter(one, other) == both


@pytest.mark.parametrize(
    ("told", "path"),
    [(Carries(heaviest=0), ("heaviest",)), (Carries(longest=0), ("longest",)), (Carries(1, 1), None)],
)
def test_bounds_that_make_no_sense(told, path):
    assert [problem.path for problem in told.problems()] == [path] * (path is not None)
