"""Which plans are worth showing; searches over a whole shop are in tests/web/test_better."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.forecast.test_forecast import forecaster
from tests.core.forecast.test_topping_up import FIRST, LAST, spend_offer, world_of
from yellow_abacus.core.advice.better import (
    SAMPLE,
    Better,
    Judged,
    Must,
    Search,
    depths_said,
    not_beaten,
    sampled,
    spread_over,
)
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.ranges import Impacts
from yellow_abacus.core.offers import PercentOff, Response

WORLD = world_of([{"A": 4}, {"D": 1}, {"B": 4}, {"A": 1, "C": 1}], [spend_offer(3000, 1000)])
ROOM = forecaster(WORLD)
BASE = Plan(FIRST, LAST, (replace(WORLD.offers[0], response=Response(extra_bp=6000, depth_bp=1000)),))


def plan_at(at: tuple[int, ...]) -> Plan | None:
    """From 5 to 30 % off in steps of 5, the last of which makes no sense."""
    percent_bp = 500 * (at[0] + 1)
    (offer,) = BASE.offers
    return None if percent_bp == 3000 else replace(BASE, offers=(replace(offer, gives=(PercentOff(percent_bp),)),))


ANYTHING = Must()


def searched(must: Must = ANYTHING, best="likely") -> Better:
    *told, found = Search(ROOM, BASE, plan_at, (6,), (1,), must, best).go()
    assert [one.share for one in told] == sorted(one.share for one in told)
    assert told[-1].share == pytest.approx(1 if found.plans else 0.8)
    return found


def judged(given: float, planned: float, at: int = 0, broken: float = 0.0) -> Judged:
    return Judged((at,), BASE, 0.0, planned, given, 0.5, broken, None)


def test_its_best_is_that_of_the_whole_grid():
    found = searched()
    impacts = {at: ROOM.impact(plan_at((at,))) for at in range(5)}
    best = max(impacts.values())
    assert found.base.impact == pytest.approx(impacts[1])
    assert found.plans[0].impact == pytest.approx(best)
    assert all(one.impact > found.base.impact for one in found.plans)
    assert found.tried == 6


def test_what_must_hold_holds():
    free = searched()
    least = min(one.given for one in free.plans)
    found = searched(Must(given_most=least))
    assert [one.at for one in found.plans] == [one.at for one in free.plans if one.given <= least]
    assert searched(Must(offers_most=0)).plans == ()
    assert searched(Must(margin_least=0.99)).plans == ()


def test_what_is_best_may_be_how_sure_it_is():
    for best in ("low", "beats"):
        found = searched(best=best)
        measures = [one.measure(best) for one in found.plans]
        assert measures == sorted(measures, reverse=True)
        assert all(one > found.base.measure(best) for one in measures)


def test_a_plan_is_beaten_by_one_that_keeps_as_much_and_gives_less():
    plans = [judged(100, 50, 0), judged(80, 60, 1), judged(120, 90, 2), judged(120, 70, 3), judged(10, 5, 4)]
    assert [one.at for one in not_beaten(plans, "likely")] == [(4,), (1,), (2,)]
    assert judged(1, 1).holds
    assert not judged(1, 1, broken=0.1).holds
    sure = replace(judged(1, 40), impacts=Impacts(40.0, np.array([-10.0, 30.0, 50.0]), 0.0, 0.0))
    assert sure.measure("likely") == 40
    assert sure.measure("beats") == pytest.approx(2 / 3)
    assert sure.measure("low") == sure.impacts.points[0]


@pytest.mark.parametrize(("many", "most", "ends"), [(3, 8, (0, 2)), (20, 5, (0, 19)), (9, 1, (0, 0))])
def test_at_most_so_many_the_first_and_the_last_among_them(many, most, ends):
    found = [one.at[0] for one in spread_over([judged(at, at, at) for at in range(many)], most)]
    assert len(found) == min(many, most)
    assert (found[0], found[-1]) == ends


def test_a_response_nobody_said_a_depth_for_counts_as_said_at_what_is_given_now():
    said = depths_said(ROOM, replace(BASE, offers=(replace(BASE.offers[0], response=Response(extra_bp=600)),)))
    assert said == (1000,)
    assert depths_said(ROOM, BASE) == (1000,)
    (nobody,) = world_of([], [spend_offer(1_000_000, 1000)]).offers
    assert depths_said(ROOM, replace(BASE, offers=(nobody,))) == (None,)


def test_few_carts_stand_for_themselves_and_many_for_as_many_more():
    assert sampled(ROOM) is ROOM
    many = forecaster(world_of([{"A": 1 + at % 4} for at in range(SAMPLE + 500)], []))
    found = sampled(many)
    assert found.batch.axes.carts == SAMPLE
    assert found.today(Plan(FIRST, LAST, ())) == pytest.approx(many.today(Plan(FIRST, LAST, ())), rel=0.02)
