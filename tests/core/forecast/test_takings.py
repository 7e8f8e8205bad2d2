"""What the orders of a course come to: the long way and the short one alike; a walk through the days is in
test_course."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.forecast.test_course import answered
from tests.core.forecast.test_forecast import forecaster
from tests.core.forecast.test_topping_up import FIRST, LAST, spend_offer, world_of
from tests.worlds import unless_too_much_is_put_in
from yellow_abacus.core.costing.ledger import INDEX, PLAN_ROWS, ROWS
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.takings import depth_of, following, profit_of, takings_of
from yellow_abacus.core.offers import Response


@settings(max_examples=30)
@given(answered(), st.lists(st.floats(0, 2), min_size=1, max_size=3))
@unless_too_much_is_put_in
def test_the_short_way_comes_to_what_the_long_one_does_for_every_draw(case, extras):
    world, plan = case
    room = forecaster(world)
    drawn = replace(room.drawn(plan), draws=len(extras))
    for at in range(len(plan.offers)):
        drawn = drawn.otherwise(at, "extra_bp", np.array(extras))
    course = room.course(plan, drawn)
    found = takings_of(course, drawn)
    np.testing.assert_allclose(profit_of(course, drawn), found.profit, rtol=1e-9, atol=1e-6)
    np.testing.assert_allclose(found.ledger.sum(axis=1), found.profit, rtol=1e-9, atol=1e-6)
    assert found.ledger.shape == (len(extras), len(ROWS) + len(PLAN_ROWS))


CARTS = [{"A": 4}, {"D": 1}, {"B": 4}]
TENTH_FROM_30 = spend_offer(3000, 1000)
EACH = 7 / 30  # of each cart so many orders come over the plan's days


def takings(**response: object):
    world = world_of(CARTS, [TENTH_FROM_30])
    plan = Plan(FIRST, LAST, (replace(world.offers[0], response=Response(**response)),))
    room = forecaster(world)
    drawn = room.drawn(plan)
    return takings_of(room.course(plan, drawn), drawn)


def test_orders_it_reaches_brings_and_gives_away():
    found = takings(extra_bp=5000, extra_cost=70, fixed_cost=900)
    assert found.reached[0, 0] == pytest.approx(2 * EACH)
    assert found.any_reached[0] == pytest.approx(2 * EACH)
    assert found.extra_orders[0, 0] == pytest.approx(EACH)
    assert found.uses[0, 0] == pytest.approx(3 * EACH)
    assert found.given[0, 0] == pytest.approx((318 + 500) * EACH)
    assert depth_of(found, 0) == pytest.approx(818 / (4 * 795 + 4 * 1250))
    assert found.ledger[0, INDEX["winning"]] == pytest.approx(-70 * EACH)
    assert found.ledger[0, INDEX["fixed"]] == -900
    assert found.won_first[0, 0] == 0  # nobody's first order is known


def test_orders_that_only_came_sooner_lose_what_they_keep_today():
    found = takings(extra_bp=5000, borrowed_bp=4000)
    kept_today = sum(0.6 * worth + 490 - 450 for worth in (3180, 5000))
    assert found.borrowed[0] == pytest.approx(0.4 * 0.5 * kept_today * EACH)


def test_a_response_said_at_another_depth_follows_what_is_given():
    world = world_of(CARTS, [TENTH_FROM_30])
    plan = Plan(FIRST, LAST, (replace(world.offers[0], response=Response(extra_bp=1000, depth_bp=2000)),))
    room = forecaster(world)
    drawn = room.drawn(plan)
    times = following(room.course(plan, drawn), drawn)
    assert times[0, "extra_bp"] == pytest.approx(818 / 8180 / 0.2)
    assert drawn.follows(0, "extra_bp") == pytest.approx(times[0, "extra_bp"])
