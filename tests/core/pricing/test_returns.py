"""Commission and returns of single carts; whole ones are held against the slow pricer in test_pricing."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.single_carts import carts_of
from yellow_abacus.core.carts.facts import labels, nothing_known
from yellow_abacus.core.delivery.zones import Zone
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.pricing.returns import back, commission_share, from_lines, read_from_lines, returned_more
from yellow_abacus.core.pricing.rows import likeliest_rows
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.core.shop.tax import TaxClass, Taxes

GOODS = make_goods(
    [
        GoodRecord("DRESS", list_price=9000, purchase_cost=3000.0, return_bp=4000, commission_bp=1000),
        GoodRecord("SCARF", list_price=2400, purchase_cost=600.0, return_bp=500),
        GoodRecord("TOKEN", list_price=2500),
    ]
)
SETTINGS = Settings(resale_bp=5000, return_postage=300.0, return_handling=100.0, commission_channels=("market",))
SHOP = Shop(SETTINGS, (Zone("Home"),), Taxes((TaxClass("Standard", 2000),)))
FACTS = replace(nothing_known(3), channel=labels(["market", "", "market"]))
BATCH = carts_of(GOODS, [("DRESS", 1), ("SCARF", 2)], [("DRESS", 1)], [("TOKEN", 1)], facts=FACTS)


def read(shop: Shop = SHOP, batch=BATCH):
    return read_from_lines(shop, likeliest_rows(shop, batch), from_lines(shop, batch, batch.worth_by_line))


def test_what_lines_come_to():
    found = read()
    assert found.commission.tolist() == pytest.approx([900, 0, 0])  # only of what came by the market
    assert found.returned.tolist() == pytest.approx([(0.4 * 9000 + 0.05 * 4800) / 1.2, 0.4 * 9000 / 1.2, 0])
    assert found.commission_of_returned.tolist() == pytest.approx([360, 0, 0])


def test_goods_that_never_come_back_and_pay_nothing_take_no_room():
    tokens = carts_of(make_goods([GoodRecord("TOKEN", list_price=2500)]), [("TOKEN", 1)])
    assert len(from_lines(SHOP, tokens, tokens.worth_by_line)) == 0
    assert read(batch=tokens).returned.tolist() == [0]


def test_the_chance_that_something_comes_back_and_what_it_cost():
    found = back(BATCH)
    assert found.any_returned.tolist() == pytest.approx([1 - 0.6 * 0.95, 0.4, 0])
    assert found.cost_returned.tolist() == pytest.approx([0.4 * 3000 + 0.05 * 1200, 1200, 0])


def test_commission_is_taken_of_prices_with_tax():
    on_top = replace(SHOP, taxes=Taxes((TaxClass("Standard", 2000),), included=False))
    sku, cart = np.array([0, 0]), np.array([0, 1])
    assert commission_share(SHOP, BATCH, sku, cart).tolist() == pytest.approx([0.1, 0])
    assert commission_share(on_top, BATCH, sku, cart).tolist() == pytest.approx([0.12, 0])


@pytest.mark.parametrize(("times", "rate"), [(1.0, 0.4), (1.5, 0.6), (9.0, 1.0)])
def test_more_comes_back_of_what_an_offer_took_something_off(times, rate):
    cart = carts_of(GOODS, [("DRESS", 1)])
    found = returned_more(SHOP, cart, cart.worth_by_line, np.array([times]))
    a_unit = 9000 / 1.2 - 0.5 * 3000
    assert found.tolist() == pytest.approx([(rate - 0.4) * (a_unit + 400)])
