"""What follows once goods are walked, on single carts; whole ones are held against the slow pricer elsewhere."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.offers.test_turn import GOODS
from tests.core.single_carts import carts_of
from yellow_abacus.core.clauses.conditions import Earned, Spend
from yellow_abacus.core.delivery.charges import FlatCharge
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.offers import DeliveryAmountOff, DeliveryLoweredTo, Limits, Offer, PercentOff, PutIn
from yellow_abacus.core.pricing.checkout import Checkout
from yellow_abacus.core.pricing.rows import rows_of
from yellow_abacus.core.pricing.walk import Walk
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.core.shop.tax import TaxClass, Taxes

POST = Option("Post", FlatCharge(490), free_from=2500, share_bp=7500)
SHOP = Shop(Settings(), (Zone("Home", (POST, Option("Courier", FlatCharge(900), share_bp=2500))),))
BATCH = carts_of(GOODS, [("POT", 2)], [("LAMP", 1)])


def checkout(*offers: Offer, shop: Shop = SHOP) -> Checkout:
    """All of them in turn, on every row. Two rows a cart: by post, and by courier."""
    walk = Walk(shop, BATCH, offers)
    for at, offer in enumerate(offers):
        if offer.works_on_goods:
            walk.goods_turn(at)
    found = Checkout(walk, rows_of(shop, BATCH, offers))
    for at, offer in enumerate(offers):
        if offer.works_on_delivery:
            found.delivery_turn(at)
    return found


def test_each_row_is_charged_by_its_option_from_its_value_on_free():
    found = checkout()
    assert found.rows.share_by_row.tolist() == [0.75, 0.25, 0.75, 0.25]
    assert found.charge.tolist() == [490, 900, 0, 900]
    assert found.done().total.tolist() == [2490, 2900, 3000, 3900]


def test_what_goods_offers_left_decides_or_what_goods_stand_at():
    half = Offer((PercentOff(5000),))
    assert checkout(half).charge.tolist() == [490, 900, 490, 900]
    standing = replace(SHOP, settings=Settings(delivery_from="standing"))
    assert checkout(half, shop=standing).charge.tolist() == [490, 900, 0, 900]


def test_delivery_offers_lower_what_the_one_before_left_and_never_below_nothing():
    found = checkout(Offer((DeliveryAmountOff(300),)), Offer((DeliveryLoweredTo(250, options=("Post",)),)))
    assert found.charge.tolist() == [190, 600, 0, 600]
    assert found.delivery_off.tolist() == [[300, 300, 0, 300], [0, 0, 0, 0]]
    assert found.took_effect().tolist() == [[True, True, False, True], [False] * 4]


def test_a_delivery_offer_is_earned_on_what_goods_offers_left():
    earned = Offer((DeliveryLoweredTo(0),), earned=Earned((Spend(2000),)))
    assert checkout(earned).charge.tolist() == [0, 0, 0, 0]
    assert checkout(Offer((PercentOff(1000),)), earned).charge.tolist() == [490, 900, 0, 0]


def test_a_percentage_with_the_charge_in_its_base_is_capped_as_one():
    offer = Offer((PercentOff(1000, with_delivery=True),), limits=Limits(amount=230))
    found = checkout(offer)
    assert found.goods_off.tolist() == [[200, 200, 230, 230]]
    assert found.delivery_off.tolist() == [[30, 30, 0, 0]]


def test_what_is_asked_for_things_put_in_is_paid_with_the_goods():
    found = checkout(Offer((PutIn(("SEED",), amount=100),)))
    assert found.goods.tolist() == [2100, 2100, 3100, 3100]
    assert found.done().put_in.tolist() == [[1, 1, 1, 1]]


@pytest.mark.parametrize(("included", "total"), [(True, 2490), (False, 2490 + 498)])
def test_tax_is_in_the_total_or_on_top_of_it(included, total):
    taxed = replace(SHOP, taxes=Taxes((TaxClass("Standard", 2000),), included=included))
    done = checkout(shop=taxed).done()
    assert done.total[0] == total
    assert done.goods_tax[0] + done.delivery_tax[0] == (415 if included else 498)


def test_only_the_rows_it_has_its_turn_on():
    walk = Walk(SHOP, BATCH, (Offer((DeliveryLoweredTo(0),)),))
    found = Checkout(walk, rows_of(SHOP, BATCH))
    found.delivery_turn(0, np.array([True, False, False, True]))
    assert found.charge.tolist() == [0, 900, 0, 0]
