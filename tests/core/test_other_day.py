"""Carts told from another day's prices come to what pricing them by themselves finds."""

from dataclasses import replace
from datetime import date
from unittest.mock import patch

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow
from tests.core.forecast.test_forecast import FIRST, LAST, forecaster, planned
from tests.core.forecast.test_selling_out import selling_out, stocked
from tests.core.forecast.test_topping_up import spend_offer
from tests.worlds import World, make_world, plain_shop
from yellow_abacus.core.forecast import mix as mixes
from yellow_abacus.core.forecast.forecast import Forecast, Forecaster
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import PercentOff, PutIn, Response


@pytest.fixture(autouse=True, scope="module")
def whatever_the_share():
    """Of few carts most may cost something else."""
    with patch.object(mixes, "MOST_OTHERWISE", 1.0):
        yield


toppings = st.builds(
    Response,
    uptake_bp=st.integers(0, 10_000),
    take_up_bp=st.sampled_from([None, 4_000]),
    top_up_bp=st.sampled_from([None, 3_000, 10_000]),
    top_up_reach=st.sampled_from([500, 5_000]),
    top_up_falls=st.booleans(),
)


def assert_same(one: Forecast, other: Forecast) -> None:
    for mine, theirs in ((one.planned, other.planned), (one.today, other.today)):
        np.testing.assert_allclose(mine.ledger, theirs.ledger, rtol=1e-9, atol=1e-6)
        assert mine.orders == pytest.approx(theirs.orders, rel=1e-9, abs=1e-9)
        assert mine.goods_off == pytest.approx(theirs.goods_off, rel=1e-9, abs=1e-6)
    for mine, theirs in zip(one.offers, other.offers, strict=True):
        assert mine.reached == pytest.approx(theirs.reached, rel=1e-9, abs=1e-9)
        assert mine.topped_up == pytest.approx(theirs.topped_up, rel=1e-9, abs=1e-9)
        assert mine.given_away == pytest.approx(theirs.given_away, rel=1e-9, abs=1e-6)


def by_themselves(world: World, *plans: Plan) -> list[Forecast]:
    with patch.object(Mix, "beside", lambda self, _: self):
        return [forecaster(world).forecast(plan) for plan in plans]


@settings(max_examples=120, deadline=None)
@given(planned(), st.data())
def test_days_with_other_prices_come_to_what_they_do_by_themselves(case, data):
    """The plan as it was, then with another number, told from what was found; one of its offers runs already."""
    world, plan = case
    runs = data.draw(st.integers(0, 1))
    offers = tuple(replace(one, response=data.draw(toppings)) for one in plan.offers)
    running = tuple(replace(one, id="runs", runs=True, response=Response()) for one in offers[:runs])
    plan = replace(plan, offers=(*running, *offers[runs:]), running=running)
    *others, last = plan.offers or [None]
    again = replace(plan, offers=(*others, replace(last, gives=(PercentOff(1_700),)))) if last else plan
    room = forecaster(world)
    found = [room.forecast(one) for one in (plan, again)]
    for one, other in zip(found, by_themselves(world, plan, again), strict=True):
        assert_same(one, other)


@settings(max_examples=40, deadline=None)
@given(selling_out())
def test_while_goods_sell_out_too(case):
    world, plan, stock, kits = case
    world = stocked(world, stock, kits)
    assert_same(forecaster(world).forecast(plan), *by_themselves(world, plan))


def lowered_from(day: date, **prices: int) -> World:
    """A cart of A and nine of B, two units each; C is sold too. What some of them cost less from a day on."""
    goods = {sku: slow.SlowGood(1000, None, 400, {"All"}, 200, sku) for sku in "ABC"}
    for sku, price in prices.items():
        goods[sku] = replace(goods[sku], reduced_price=price, reduced_days=(day, None))
    shop = plain_shop(goods, home=(490, 6000, 450), far=(990, None, 900))
    carts = [slow.SlowCart([(sku, 1000)] * 2, "home") for sku in "ABBBBBBBBB"]
    return make_world(shop, carts, [spend_offer(1500, 1000)])


def priced_carts(world: World, plan: Plan, monkeypatch: pytest.MonkeyPatch) -> list[int]:
    """How many carts were priced, each time."""
    priced: list[int] = []
    costed = Outlook._costed

    def noted(self, mix, offers, apply, today, there, carts):
        priced.append(len(carts))
        return costed(self, mix, offers, apply, today, there, carts)

    room: Forecaster = forecaster(world)
    monkeypatch.setattr(Outlook, "_costed", noted)
    room.forecast(plan)
    return priced


def test_only_carts_that_cost_something_else_are_priced_again(monkeypatch):
    world = lowered_from(date(2026, 3, 5), A=800)
    assert priced_carts(world, Plan(FIRST, LAST, world.offers), monkeypatch) == [10, 1]


def test_where_many_cost_something_else_all_are_priced_by_themselves(monkeypatch):
    world = lowered_from(date(2026, 3, 5), B=800)
    monkeypatch.setattr(mixes, "MOST_OTHERWISE", 0.1)
    assert priced_carts(world, Plan(FIRST, LAST, world.offers), monkeypatch) == [10, 10]


def test_what_is_put_in_for_another_price_matters_to_every_cart(monkeypatch):
    world = lowered_from(date(2026, 3, 5), C=800)
    gift = replace(world.offers[0], gives=(PutIn(("B",), substitute="C"),))
    assert priced_carts(world, Plan(FIRST, LAST, (gift,)), monkeypatch) == [10, 10]


def test_a_cart_that_adds_what_costs_less_then_is_looked_at_again():
    """Carts of B reach the threshold with C, which costs less from the fifth day on: no cart holds it."""
    world = lowered_from(date(2026, 3, 5), C=500)
    world = make_world(world.slow_shop, world.slow_carts, [spend_offer(2400, 1000)])
    told = Response(top_up_bp=10_000, top_up_reach=1000, top_up_falls=False, top_up_skus=("C",))
    plan = Plan(FIRST, LAST, (replace(world.offers[0], response=told),))
    found = forecaster(world).forecast(plan)
    assert_same(found, *by_themselves(world, plan))
    assert found.planned.units == pytest.approx(10 / 30 * 10 * 3)
