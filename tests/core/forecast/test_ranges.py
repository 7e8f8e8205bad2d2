"""How sure an answer is: the spread that ranges are drawn from, and the impact over its draws."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.forecast.test_forecast import forecaster
from tests.core.forecast.test_topping_up import FIRST, LAST, spend_offer, world_of
from yellow_abacus.core.clauses.response import Ranged
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.ranges import DRAWS, Impacts, draws_of, impacts_of, pert_ends, range_of, shuffled
from yellow_abacus.core.offers import Response

CARTS = [{"A": 4}, {"D": 1}, {"B": 4}]


def plan_of(*ranges: Ranged, **response) -> tuple:
    world = world_of(CARTS, [spend_offer(3000, 1000)])
    told = Response(extra_bp=3000, ranges=ranges, **response)
    return forecaster(world), Plan(FIRST, LAST, (replace(world.offers[0], response=told, id="tenth"),))


@settings(max_examples=40)
@given(st.floats(0.01, 0.4), st.floats(0.0, 1.0), st.floats(0.05, 0.5))
def test_low_and_high_are_the_5_and_95_per_cent_points(low, within, width):
    high, likely = low + width, low + within * width
    start, end = pert_ends(low, likely, high)
    assert start <= low <= high <= end
    found = draws_of("it", low, likely, high, most=10.0)
    assert np.quantile(found, [0.05, 0.95]).tolist() == pytest.approx([low, high], abs=0.01 * width)


def test_draws_stay_within_bounds_and_a_closed_range_is_its_likely_value():
    assert draws_of("it", 0.0, 0.01, 0.3, most=0.2).max() == 0.2
    assert draws_of("it", 0.0, 0.01, 0.3, most=0.2).min() == 0
    assert draws_of("it", 0.3, 0.3, 0.3, most=1.0).tolist() == [0.3] * DRAWS
    assert sorted(shuffled("one").tolist()) == list(range(DRAWS))
    assert shuffled("one").tolist() != shuffled("two").tolist()


def test_a_figure_left_alone_is_drawn_alike_whatever_else_changes():
    room, plan = plan_of(Ranged("extra_bp", 1000, 6000))
    _, both = plan_of(Ranged("extra_bp", 1000, 6000), Ranged("borrowed_bp", 0, 5000), borrowed_bp=1000)
    one, other = impacts_of(room, plan), impacts_of(room, both)
    assert np.corrcoef(one.by_draw, other.by_draw)[0, 1] > 0.9
    assert impacts_of(room, plan, draws=50).by_draw.tolist() == pytest.approx(one.by_draw[:50].tolist())


def test_without_ranges_only_luck_and_the_sample_are_left():
    room, plan = plan_of()
    found = range_of(room, plan)
    assert found.likely == pytest.approx(room.impact(plan))
    assert found.middle == pytest.approx(found.likely, abs=1)
    apart = 1.6449 * np.hypot(found.luck, found.sampled)
    assert (found.high - found.likely, found.likely - found.low) == pytest.approx((apart, apart), rel=0.01)
    assert found.swings == ()
    nothing = range_of(room, replace(plan, offers=()))
    assert (nothing.low, nothing.high, nothing.beats) == (0, 0, 0)


def test_swings_are_what_the_impact_would_be_at_either_end_the_largest_first():
    ranges = (Ranged("borrowed_bp", 0, 2000), Ranged("extra_bp", 1000, 6000))
    room, plan = plan_of(*ranges, borrowed_bp=500)
    swings = range_of(room, plan).swings
    assert [one.figure for one in swings] == ["extra_bp", "borrowed_bp"]
    for one in swings:
        for value, impact in ((one.low, one.impact_at_low), (one.high, one.impact_at_high)):
            at = replace(plan.offers[0].response, **{one.figure: round(value * 10_000)}, ranges=())
            assert room.impact(replace(plan, offers=(replace(plan.offers[0], response=at),))) == pytest.approx(impact)


def test_the_chance_of_beating_another_is_shared_where_both_keep_alike():
    one, other = (Impacts(0.0, np.array(draws), 0.0, 0.0) for draws in ([1.0, 2.0, 3.0, -1.0], [1.0, 1.0, 4.0, -1.0]))
    assert one.beats == 0.75
    assert one.beats_other(other) == pytest.approx((1 + 0.5 + 0.5) / 4)
    assert one.beats_other(other) + other.beats_other(one) == pytest.approx(1)
