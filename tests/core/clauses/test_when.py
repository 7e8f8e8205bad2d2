"""Hours against every minute of a week looked at by itself; days and moments at their ends."""

from dataclasses import replace
from datetime import date, datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.carts.facts import UNKNOWN, Facts, nothing_known
from yellow_abacus.core.clauses.when import When

MONDAY = date(2027, 3, 1)


def at(weekday, minute) -> Facts:
    weekdays, minutes = np.atleast_1d(weekday), np.atleast_1d(minute)
    return replace(nothing_known(len(weekdays)), weekday_by_cart=weekdays, minute_by_cart=minutes)


@given(
    st.lists(st.integers(0, 6), unique=True, max_size=3).map(tuple),
    st.sampled_from([None, (600, 1200), (1320, 120), (0, 1440), (1, 0)]),
    st.integers(0, 6),
    st.integers(0, 1439),
)
def test_hours_across_midnight_belong_to_the_day_they_start(weekdays, hours, weekday, minute):
    first, last = hours or (None, None)
    passes = When(weekdays=weekdays, from_minute=first, to_minute=last).passes(at(weekday, minute))[0]
    day, held = weekday, True
    if hours is not None and first > last:
        held = minute >= first or minute < last
        day = (weekday - 1) % 7 if minute < last else weekday
    elif hours is not None:
        held = first <= minute < last
    assert passes == (held and (not weekdays or day in weekdays))


def test_what_is_not_known_passes_for_nothing_that_is_asked():
    unknown = at(UNKNOWN, UNKNOWN)
    assert When().passes(unknown).all()
    assert not When(weekdays=(0, 1, 2, 3, 4, 5, 6)).passes(unknown).any()
    assert not When(from_minute=0, to_minute=1440).passes(unknown).any()
    assert not When(from_minute=1320, to_minute=120).passes(unknown).any()


@pytest.mark.parametrize(
    ("moment", "is_open"),
    [
        (datetime(2027, 2, 28, 23, 59), False),
        (datetime(2027, 3, 1, 8, 59), False),
        (datetime(2027, 3, 1, 9, 0), True),
        (datetime(2027, 3, 2, 0, 0), True),
        (datetime(2027, 3, 3, 17, 59), True),
        (datetime(2027, 3, 3, 18, 0), False),
        (datetime(2027, 3, 4, 9, 0), False),
    ],
)
def test_from_a_first_moment_to_a_last(moment, is_open):
    when = When(MONDAY, MONDAY + timedelta(2), first_minute=540, last_minute=1080)
    assert when.open_at(moment) is is_open


def test_on_one_day_it_holds_as_that_day_has_it():
    when = When(MONDAY, MONDAY + timedelta(2), first_minute=540, last_minute=1080, weekdays=(0, 2))
    assert when.on_day(MONDAY - timedelta(1)) is None
    assert when.on_day(MONDAY) == When(first_minute=540, weekdays=(0, 2))
    assert when.on_day(MONDAY + timedelta(1)) == When(weekdays=(0, 2))
    assert when.on_day(MONDAY + timedelta(2)) == When(last_minute=1080, weekdays=(0, 2))
    assert when.on_day(MONDAY + timedelta(3)) is None


def test_the_hours_of_the_last_night_are_open_after_its_midnight():
    when = When(MONDAY, MONDAY, from_minute=1320, to_minute=120)
    assert when.open_at(datetime(2027, 3, 2, 1, 59))
    assert not when.open_at(datetime(2027, 3, 1, 1, 59))


@pytest.mark.parametrize(
    ("told", "field"),
    [
        (When(MONDAY, MONDAY - timedelta(1)), "last_day"),
        (When(MONDAY, MONDAY, first_minute=600, last_minute=600), "last_minute"),
        (When(first_minute=600), "first_minute"),
        (When(from_minute=600), "from_minute"),
        (When(from_minute=600, to_minute=600), "to_minute"),
        (When(MONDAY, first_minute=1441), "first_minute"),
        (When(weekdays=(1, 1)), "weekdays"),
        (When(weekdays=(7,)), "weekdays"),
        (When(MONDAY, MONDAY, 600, 601, (0,), 0, 1440), None),
    ],
)
def test_times_that_make_no_sense(told, field):
    assert [problem.path for problem in told.problems()] == [(field,)] * (field is not None)
