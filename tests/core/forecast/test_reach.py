"""Reasons of every order, against every set of codes and uses priced and judged on all carts."""

import json
from collections import defaultdict
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.forecast.test_forecast import forecaster, planned
from yellow_abacus.core.clauses.given import Given
from yellow_abacus.core.forecast.chances import Drawn, held_and_left, open_sets
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.reach import Cause, near_miss, reach
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.reasons import REASONS
from yellow_abacus.core.pricing.rows import rows_of
from yellow_abacus.core.pricing.why import why

AT_CARTS = json.loads((Path(__file__).parents[3] / "frontend/src/places/carts/near-misses.cases.json").read_text())


@pytest.mark.parametrize("case", AT_CARTS, ids=lambda case: str(case["threshold"]))
def test_near_misses_are_those_the_browser_marks_at_carts(case):
    assert near_miss("spend", case["threshold"], case["unit"]) == case["reach"]


def plainly(room: Forecaster, plan: Plan) -> list[dict[str, float]]:
    """Orders of each offer by reason alone."""
    found = [defaultdict(float) for _ in plan.offers]
    drawn = Drawn(plan, not_used_up=room.not_used_up(plan))
    for period in room.periods(plan):
        for opened, by_weekday in open_sets(plan, period.days, period.volume):
            there, offers = [at for at, _ in opened], tuple(offer for _, offer in opened)
            orders, mix = period.source.weighed(period.mix, by_weekday)
            mix = mix.branched(offers)
            for at in set(range(len(plan.offers))) - set(there):
                found[at]["out_of_dates"] += orders
            ways = rows_of(room.shop, mix.batch, offers, reached(offers, room.shop, mix.batch))
            rows = ways.apart()
            cohort = mix.groups.cohort[mix.groups.number_by_cart][ways.cart_by_row]
            for (codes, left), chance in held_and_left(opened, drawn):
                holds = np.array([one.asks_code is None or one.asks_code in codes for one in offers], dtype=np.bool_)
                may = holds & np.array([at in left for at in there], dtype=np.bool_)
                wide = (len(offers), rows.batch.axes.carts)
                available, held = (np.broadcast_to(one[:, None], wide).copy() for one in (may, holds))
                priced = price(room.shop, rows, offers, plan.apply, available, traced=True)
                told = why(room.shop, rows, offers, priced, plan.apply, held=held)
                share = mix.share_by_cart[ways.cart_by_row] * ways.share_by_row * chance[0, cohort]
                for at, reasons in zip(there, told, strict=True):
                    for number, many in enumerate(np.bincount(reasons.reason, weights=share, minlength=len(REASONS))):
                        reason = REASONS[number]
                        used_up = reason == "shut_out" and at not in left
                        found[at]["used_up" if used_up else reason] += many * orders
    return found


@settings(max_examples=60, deadline=None)
@given(planned(), st.data())
def test_every_reason_holds_for_as_many_orders(case, data):
    world, plan = case
    given_by = st.sampled_from([Given(), Given("code", "ONE"), Given("link", "TWO")])
    per_shopper = st.sampled_from([None, 1, 2])
    offers = tuple(
        replace(
            one,
            given=data.draw(given_by),
            limits=replace(one.limits, uses_per_shopper=data.draw(per_shopper)),
        )
        for one in plan.offers
    )
    plan, room = replace(plan, offers=offers), forecaster(world)
    for found, expected in zip(reach(room, plan), plainly(room, plan), strict=True):
        by_reason: dict[str, float] = defaultdict(float)
        for cause, orders in found.items():
            assert isinstance(cause, Cause)
            by_reason[cause.reason] += orders
        for reason in {*by_reason, *expected}:
            assert by_reason[reason] == pytest.approx(expected[reason], rel=1e-9, abs=1e-9)
