"""Where an average order's money goes, by hand; that changes add up to the impact is in test_forecast."""

from dataclasses import replace

import pytest

from tests.core.forecast.test_forecast import forecaster
from tests.core.forecast.test_topping_up import FIRST, LAST, SHOP, cart_of, spend_offer, world_of
from tests.worlds import World, make_world
from yellow_abacus.core.forecast.forecast import Forecast
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import Response

EACH = 7 / 30  # of each cart so many orders come over the plan's days


def forecast(world: World, **response) -> Forecast:
    offers = tuple(replace(one, response=Response(**response)) for one in world.offers)
    return forecaster(world).forecast(Plan(FIRST, LAST, offers))


def test_parts_of_what_the_shopper_pays():
    (rod,) = forecast(world_of([{"A": 4}, {"B": 4}], [spend_offer(3000, 1000)])).rods["zone"]
    pays = (0.9 * (3180 + 5000) + 2 * 490) / 2
    assert rod.goods == pytest.approx(0.4 * (3180 + 5000) / 2)
    assert (rod.delivery, rod.fees, rod.tax) == (450, 0, 0)
    assert rod.given_away == pytest.approx((318 + 500) / 2)
    assert rod.goods + rod.delivery + rod.fees + rod.tax + rod.kept == pytest.approx(pays)
    assert rod.today == pytest.approx(rod.kept + rod.given_away)


def test_what_a_type_keeps_more_has_its_extra_orders():
    world = world_of([{"A": 4}, {"D": 1}], [spend_offer(3000, 1000)])
    rods = {rod.label: rod for rod in forecast(world, extra_bp=10_000).rods["zone"]}
    kept = 0.9 * 3180 - 0.4 * 3180 + 490 - 450
    assert rods["home"].orders == pytest.approx(2 * EACH)
    assert rods["home"].change == pytest.approx(EACH * (kept - 318))


def test_one_rod_a_type_that_has_orders():
    far = replace(cart_of({"A": 1}), zone="far")
    world = make_world(SHOP, [cart_of({"A": 1}), far, far], [])
    found = forecast(world).rods["zone"]
    assert {rod.label: rod.share for rod in found} == pytest.approx({"home": 1 / 3, "far": 2 / 3})
    assert [rod.change for rod in found] == pytest.approx([0, 0])
