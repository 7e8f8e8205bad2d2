"""Days and moments as files write them, in any of the languages whose headings are known."""

from datetime import datetime

import pytest
from babel.dates import get_month_names

from yellow_abacus.files.dates import LANGUAGES, guess_date_order, month_named, parse_moment
from yellow_abacus.files.values import BadCellError


@pytest.mark.parametrize(
    ("text", "order", "moment"),
    [
        ("2026-03-01", "year first", datetime(2026, 3, 1)),
        ("2026-03-01T14:05:09Z", "year first", datetime(2026, 3, 1, 14, 5, 9)),
        ("2026-03-01 14:05:09.123+02:00", "year first", datetime(2026, 3, 1, 14, 5, 9)),
        ("1.3.2026 14:05", "day first", datetime(2026, 3, 1, 14, 5)),
        ("03/01/2026 2:05 PM", "month first", datetime(2026, 3, 1, 14, 5)),
        ("01/03/26", "day first", datetime(2026, 3, 1)),
        ("3 March 2026, 9:15", "day first", datetime(2026, 3, 3, 9, 15)),
        ("Mar 3, 2026", "day first", datetime(2026, 3, 3)),
        ("01-MAR-26", "day first", datetime(2026, 3, 1)),
        ("1st Sept 2026 14h05", "day first", datetime(2026, 9, 1, 14, 5)),
        ("Sat, 01 Mar 2025 10:00:00 +0100", "day first", datetime(2025, 3, 1, 10)),
        ("20260301 10:00", "day first", datetime(2026, 3, 1, 10)),
        ("1. März 2026, 14:05 Uhr", "day first", datetime(2026, 3, 1, 14, 5)),
        ("1er août 2026", "day first", datetime(2026, 8, 1)),
        ("3 de março de 2026", "day first", datetime(2026, 3, 3)),
        ("12 mei 2026", "day first", datetime(2026, 5, 12)),
        ("1. 3. 2026 9:15", "day first", datetime(2026, 3, 1, 9, 15)),
        ("3. května 2026", "day first", datetime(2026, 5, 3)),
        ("2026. márc. 1. 10:00", "day first", datetime(2026, 3, 1, 10)),
        ("2026. 03. 01. 10:00", "year first", datetime(2026, 3, 1, 10)),
        ("1.3.2026 klo 12.05", "day first", datetime(2026, 3, 1, 12, 5)),
        ("Mar 1, 2026 2:05 PM EST", "day first", datetime(2026, 3, 1, 14, 5)),
        ("So, 01.03.2026 14:05 MEZ", "day first", datetime(2026, 3, 1, 14, 5)),
        ("Sun Mar 01 2026 14:05:33 GMT+0100 (some zone)", "day first", datetime(2026, 3, 1, 14, 5, 33)),
        ("2026-03-01T14:05:33+01:00[Europe/Paris]", "year first", datetime(2026, 3, 1, 14, 5, 33)),
        ("20260301140509", "day first", datetime(2026, 3, 1, 14, 5, 9)),
        ("202603011405", "day first", datetime(2026, 3, 1, 14, 5)),
        ("20260301T1405", "day first", datetime(2026, 3, 1, 14, 5)),
        ("01MAR2026:14:05:09", "day first", datetime(2026, 3, 1, 14, 5, 9)),
        ("01.Mar.2026 - 14:05", "day first", datetime(2026, 3, 1, 14, 5)),
        ("Mar-01-26", "day first", datetime(2026, 3, 1)),
        ("2026-03-01_14:05", "year first", datetime(2026, 3, 1, 14, 5)),
        ("46082", "day first", datetime(2026, 3, 1)),
        ("46082,25", "day first", datetime(2026, 3, 1, 6)),
        ("1772373909", "day first", datetime(2026, 3, 1, 14, 5, 9)),
        ("1772373909123", "day first", datetime(2026, 3, 1, 14, 5, 9)),
        ("2026 m. kovo 1 d. 14:05", "day first", datetime(2026, 3, 1, 14, 5)),
        ("2026. gada 1. marts", "day first", datetime(2026, 3, 1)),
        ("1. märts 2026", "day first", datetime(2026, 3, 1)),
        ("2026년 3월 1일 오후 2:05", "day first", datetime(2026, 3, 1, 14, 5)),
        ("2026. 3. 1. 오전 9:05:33", "day first", datetime(2026, 3, 1, 9, 5, 33)),
        ("2026年3月1日 下午2:05", "day first", datetime(2026, 3, 1, 14, 5)),
        ("2026年3月1日 14时05分", "day first", datetime(2026, 3, 1, 14, 5)),
        ("2026年3月1日 14時05分33秒", "day first", datetime(2026, 3, 1, 14, 5, 33)),
        ("1 марта 2026 г., 14:05", "day first", datetime(2026, 3, 1, 14, 5)),
        ("01.03.2026 г. 14:05", "day first", datetime(2026, 3, 1, 14, 5)),
        ("1 березня 2026 р.", "day first", datetime(2026, 3, 1)),
        ("2 Μαρτίου 2026 10:15", "day first", datetime(2026, 3, 2, 10, 15)),
        ("2026年3月1日 14時05分", "year first", datetime(2026, 3, 1, 14, 5)),
    ],
)
def test_dates_in_many_forms(text, order, moment):
    assert parse_moment(text, order) == moment


NO_DATES = (
    *("", "31.02.2026", "yesterday", "2026-13-01", "2026-03-01 25:00", "01.01.1870"),
    *(
        "3 Smarch 2026",
        "2026",
        "99999999",
        "1 ma 2026",
        "99999",
        "12345",
        "177237390912345",
        "2026-03-01 1405",
        "209913011405",
    ),
)


@pytest.mark.parametrize(
    ("day", "clock", "moment"),
    [
        ("2026-03-01", "1405", datetime(2026, 3, 1, 14, 5)),
        ("2026-03-01", "905", datetime(2026, 3, 1, 9, 5)),
        ("46082", "14:05", datetime(2026, 3, 1, 14, 5)),
        ("46082.587", "", datetime(2026, 3, 1, 14, 5, 17)),
    ],
)
def test_times_of_a_column_of_their_own(day, clock, moment):
    assert parse_moment(day, "day first", clock) == moment


@pytest.mark.parametrize("text", NO_DATES)
def test_what_is_no_date_is_refused(text):
    with pytest.raises(BadCellError):
        parse_moment(text, "day first")


def test_the_date_order_is_found_from_the_whole_column():
    assert guess_date_order(["01/02/2026", "13/02/2026"]) == "day first"
    assert guess_date_order(["01/02/2026", "02/13/2026"]) == "month first"
    assert guess_date_order(["2026-01-02"]) == "year first"
    assert guess_date_order(["01/02/2026"]) == "day first"


@pytest.mark.parametrize("language", LANGUAGES)
def test_months_go_by_their_names_in_every_language(language):
    names = get_month_names("wide", "format", language)
    assert [month_named(name.upper()) for name in names.values()] == list(names)


def test_a_word_that_may_be_two_months_is_none():
    assert month_named("cer") is None  # June and July begin so in Czech
    assert month_named("ma") is None
