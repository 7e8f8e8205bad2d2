"""What a unit leaves at a price, and the deepest discount, held against a whole order priced and costed."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.single_carts import one_cart
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.costing.ledger import INDEX
from yellow_abacus.core.costing.margins import deepest_discount, delivery_of_units, levels, margins
from yellow_abacus.core.delivery.zones import Zone
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.rows import likeliest_rows
from yellow_abacus.core.shop.payments import PaymentMethod
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.core.shop.tax import TaxClass, Taxes

rates = st.integers(0, 3000)


@st.composite
def shops_and_goods(draw):
    shop = Shop(
        Settings(resale_bp=draw(st.integers(0, 10_000)), commission_returned=draw(st.booleans())),
        (Zone("Home"),),
        Taxes((TaxClass("A", draw(rates)), TaxClass("B", draw(rates))), included=draw(st.booleans())),
        payments=(PaymentMethod("card", draw(st.integers(0, 500)), 0.0, draw(st.integers(1, 100))),),
    )
    good = GoodRecord(
        "A",
        list_price=draw(st.integers(100_000, 10_000_000)),
        purchase_cost=float(draw(st.integers(0, 5_000_000))),
        tax_class=draw(st.sampled_from(["A", "B"])),
        return_bp=draw(rates),
        commission_bp=draw(rates),
    )
    return shop, good


@given(shops_and_goods())
def test_a_margin_is_what_an_order_of_one_unit_keeps(told):
    shop, good = told
    goods = make_goods([good])
    batch = one_cart(goods, ("A", 1))
    found = likeliest_rows(shop, batch)
    rows = cost(shop, found, price(shop, found, ()))
    found = margins(shop, goods, goods.list_price)
    assert found.kept[0] == pytest.approx(rows.sum(), abs=2)
    assert found.price[0] == pytest.approx(found.tax[0] + found.cost[0] + found.fees[0] + found.kept[0])
    assert found.cost[0] == -rows[INDEX["goods_cost"]][0]


@given(shops_and_goods(), st.floats(0, 3000))
def test_at_the_deepest_discount_nothing_is_kept(told, beside):
    shop, good = told
    goods = make_goods([good])
    deepest = deepest_discount(shop, goods, goods.list_price, np.array([beside]))[0]
    left = margins(shop, goods, np.array([round(good.list_price * (1 - deepest))]))
    assert left.kept[0] - beside == pytest.approx(0, abs=1)


def test_what_is_not_known_has_no_margin_and_no_deepest_discount():
    goods = make_goods([GoodRecord("A", list_price=100), GoodRecord("B", purchase_cost=1.0)])
    shop = Shop(Settings(), (Zone("Home"),))
    assert np.isnan(margins(shop, goods, goods.list_price).kept).all()
    assert np.isnan(deepest_discount(shop, goods, goods.list_price)).all()


def test_every_price_of_a_sku_is_told():
    good = GoodRecord(
        "A",
        list_price=2000,
        reduced_price=1800,
        quantity_prices=((6, 1900),),
        group_prices=(("trade", 1, 1500), ("trade", 10, 1400)),
    )
    goods = make_goods([good])
    assert [(level.label, level.price) for level in levels(goods, 0)] == [
        ("List price", 2000),
        ("Reduced price", 1800),
        ("From 6 units", 1900),
        ("Trade", 1500),
        ("Trade, from 10 units", 1400),
    ]


def test_what_delivery_takes_is_shared_by_weight():
    records = [GoodRecord("A", weight=3000.0), GoodRecord("B", weight=1000.0), GoodRecord("C")]
    goods = make_goods([replace(one, list_price=100) for one in records])
    batch = one_cart(goods, ("A", 1), ("B", 1))
    rows = np.zeros((len(INDEX), 1))
    rows[INDEX["delivery_cost"]], rows[INDEX["delivery_charged"]], rows[INDEX["picking"]] = -600, 300, -100
    units, total = delivery_of_units(batch, rows, np.array([2.0]))
    assert units.tolist() == [2.0, 2.0, 0.0]
    assert total.tolist() == [600.0, 200.0, 0.0]
