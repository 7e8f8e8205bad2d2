"""What bounds a plan: by hand for each way there is, and never passed by a forecast."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from tests.core.forecast.test_forecast import forecaster
from tests.core.forecast.test_topping_up import FIRST, LAST, SHOP, spend_offer, world_of
from tests.worlds import PLAIN, make_world
from yellow_abacus.core.clauses.response import Sends
from yellow_abacus.core.forecast.most_it_costs import most_it_costs
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import Given, Limits, Offer, Response

GIFT = {"kind": "put_in", "skus": ["D"], "quantity": 2}
PERCENT = {"kind": "percent_off", "percent_bp": 1000, "with_delivery": False}
AMOUNT = {"kind": "amount_off", "amount": 500}
FREE_POST = {"kind": "delivery_lowered_to", "amount": 0}


NO_LIMITS = Limits()


def offer(*gives: dict, limits: Limits = NO_LIMITS, repeat: str = "once", **more: object) -> Offer:
    told = spend_offer(3000, 1000) | {"gives": list(gives), "repeat": repeat}
    return replace(make_world(SHOP, [], [told]).offers[0], limits=limits, **more)


@pytest.mark.parametrize(
    ("one", "amount"),
    [
        (offer(PERCENT), None),
        (offer(PERCENT, limits=Limits(spending=20_000)), 20_000),
        (offer(PERCENT, limits=Limits(uses=30)), None),
        (offer(PERCENT, limits=Limits(uses=30, amount=700)), 21_000),
        (offer(AMOUNT, limits=Limits(uses=30)), 15_000),
        (offer(AMOUNT, limits=Limits(uses=30), repeat="each_time"), None),
        (offer(AMOUNT, limits=Limits(uses=30, times=3), repeat="each_time"), 45_000),
        (offer(AMOUNT, given=Given("codes", codes=("AAA1", "AAA2"))), 1_000),
        (offer(FREE_POST, limits=Limits(uses=10)), 9_900),
        (offer(GIFT, limits=Limits(uses=10)), 6_200),
        (offer(GIFT), None),
        (offer(AMOUNT, GIFT, limits=Limits(uses=10)), 11_200),
    ],
)
def test_an_offer_gives_away_no_more_than_the_least_that_bounds_it(one, amount):
    world = world_of([{"C": 2}], [PLAIN | {"gives": [AMOUNT]}])
    found = most_it_costs(Plan(FIRST, LAST, (one,)), world.shop, world.batch.goods)
    assert found.amount == amount
    assert found.unbounded == ((0,) if amount is None else ())


def test_stock_bounds_what_is_put_in_and_costs_paid_are_part_of_it():
    world = world_of([{"C": 2}], [PLAIN | {"gives": [AMOUNT]}])
    goods = replace(world.batch.goods, stock=np.array([np.nan, np.nan, np.nan, 40.0]))
    told = Response(fixed_cost=5_000, sends=Sends(size=100, response_bp=100, cost=3))
    plan = Plan(FIRST, LAST, (offer(GIFT, response=told),))
    assert most_it_costs(plan, world.shop, goods).amount == 40 * 310 + 5_000 + 300


def test_a_forecast_never_gives_away_more():
    world = world_of([{"C": 2}, {"C": 3}, {"A": 4, "B": 2}], [spend_offer(3000, 1000)])
    limited = replace(world.offers[0], limits=Limits(uses=1, amount=300), response=Response(extra_bp=50_000))
    plan = Plan(FIRST, date(2026, 4, 30), (limited,))
    found = forecaster(world).forecast(plan)
    assert found.most.amount == 300
    assert found.offers[0].given_away <= 300
    assert found.offers[0].uses == pytest.approx(1)
