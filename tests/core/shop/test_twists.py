from datetime import date

import numpy as np
import pytest

from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.core.shop.twists import Combining, Costs, FreeFrom, Prices, Tariffs

ZONES = (Zone("Home", (Option("Post", free_from=5000), Option("Courier"))), Zone("Abroad", (Option("Air"),)))
LETTER = Tariff("Letter", steps=(WeightStep(500, 150.0),), fuel_bp=500)
PARCEL = Tariff("Parcel", steps=(WeightStep(2000, 400.0),), per_kilogram=100.0)
SHOP = Shop(Settings(), ZONES, tariffs=(LETTER, PARCEL))
GOODS = make_goods(
    [
        GoodRecord("A", list_price=999, purchase_cost=300.0, reduced_price=850, quantity_prices=((3, 905),)),
        GoodRecord("B", purchase_cost=100.0, group_prices=(("trade", 1, 333),)),
    ]
)


def free_froms(twist: FreeFrom) -> list[int | None]:
    return [option.free_from for zone in twist.shop(SHOP).zones for option in zone.options]


def test_delivery_free_from_another_value():
    assert free_froms(FreeFrom(6000)) == [6000, 6000, 6000]
    assert free_froms(FreeFrom(None, "home")) == [None, None, None]
    assert free_froms(FreeFrom(100, "Abroad")) == [5000, None, 100]


def test_what_one_order_may_combine():
    settings = Combining(3, "one", False).shop(SHOP).settings
    assert (settings.codes_per_order, settings.self_applying, settings.codes_with_self_applying) == (3, "one", False)


def test_every_price_of_some_goods_rounded_half_up():
    found = Prices(1000, Scope(skus=("A",))).goods(GOODS)
    assert found.list_price.tolist() == [1099, -1]
    assert found.reduced_price.tolist() == [935, -1]
    assert found.prices.everybody.price.tolist() == [[996, 0]]
    assert found.prices.by_group["trade"].price.tolist() == [[0, 333]]
    assert Prices(-5000).goods(GOODS).prices.by_group["trade"].price.tolist() == [[0, 167]]
    assert GOODS.on_day(date(2027, 3, 1)).list_price.tolist() == [999, -1]


def test_costs_and_tariffs():
    assert Costs(2500, Scope(skus=("B",))).goods(GOODS).unit_cost.tolist() == [300, 125]
    letter, parcel = Tariffs(1000, "Parcel").shop(SHOP).tariffs
    assert letter == LETTER
    assert (parcel.steps[0].amount, parcel.per_kilogram) == pytest.approx((440, 110))
    assert Tariffs(1000).shop(SHOP).tariffs[0].steps[0].amount == pytest.approx(165)
    assert Tariffs(1000).shop(SHOP).tariffs[0].fuel_bp == 500


@pytest.mark.parametrize(
    ("told", "path"),
    [
        (FreeFrom(0), ("amount",)),
        (FreeFrom(None, "Moon"), ("zone",)),
        (Combining(0), ("codes_per_order",)),
        (Combining(9), ("codes_per_order",)),
        (Prices(-9001), ("change_bp",)),
        (Costs(100_001), ("change_bp",)),
        (Costs(1, Scope(skus=("GONE",))), ("on",)),
        (Tariffs(5, "Gone"), ("tariff",)),
        (Tariffs(-9000, "Letter"), None),
        (FreeFrom(1, "ABROAD"), None),
    ],
)
def test_what_cannot_be_otherwise(told, path):
    assert [problem.path for problem in told.problems(SHOP, GOODS)] == [path] * (path is not None)


def test_what_a_twist_does_not_name_it_leaves_alone():
    assert FreeFrom(1).goods(GOODS) is GOODS
    assert Costs(1).shop(SHOP) is SHOP
    assert np.array_equal(Costs(1).goods(GOODS).list_price, GOODS.list_price)
