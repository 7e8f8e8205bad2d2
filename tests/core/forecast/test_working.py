"""The working of every figure adds up, from the answer down to what carts of one type come to."""

import pytest
from hypothesis import given, settings

from tests.core.forecast.test_course import answered
from tests.core.forecast.test_forecast import COUNTED_DAYS, forecaster
from tests.core.forecast.test_topping_up import FIRST, LAST, world_of
from yellow_abacus.core.costing.ledger import INDEX
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.working import UnknownFigureError, Working
from yellow_abacus.core.offers.gifts import TooMuchPutInError

SAME = {"rel": 1e-9, "abs": 1e-5}


def walk(working: Working, key: str, seen: set[str]) -> None:
    if key in seen:
        return
    seen.add(key)
    found = working.figure(key)
    assert found.key == key
    assert found.name
    assert found.formula
    if found.parts:
        whole = sum(sign * working.figure(part).value for sign, part in found.parts)
        assert whole == pytest.approx(found.value, **SAME), key
    if found.orders is not None:
        assert found.orders * found.each == pytest.approx(found.value, **SAME)
    for _, part in found.parts:
        walk(working, part, seen)


@settings(max_examples=25, deadline=None)
@given(answered())
def test_every_figure_is_the_sum_of_its_parts(case):
    world, plan = case
    room = forecaster(world)
    try:
        found, working = room.forecast(plan), Working(room, plan)
    except TooMuchPutInError:
        return
    seen: set[str] = set()
    for key in working.top:
        walk(working, key, seen)
    assert working.figure("impact").value == pytest.approx(found.impact, **SAME)
    assert working.figure("today").value == pytest.approx(found.today.profit, **SAME)
    for row, at in INDEX.items():
        assert working.figure(f"plan/{row}").value == pytest.approx(found.planned.ledger[at], **SAME)
    for step in found.bridge:
        assert working.figure(f"bridge/{step.key}").value == pytest.approx(step.amount, **SAME)


@pytest.mark.parametrize(
    "key", ["", "profit", "bridge/none", "today/goods/no such type", "fixed/99", "extra/goods/7"]
)
def test_what_is_no_figure_is_refused(key):
    working = Working(forecaster(world_of([{"C": 2}], [])), Plan(FIRST, LAST, ()))
    with pytest.raises(UnknownFigureError):
        working.figure(key)


def test_carts_near_the_average_of_their_type_are_named():
    found = [{"C": 2}, {"A": 1}, {"B": 3}, {"D": 4}, {"C": 1}]
    working = Working(forecaster(world_of(found, [])), Plan(FIRST, LAST, ()))
    (_, key), *_ = working.figure("today/goods").parts
    told = working.figure(key)
    assert len(told.carts) == 3
    assert told.orders == pytest.approx(5 * 7 / COUNTED_DAYS)
