"""What an option charges and costs, seen over weights and values."""

import numpy as np
import pytest

from tests.core.single_carts import carts_of
from yellow_abacus.core.delivery.charges import FlatCharge
from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.forecast.delivery_view import POINTS, by_option, seen
from yellow_abacus.core.forecast.mix import alike
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.core.shop.tax import TaxClass, Taxes

GOODS = make_goods(
    [GoodRecord("POT", list_price=2000, weight=1500.0), GoodRecord("SEED", list_price=300, weight=10.0)]
)
TARIFF = Tariff("Parcel", steps=(WeightStep(2000, 400.0), WeightStep(None, 700.0)))
SHOP = Shop(
    Settings(),
    (
        Zone(
            "Home",
            (
                Option("Post", FlatCharge(600), free_from=5000, share_bp=7500, tariffs=("Parcel",)),
                Option("Pick up", share_bp=2500),
                Option("Never", share_bp=0),
            ),
        ),
    ),
    Taxes((TaxClass("Standard", 2000),)),
    (TARIFF,),
)
BATCH = carts_of(GOODS, [("POT", 1)], [("POT", 3)], [("SEED", 2)])
MIX = alike(SHOP, BATCH)
PARTS = [(Outlook(SHOP, MIX).bare(MIX), np.array([10.0, 4.0, 6.0]))]


def test_every_option_over_all_orders():
    post, pick_up, never = by_option(SHOP, PARTS)
    assert (post.orders, pick_up.orders, never.orders) == pytest.approx((15, 5, 0))
    assert post.charged == pytest.approx(0.75 * 16 * 600 / 1.2)  # three pots go free
    assert post.cost == pytest.approx(0.75 * (10 * 400 + 4 * 700 + 6 * 400))
    assert (pick_up.charged, pick_up.cost) == (0, 0)


def test_curves_go_by_weight_at_a_typical_value_and_by_value_at_a_typical_weight():
    found = seen(SHOP, PARTS, 0)
    assert len(found.by_weight.at) == len(found.by_value.at) == POINTS
    assert set(found.by_weight.cost.tolist()) == {400, 700}
    assert found.by_weight.cost[found.by_weight.at <= 2000].tolist() == [400] * int(
        (found.by_weight.at <= 2000).sum()
    )
    assert set(np.round(found.by_weight.charged, 6).tolist()) == {500}
    free = found.by_value.at >= 5000
    assert set(np.round(found.by_value.charged[~free], 6).tolist()) == {500}
    assert not found.by_value.charged[free].any()
    assert found.going.orders.sum() == pytest.approx(15)


def test_an_option_nobody_goes_by_is_not_seen():
    assert seen(SHOP, PARTS, 2) is None
