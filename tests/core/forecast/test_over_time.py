"""A plan day by day, and the units it needs, against the forecast and plain sums over carts."""

from collections import Counter
from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from hypothesis import given, settings

from tests.core.advice.test_leaks import world_of
from tests.core.forecast.test_course import answered
from tests.core.forecast.test_forecast import FIRST, LAST, forecaster, orders_of
from tests.worlds import World
from yellow_abacus.core.forecast.over_time import over_time
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import Limits, Offer, PercentOff, PutIn, Response

STOCK = 2.0


def stocked(world: World, units: float = STOCK) -> World:
    """The world with so many units of everything in stock."""
    goods = replace(world.batch.goods, stock=np.full(len(world.batch.goods.skus), units))
    return replace(world, batch=replace(world.batch, goods=goods))


@settings(max_examples=40)
@given(answered())
def test_days_add_up_to_the_forecast(case):
    world, plan = case
    room = forecaster(world)
    found, days = room.forecast(plan), over_time(room, plan).days
    assert [one.day for one in days] == [FIRST.toordinal() + at for at in range(plan.days)]
    assert sum(one.kept for one in days) == pytest.approx(found.planned.profit, rel=1e-9, abs=1e-6)
    assert sum(one.kept_today for one in days) == pytest.approx(found.today.profit, rel=1e-9, abs=1e-6)
    assert sum(one.orders for one in days) == pytest.approx(found.planned.orders, rel=1e-9)
    assert sum(one.orders_today for one in days) == pytest.approx(found.today.orders, rel=1e-9)


@settings(max_examples=40)
@given(answered())
def test_units_today_are_those_of_the_carts_and_stock_ends_on_the_day_they_pass_it(case):
    world, plan = case
    world = stocked(world)
    gone, ends = Counter(), {}
    for number in range(plan.days):
        day = date.fromordinal(FIRST.toordinal() + number)
        for cart in world.slow_carts:
            for sku, _ in cart.units:
                gone[sku] += orders_of(world, cart, day)
        for sku, units in gone.items():
            if units > STOCK + 1e-9:
                ends.setdefault(sku, day.toordinal())
    skus = world.batch.goods.skus
    found = {skus[one.sku]: one for one in over_time(forecaster(world), plan).needs}
    for sku, units in gone.items():
        assert found[sku].today == pytest.approx(units)
        assert found[sku].ends_today == ends.get(sku)
        assert found[sku].plan >= 0


def test_orders_that_come_on_top_and_things_put_in_need_units_too():
    world = stocked(world_of(), 1_000_000)
    room, skus = forecaster(world), world.batch.goods.skus
    gift = Offer((PutIn(("SEED",)),), id="gift", response=Response(extra_bp=5_000))
    more = Offer((PercentOff(1_000),), id="more", response=Response(extra_bp=10_000))

    def needs(*offers: Offer):
        return {skus[one.sku]: one for one in over_time(room, Plan(FIRST, LAST, offers)).needs}

    bare, orders = needs(), room.forecast(Plan(FIRST, LAST, ())).today.orders
    for sku, one in needs(more).items():
        assert one.plan == pytest.approx(2 * bare[sku].today)
        assert one.ends is None
    assert needs(gift)["SEED"].plan == pytest.approx(1.5 * (bare["SEED"].today + orders))
    assert needs(gift)["POT"].plan == pytest.approx(1.5 * bare["POT"].today)
    once = replace(gift, limits=Limits(uses=1))
    assert needs(once)["SEED"].plan == pytest.approx(bare["SEED"].today * (1 + 0.5 / orders / 1.5) + 1)
