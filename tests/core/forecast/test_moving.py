"""A plan on other days: its offers' own days go along."""

from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.clauses.when import When
from yellow_abacus.core.forecast.moving import moved

days = st.dates(date(2026, 1, 1), date(2029, 12, 31))
spans = st.tuples(days, st.integers(0, 60)).map(lambda told: (told[0], told[0] + timedelta(days=told[1])))
maybe = st.none() | days


@given(spans, spans, maybe, maybe)
def test_what_began_and_ended_with_the_plan_still_does_and_the_rest_goes_along(before, after, first, last):
    when = moved(When(first, last, weekdays=(2,)), before, after)
    assert when.weekdays == (2,)
    by = after[0] - before[0]
    assert when.first_day == (None if first is None else first + by)
    if first is None and last is not None:
        assert when.last_day == (after[1] if last == before[1] else last + by)
    if last is None:
        assert when.last_day is None


@given(spans, spans)
def test_an_offer_open_all_the_plan_is_open_all_of_it_there(before, after):
    when = moved(When(*before), before, after)
    assert (when.first_day, when.last_day) == after


@given(spans, spans, days, days)
def test_an_offer_never_ends_before_it_begins(before, after, one, other):
    when = moved(When(min(one, other), max(one, other)), before, after)
    assert when.first_day is not None
    assert when.last_day is not None
    assert when.first_day <= when.last_day


@given(spans, spans)
def test_days_no_calendar_has_are_the_first_or_last_it_has(before, after):
    when = moved(When(date.min, date.max), before, after)
    assert when.first_day == max(date.min, date.min + max(after[0] - before[0], timedelta(0)))
    assert when.last_day == date.max + min(after[0] - before[0], timedelta(0))


@given(spans, days, days)
def test_moved_by_as_many_days_and_back_it_is_the_same(before, first, last):
    when = When(min(first, last), max(first, last))
    there = (before[0] + timedelta(days=100), before[1] + timedelta(days=100))
    assert moved(moved(when, before, there), there, before) == when
