"""Which option and which tariff serves; whole carts are held against the slow pricer in test_pricing."""

import numpy as np
import pytest

from tests.core.single_carts import one_cart
from yellow_abacus.core.delivery.charges import FlatCharge
from yellow_abacus.core.delivery.parcels import Carries, load_of
from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.core.delivery.zones import Delivery, Option, Preferred, Zone
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.goods.scope import Scope

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


def test_the_likeliest_option_is_the_first_of_those_alike_and_none_where_there_is_none():
    delivery = Delivery((Zone("Home", (Option("Post"), Option("Courier"))), Zone("Nowhere")), (), 0)
    cart = one_cart(GOODS, ("SEED", 1))
    assert delivery.likeliest(cart).tolist() == [0]
    assert [delivery.name_of(at) for at in (0, 1, -1)] == ["Post", "Courier", ""]
    nowhere = Delivery((Zone("Home"),), (), 0)
    assert (nowhere.likeliest(cart).tolist(), nowhere.stuck(cart).tolist()) == ([-1], [False])


@pytest.mark.parametrize(("value", "charge"), [(4999, 490), (5000, 0)])
def test_delivery_is_free_from_a_value_on(value, charge):
    delivery = Delivery((Zone("Home", (Option("Post", FlatCharge(490), free_from=5000),)),), (), 0)
    load, option = load_of(one_cart(GOODS, ("SEED", 1))), np.array([0])
    carriage = delivery.carriage(load, option)
    assert delivery.charge(np.array([value]), load, option, carriage).tolist() == [charge]
