"""Each offer of a plan against forecasts of the plan without it, made anew."""

from dataclasses import replace

import pytest
from hypothesis import given, settings

from tests.core.forecast.test_course import answered
from tests.core.forecast.test_forecast import forecaster
from yellow_abacus.core.forecast.each_offer import each_offer
from yellow_abacus.core.offers.gifts import TooMuchPutInError

SAME = {"rel": 1e-7, "abs": 1e-4}


@settings(max_examples=20, deadline=None)
@given(answered())
def test_an_offer_adds_what_the_plan_keeps_with_it_less_without_it(case):
    world, plan = case
    try:
        found = each_offer(forecaster(world), plan)
        impact = forecaster(world).impact(plan)
        without = [
            forecaster(world).impact(replace(plan, offers=(*plan.offers[:at], *plan.offers[at + 1 :])))
            for at in range(len(plan.offers))
        ]
    except TooMuchPutInError:
        return
    assert [one.adds for one in found] == [pytest.approx(impact - one, **SAME) for one in without]
    for one, offer in zip(found, plan.offers, strict=True):
        if one.if_everybody is not None:
            all_hold = tuple(
                replace(other, response=replace(other.response, uptake_bp=10_000, uptake_first_bp=None, ranges=()))
                if other.given.key == offer.given.key
                else other
                for other in plan.offers
            )
            assert one.if_everybody == pytest.approx(forecaster(world).impact(replace(plan, offers=all_hold)), **SAME)
    asked = [one.given.key is not None and one.response.uptake_bp not in (None, 10_000) for one in plan.offers]
    assert [one.if_everybody is not None for one in found] == asked
    if found:
        assert found[-1].piled == pytest.approx(impact, **SAME)
        if len(found) == 1:
            assert found[0].adds == pytest.approx(impact, **SAME)
