"""Charges, tariffs and options at their edges; whole carts are held against the slow pricer in test_pricing."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_margins import one_cart
from yellow_abacus.core.delivery.charges import (
    ChargeByValue,
    ChargeByWeight,
    ChargeStep,
    CostPlus,
    FlatCharge,
    ValueStep,
)
from yellow_abacus.core.delivery.parcels import Carries, Load, load_of, with_put_in
from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.core.delivery.zones import Delivery, Option, Preferred, Zone
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.shop.surcharges import AmountFor, Surcharge

GOODS = make_goods(
    [
        GoodRecord("LAMP", list_price=6000, weight=1000.0, categories=("Lamps",), insured=True),
        GoodRecord("POT", list_price=4000, weight=4000.0, length=300, width=300, height=300),
        GoodRecord("SEED", list_price=300, weight=10.0),
    ]
)
LETTER = Tariff("Letter", steps=(WeightStep(500, 150.0),))
PARCEL = Tariff("Parcel", steps=(WeightStep(2000, 400.0), WeightStep(5000, 600.0)), per_kilogram=100.0)


def going(option: Option, *lines: tuple[str, int], tariffs=(LETTER, PARCEL), packaging: int = 0):
    """Cost, parcels and tariff of one cart by one option."""
    delivery = Delivery((Zone("Home", (option,)),), tariffs, packaging * 1000)
    carried = delivery.carriage(load_of(one_cart(GOODS, *lines)), np.array([0]))
    tariff = int(carried.tariff[0])
    return float(carried.cost[0]), float(carried.parcels[0]), "" if tariff < 0 else tariffs[tariff].name


@pytest.mark.parametrize(
    ("value", "charge"), [(0, 490), (4999, 490), (5000, 290), (7499, 290), (7500, 0), (100_000, 0)]
)
def test_a_charge_by_value_holds_from_its_step_on(value, charge):
    by_value = ChargeByValue(490, (ValueStep(5000, 290), ValueStep(7500, 0)))
    assert by_value.asked(np.array([value]), np.zeros(1), np.zeros(1))[0] == charge


@pytest.mark.parametrize(
    ("grams", "charge"), [(0, 300), (2000, 300), (2000.5, 500), (5000, 500), (5001, 600), (6000, 600), (6000.1, 700)]
)
def test_a_charge_by_weight_holds_up_to_its_step(grams, charge):
    by_weight = ChargeByWeight((ChargeStep(2000, 300), ChargeStep(5000, 500)), per_kilogram=100)
    assert by_weight.asked(np.zeros(1, dtype=np.int64), np.array([round(grams * 1000)]), np.zeros(1))[0] == charge


def test_cost_plus_rounds_half_a_minor_unit_up():
    asked = CostPlus(markup_bp=1000, amount=50).asked(
        np.zeros(3, dtype=np.int64), np.zeros(3), np.array([1.0, 5.0, 2.2727])
    )
    assert asked.tolist() == [51, 56, 52]


def test_the_cheapest_tariff_that_can_take_it_serves():
    option = Option("Post", tariffs=("Letter", "Parcel"))
    assert going(option, ("SEED", 3)) == (150.0, 1, "Letter")
    assert going(option, ("LAMP", 1)) == (400.0, 1, "Parcel")


def test_a_preferred_tariff_serves_where_it_can():
    option = Option("Post", tariffs=("Letter", "Parcel"), preferred=(Preferred("Parcel", Scope(skus=("SEED",))),))
    assert going(option, ("SEED", 3)) == (400.0, 1, "Parcel")
    stubborn = Option("Post", tariffs=("Letter", "Parcel"), preferred=(Preferred("Letter", Scope()),))
    assert going(stubborn, ("POT", 1)) == (600.0, 1, "Parcel")


@pytest.mark.parametrize(
    ("rule", "cart", "serves"),
    [
        (Preferred("Letter", from_weight=30), ("SEED", 3), "Letter"),
        (Preferred("Parcel", from_weight=30), ("SEED", 2), "Letter"),
        (Preferred("Parcel", from_weight=30), ("SEED", 3), "Parcel"),
        (Preferred("Parcel", from_value=900), ("SEED", 2), "Letter"),
        (Preferred("Parcel", from_value=900), ("SEED", 3), "Parcel"),
        (Preferred("Parcel", Scope(skus=("LAMP",)), from_value=900), ("SEED", 3), "Letter"),
    ],
)
def test_a_tariff_is_preferred_from_a_weight_or_a_value_on(rule, cart, serves):
    option = Option("Post", tariffs=("Letter", "Parcel"), preferred=(rule,))
    assert going(option, cart)[2] == serves


def test_an_option_is_used_from_a_weight_on():
    post, freight = Option("Post", share_bp=5000), Option("Freight", share_bp=5000, from_weight=4000)
    delivery = Delivery((Zone("Home", (post, freight)),), (), 0)
    assert delivery.shares(one_cart(GOODS, ("SEED", 3)))[:, 0].tolist() == [1.0, 0.0]
    assert delivery.shares(one_cart(GOODS, ("POT", 1)))[:, 0].tolist() == [0.5, 0.5]


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


def test_what_no_tariff_can_take_counts_at_the_dearest_price():
    short = Tariff("T", steps=(WeightStep(2000, 400.0), WeightStep(3000, 900.0)))
    assert going(Option("Post", tariffs=("T",)), ("POT", 2), tariffs=(short,))[0] == 900 * 3


def test_an_option_without_tariffs_costs_nothing():
    assert going(Option("Pick up"), ("POT", 9)) == (0.0, 1, "")


def test_goods_that_are_refused_go_by_another_option():
    strict = Option("Letter", tariffs=("Letter",), share_bp=9000)
    other = Option("Parcel", tariffs=("Parcel",), share_bp=1000, carries=Carries(refuses=Scope(skus=("SEED",))))
    delivery = Delivery((Zone("Home", (strict, other)),), (LETTER, PARCEL), 0.0)
    assert delivery.shares(one_cart(GOODS, ("LAMP", 1)))[:, 0].tolist() == [0.0, 1.0]
    assert delivery.shares(one_cart(GOODS, ("SEED", 1)))[:, 0].tolist() == [1.0, 0.0]
    stuck = one_cart(GOODS, ("LAMP", 1), ("SEED", 1))
    assert delivery.stuck(stuck).tolist() == [True]
    assert delivery.shares(stuck)[:, 0].tolist() == [0.9, 0.1]


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
