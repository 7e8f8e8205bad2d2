"""Units of goods that orders need, by hand; whole courses until stock ends are in test_selling_out."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.forecast.test_forecast import forecaster
from tests.core.forecast.test_selling_out import stocked
from tests.core.forecast.test_topping_up import FIRST, LAST, spend_offer, world_of
from yellow_abacus.core.forecast.needed import Needed
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import Offer, PutIn, Response

CARTS = [{"A": 4, "D": 1}, {"D": 2}]
EACH = 7 / 30  # of each cart so many orders come over the plan's days


def needed(*offers: Offer, skus=("A", "D")) -> list[float]:
    world = stocked(world_of(CARTS, []), dict.fromkeys("ACD", 99.0))
    room, plan = forecaster(world), Plan(FIRST, LAST, offers)
    drawn, places = room.drawn(plan), np.array([world.batch.goods.skus.index(sku) for sku in skus])
    found = Needed(room.outlook, plan, drawn, places)
    course = room.course(plan, drawn)
    assert np.array_equal(found.of(course), found.of(course))
    return found.of(course)[0].tolist()


def test_what_carts_hold():
    assert needed() == pytest.approx([4 * EACH, 3 * EACH])
    assert needed(skus=("C",)) == [0]


def test_orders_an_offer_brings_hold_what_those_it_reaches_do():
    (offer,) = world_of(CARTS, [spend_offer(3000, 1000)]).offers
    half_more = replace(offer, response=Response(extra_bp=5000))
    assert needed(half_more) == pytest.approx([6 * EACH, 3.5 * EACH])


def test_what_is_put_in_is_needed_too():
    gift = Offer((PutIn(("C",), quantity=2),), response=Response(extra_bp=10_000))
    assert needed(gift, skus=("C", "D")) == pytest.approx([2 * 2 * 2 * EACH, 6 * EACH])


def test_what_shoppers_add_to_reach_an_offer_is_needed_too():
    (offer,) = world_of(CARTS, [spend_offer(1000, 1000)]).offers
    topping = replace(
        offer, response=Response(top_up_bp=10_000, top_up_reach=400, top_up_falls=False, top_up_skus=("A",))
    )
    assert needed(topping) == pytest.approx([5 * EACH, 3 * EACH])
