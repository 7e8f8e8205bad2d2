"""What a mix comes to, and what each correction in it adds."""

from datetime import timedelta

import pytest
from hypothesis import given, settings

from tests.core.forecast.test_expected import FIRST, histories, terms
from yellow_abacus.core.forecast.expected import MixTerms, expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.mix_seen import PARTS, corrections, one_by_one, seen
from yellow_abacus.core.forecast.plan import Plan

WINDOW = (FIRST + timedelta(90), FIRST + timedelta(99))


@settings(max_examples=25)
@given(histories(), terms)
def test_what_corrections_add_adds_up(case, told):
    _, history = case

    def expecting(some: MixTerms) -> Forecaster:
        return Forecaster(expect(history, some))

    if not history.batch.axes.carts:
        return
    found, last = corrections(told, WINDOW, expecting), seen(expecting(told), WINDOW)
    first = seen(expecting(MixTerms()), WINDOW)
    for name in ("orders", "goods", "kept"):
        added = sum(getattr(one, name) for one in found)
        assert getattr(first, name) + added == pytest.approx(getattr(last, name), rel=1e-9, abs=1e-6)
    assert [one.part for one in found] == [part for part in PARTS if part in {one.part for one in found}]
    today = expecting(told).forecast(Plan(*WINDOW, ())).today
    assert (last.orders, last.kept) == (today.orders, today.profit)


def test_parts_that_say_nothing_are_left_out():
    told = MixTerms(counted="last", last_days=30, growth_bp=500)
    parts = list(one_by_one(told))
    assert [part for part, _ in parts] == ["", "counted", "growth_bp"]
    assert parts[0][1] == MixTerms()
    assert parts[-1][1] == told
    assert [part for part, _ in one_by_one(MixTerms(last_days=30))] == [""]


@settings(max_examples=25)
@given(histories())
def test_first_orders_among_those_of_which_it_is_known(case):
    world, history = case
    found = seen(Forecaster(expect(history)), WINDOW)
    before = world.batch.facts.orders_before_by_cart
    if not (before >= 0).any():
        assert found.first_share is None
    elif found.first_share is not None:
        assert 0 <= found.first_share <= 1
        assert (found.first_share > 0) <= bool((before == 0).any())
