"""How many orders to expect, against plain loops over days."""

from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from yellow_abacus.core.forecast.volume import NamedDays, Volume, count_days, measured

FIRST = date(2025, 3, 3)
some = settings(max_examples=90)
day_numbers = st.lists(st.integers(0, 420), min_size=1, max_size=60)
spans = st.tuples(st.integers(-5, 420), st.integers(0, 40))
factors = st.sampled_from([0, 5_000, 20_000, 33_333])


def named_days(told: list[tuple[tuple[int, int], int]]) -> tuple[NamedDays, ...]:
    return tuple(
        NamedDays("Fair", FIRST + timedelta(start), FIRST + timedelta(start + length), factor)
        for (start, length), factor in told
    )


def plain_rate(days: list[date], orders: dict[date, int], weight: dict[date, float], key, fewest: int) -> dict:
    """Orders a usual day of each kind had, over the mean of all kinds seen often enough."""
    kinds = {key(day) for day in days}
    rates = {}
    for kind in kinds:
        mine = [day for day in days if key(day) == kind]
        usual = sum(weight[day] for day in mine)
        if len(mine) >= fewest and usual > 0:
            rates[kind] = sum(orders.get(day, 0) for day in mine) / usual
    mean = sum(rates.values()) / len(rates) if rates else 0
    return {kind: rate / mean for kind, rate in rates.items()} if mean else {}


@some
@given(day_numbers, st.lists(spans, max_size=2), st.lists(st.tuples(spans, factors), max_size=2))
def test_a_measured_volume_is_what_plain_loops_find(numbers, left_out, told):
    named, ordered = named_days(told), [FIRST + timedelta(number) for number in numbers]
    out = [(FIRST + timedelta(start), FIRST + timedelta(start + length)) for start, length in left_out]
    counted = count_days(np.array([day.toordinal() for day in ordered]), out)
    volume = measured(counted, named)

    first, last = min(ordered), max(ordered)
    days = [first + timedelta(number) for number in range((last - first).days + 1)]
    days = [day for day in days if not any(start <= day <= end for start, end in out)]
    orders = {day: ordered.count(day) for day in days}
    usual = {day: float(np.prod([one.factor_bp / 10_000 for one in named if day in one])) for day in days}
    assert [date.fromordinal(int(day)) for day in counted.days] == days
    assert counted.orders.tolist() == list(orders.values())

    often = all(sum(day.weekday() == kind for day in days) >= 4 for kind in range(7))
    of_weekday = plain_rate(days, orders, usual, date.weekday, 1) if often else {}
    weekday = [of_weekday.get(kind, 1) for kind in range(7)]
    weight = {day: usual[day] * weekday[day.weekday()] for day in days}
    of_month = plain_rate(days, orders, weight, lambda day: day.month, 7)
    month = [of_month.get(kind, 1) for kind in range(1, 13)]
    shape = sum(weight[day] * month[day.month - 1] for day in days)
    assert volume.weekday == pytest.approx(weekday)
    assert volume.month == pytest.approx(month)
    assert volume.base == pytest.approx(sum(orders.values()) / shape if shape else 0)
    if shape:
        assert sum(map(volume.on, days)) == pytest.approx(sum(orders.values()))  # the days counted come out again


@some
@given(st.lists(st.floats(0.1, 3), min_size=7, max_size=7), st.lists(st.tuples(spans, factors), max_size=2))
def test_orders_by_weekday_add_up_to_those_of_the_days(weekday, told):
    volume = Volume(12.5, tuple(weekday), named=named_days(told), growth=0.25)
    days = [FIRST + timedelta(number) for number in range(100)]
    found = volume.by_weekday(days)
    for kind in range(7):
        assert found[kind] == pytest.approx(sum(volume.on(day) for day in days if day.weekday() == kind))


def test_the_merchants_own_profile_stands_in_place_of_the_one_counted():
    counted = count_days(np.array([FIRST.toordinal() + number for number in range(70)]))
    own = (0.0, 1.0, 1.0, 1.0, 1.0, 1.0, 2.0)
    volume = measured(counted, weekday=own)
    assert volume.weekday == own
    assert [volume.on(FIRST + timedelta(number)) for number in range(7)] == pytest.approx(own)  # one order a day came


def test_months_hardly_seen_are_as_any_other():
    counted = count_days(
        np.array([date(2026, 1, day).toordinal() for day in (1, 1, 1, 20, 31)] + [date(2026, 2, 6).toordinal()])
    )
    assert measured(counted).month[1] == 1.0


def test_no_orders_are_no_volume():
    counted = count_days(np.zeros(0, dtype=np.int64))
    assert measured(counted).on(FIRST) == 0
    assert not counted.tells_weekdays


def test_the_seventy_days_on_paper_come_to_what_they_say():
    first = date(2025, 3, 3)
    days = [first + timedelta(number) for number in range(70)]
    ordered = [day.toordinal() for day in days for _ in range(2 if day.weekday() >= 5 else 1)]
    volume = measured(count_days(np.array(ordered)))
    assert volume.weekday == pytest.approx([7 / 9] * 5 + [14 / 9] * 2)
    assert volume.base == pytest.approx(9 / 7, rel=0.01)
    assert volume.on(date(2026, 1, 3)) == pytest.approx(2, rel=0.01)
