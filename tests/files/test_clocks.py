"""Times told in UTC on the shop's own clock."""

from datetime import datetime

import pytest

from yellow_abacus.files.clocks import is_clock, reader_of_moments, tells_utc
from yellow_abacus.files.tables import read_table
from yellow_abacus.files.values import Reading

SUMMER, WINTER = datetime(2026, 7, 1, 22, 30), datetime(2026, 1, 31, 23, 30)
IN_UTC = [
    ("Day", "2026-07-01T22:30:00Z", ""),
    ("Day", "2026-07-01 22:30 UTC", ""),
    ("Day", "2026-07-01T22:30:00.000+00:00", ""),
    ("Day", "2026-07-01 22:30:00 +0000", ""),
    ("Day", "Jul 1, 2026 10:30 PM GMT", ""),
    ("Day", "2026-07-01 22:30 (UTC)", ""),
    ("Day", "2026-07-01 22:30 (UTC+00:00)", ""),
    ("Day", "Wed Jul 01 2026 22:30:00 GMT+0000 (Coordinated Universal Time)", ""),
    ("Day", "1782945000", ""),
    ("Day", "20260701T223000Z", ""),
    ("Day (UTC)", "2026-07-01 22:30", ""),
    ("day_gmt", "2026-07-01 22:30:00", ""),
    ("Day", "2026-07-01", "22:30Z"),
]
OF_A_PLACE = [
    ("Day", "2026-07-01 22:30", ""),
    ("Day", "2026-07-01T22:30:00+02:00", ""),
    ("Day", "2026-07-01 22:30:00 -0500", ""),
    ("Day", "Wed Jul 01 2026 22:30:00 GMT+0200 (Central European Summer Time)", ""),
    ("Day", "2026-07-01 22:30 CEST", ""),
    ("Day", "2026-07-01 22:30 (UTC+02:00)", ""),
]


def told(heading: str, day: str, time: str, *others: str):
    rows = "\n".join(f'"{one}",{time}' for one in (day, *others))
    return read_table(f"{heading},Time\n{rows}\n".encode()), {"date": (0,)} | ({"time": (1,)} if time else {})


def read(file, clock: str, day: str, time: str = "") -> datetime:
    return reader_of_moments(*file, Reading(".", "day first", clock=clock))(day, time)


@pytest.mark.parametrize(("heading", "day", "time"), IN_UTC)
def test_times_in_utc_are_put_on_a_clock(heading, day, time):
    file = told(heading, day, time)
    assert tells_utc(*file)
    assert read(file, "", day, time) == SUMMER
    assert read(file, "Europe/Berlin", day, time) == datetime(2026, 7, 2, 0, 30)
    assert read(file, "America/New_York", day, time) == datetime(2026, 7, 1, 18, 30)


@pytest.mark.parametrize(("heading", "day", "time"), OF_A_PLACE)
def test_other_times_stand_as_they_are(heading, day, time):
    file = told(heading, day, time)
    assert not tells_utc(*file)
    assert read(file, "Asia/Tokyo", day, time) == SUMMER


def test_a_clock_goes_with_the_season():
    file = told("Day", "2026-01-31T23:30:00Z", "")
    assert read(file, "Europe/Berlin", "2026-01-31T23:30:00Z") == datetime(2026, 2, 1, 0, 30)
    assert read(file, "", "2026-01-31T23:30:00Z") == WINTER


def test_days_without_a_time_stay_on_their_day():
    file = told("Day (UTC)", "2026-07-01", "")
    assert not tells_utc(*file)
    assert read(file, "America/New_York", "2026-07-01") == datetime(2026, 7, 1)


def test_a_clock_that_is_now_in_utc_and_now_ahead_is_a_places_own():
    """As in London, winter and summer."""
    file = told("Day", "2026-01-31T23:30:00+00:00", "", "2026-07-01T22:30:00+01:00")
    assert not tells_utc(*file)
    assert read(file, "Europe/Berlin", "2026-01-31T23:30:00+00:00") == WINTER


def test_clocks_are_known_by_their_names():
    assert is_clock("Europe/Berlin")
    assert not is_clock("Berlin")
    assert not is_clock("../../etc/passwd")
