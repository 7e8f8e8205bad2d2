"""What a plan's days should come to, each figure with its range."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.forecast.test_forecast import forecaster
from tests.core.forecast.test_topping_up import FIRST, LAST, spend_offer, world_of
from yellow_abacus.core.clauses.response import Ranged
from yellow_abacus.core.forecast.outcome import Expectation, averages_of, outcome_of
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import Response

WORLD = world_of([{"A": 4}, {"D": 1}, {"B": 4}] * 10, [spend_offer(3000, 1000)])
ROOM = forecaster(WORLD)
ORDERS = 7.0  # thirty carts in thirty days, over seven


def plan(**response) -> Plan:
    return Plan(FIRST, LAST, (replace(WORLD.offers[0], response=Response(**response), id="tenth"),))


def test_a_value_is_held_within_its_range_both_ends_included():
    told = Expectation(5.0, 2.0, 9.0)
    assert [told.holds(value) for value in (1.9, 2.0, 9.0, 9.1)] == [False, True, True, False]


def test_likely_values_are_those_of_the_forecast_and_lie_in_their_range():
    told = plan(extra_bp=3000)
    found, forecast = outcome_of(ROOM, told), ROOM.forecast(told)
    assert found.orders.likely == pytest.approx(forecast.planned.orders)
    assert found.profit.likely == pytest.approx(forecast.planned.profit)
    assert found.sales.likely == pytest.approx(forecast.planned.goods_with_tax)
    assert found.off.likely == pytest.approx(forecast.planned.goods_off)
    assert found.offers[0].uses.likely == pytest.approx(forecast.offers[0].uses)
    assert found.put_in == Expectation(0, 0, 0)
    for one in (found.orders, found.sales, found.off, found.delivery, found.profit, found.offers[0].given_away):
        assert one.low < one.likely < one.high


def test_orders_come_or_do_not_each_for_itself():
    found = outcome_of(ROOM, replace(plan(), offers=())).orders
    assert found.likely == pytest.approx(ORDERS)
    assert found.high - found.likely == pytest.approx(1.645 * np.sqrt(ORDERS), rel=0.02)


def test_a_figure_with_a_range_makes_what_follows_from_it_less_sure():
    narrow, wide = (
        outcome_of(ROOM, plan(extra_bp=3000, ranges=one)) for one in ((), (Ranged("extra_bp", 0, 20_000),))
    )
    assert wide.orders.high - wide.orders.low > narrow.orders.high - narrow.orders.low
    assert wide.orders.likely == pytest.approx(narrow.orders.likely)


def test_what_an_order_keeps_without_what_is_paid_besides():
    bare, paid = averages_of(ROOM, plan()), averages_of(ROOM, plan(fixed_cost=500))
    assert paid.besides == pytest.approx(500)
    assert paid.planned_each == pytest.approx(bare.planned_each)
    assert paid.variance_each == pytest.approx(bare.variance_each)
    today = ROOM.forecast(plan()).today
    assert bare.today_each == pytest.approx(today.profit / today.orders)
    kept = [0.6 * 3180 - 318 + 40, 0.6 * 310 + 40, 0.6 * 5000 - 500 + 40]
    assert bare.planned_each == pytest.approx(np.mean(kept))
    assert bare.variance_each == pytest.approx(np.var(kept))
