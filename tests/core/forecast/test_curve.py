"""A curve over one figure of a plan comes to what each value comes to by itself, whatever is found together."""

from dataclasses import replace
from datetime import date
from unittest.mock import patch

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.forecast.test_forecast import FIRST, LAST, forecaster, planned
from tests.core.test_other_day import lowered_from, toppings, whatever_the_share  # noqa: F401
from yellow_abacus.core.clauses.conditions import Spend
from yellow_abacus.core.forecast import trying
from yellow_abacus.core.forecast import variants as sets_together
from yellow_abacus.core.forecast.curve import impact_curve
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers import Offer, PercentOff, Response


def gives(offer: Offer, percent_bp: int) -> Offer:
    return replace(offer, gives=(PercentOff(percent_bp),))


def asks(offer: Offer, n: int) -> Offer:
    return replace(offer, earned=replace(offer.earned, conditions=(Spend(n),)))


def with_offer(plan: Plan, at: int, offer: Offer) -> Plan:
    return replace(plan, offers=(*plan.offers[:at], offer, *plan.offers[at + 1 :]))


@settings(max_examples=80, deadline=None)
@given(planned(), st.data(), st.sampled_from([1, 12_000]))
def test_each_value_comes_to_what_it_does_by_itself(case, data, lines):
    world, plan = case
    if not plan.offers:
        return
    runs = data.draw(st.integers(0, 1))
    offers = tuple(replace(one, response=data.draw(toppings)) for one in plan.offers)
    running = tuple(replace(one, id="runs", runs=True, response=Response()) for one in offers[:runs])
    plan = replace(plan, offers=(*running, *offers[runs:]), running=running)
    at = data.draw(st.integers(0, len(plan.offers) - 1))
    varied = data.draw(st.sampled_from([gives, asks]))
    values = data.draw(st.lists(st.integers(1, 6_000), min_size=2, max_size=5))
    variants = [with_offer(plan, at, varied(plan.offers[at], value)) for value in values]
    with patch.object(sets_together, "LINES_TOGETHER", lines):
        found = impact_curve(forecaster(world), [None, *variants])
    assert found[0] is None
    with patch.object(Mix, "beside", lambda self, _: self):
        for impact, variant in zip(found[1:], variants, strict=True):
            assert impact == pytest.approx(forecaster(world).impact(variant), rel=1e-9, abs=1e-6)


@pytest.mark.parametrize("varied", [gives, asks])
def test_what_carts_add_is_priced_together_for_all_values_and_then_let_go(varied, monkeypatch):
    world = lowered_from(date(2026, 3, 5), A=800)
    (offer,) = world.offers
    topped = replace(asks(offer, 2_500), response=Response(top_up_bp=5_000, top_up_reach=1_000))
    variants = [Plan(FIRST, LAST, (varied(topped, value),)) for value in range(2_100, 2_700, 50)]
    walks = []
    costed_rows = trying.costed_rows
    monkeypatch.setattr(trying, "costed_rows", lambda *told: walks.append(1) or costed_rows(*told))
    room = forecaster(world)
    impact_curve(room, variants)
    assert len(walks) == 4  # on the first days and on those with another price: of one value, and then of all
    assert not room.outlook.tries_ahead.newest_first()
    impact_curve(room, variants)
    assert len(walks) == 4  # nothing of it is priced again
