"""Whose clock the times of an order file are on: those told in UTC are put on the shop's own.

Other times stand as they are told, with an offset or without: they are on the clock of whoever wrote them, which is
the shop's.

>>> on_clock(datetime(2026, 7, 1, 22, 30), "Europe/Berlin")
datetime.datetime(2026, 7, 2, 0, 30)
"""

import re
from collections.abc import Callable, Sequence
from datetime import UTC, datetime
from functools import cache
from itertools import islice
from zoneinfo import ZoneInfo, available_timezones

from yellow_abacus.files.columns import Columns
from yellow_abacus.files.dates import parse_moment
from yellow_abacus.files.headings import simplify, words_of
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import Reading

MOST_LOOKED_AT = 2_000
"""Different texts of a column."""

_TIME_OF_DAY = re.compile(r"\d\s?[:.h時时시]\s?\d\d|\d{8}[T_ ]?\d{4}|\d{10}")
_ALSO_IN_WORDS = r"(?:\s*[\[(][^\])]*[\])])?$"
_ZERO = r"[+-]00(?::?00)?"
_IN_UTC = re.compile(rf"(?:[\d\s(\[](?:Z|UTC|GMT)(?:{_ZERO})?[)\]]?|\d\s?{_ZERO}){_ALSO_IN_WORDS}", re.IGNORECASE)
_OFFSET = re.compile(rf"\d\s?[(\[]?(?:UTC|GMT)?\s?[+-]\d\d(?::?\d\d)?[)\]]?{_ALSO_IN_WORDS}", re.IGNORECASE)
_SECONDS = re.compile(r"\d{10}(?:[.,]\d+|\d{3})?")
"""Since 1970, in UTC, or thousandths of one."""


def known_clock(name: str) -> str:
    """The name, of a clock that is known or empty. Raises ValueError."""
    if name and not is_clock(name):
        raise ValueError(f"No clock is known as “{name}”. Write one like Europe/Berlin.")
    return name


def is_clock(name: str) -> bool:
    """Whether a clock is known by that name, which is IANA's, such as *Europe/Berlin*."""
    return name in _clocks()


@cache
def _clocks() -> frozenset[str]:
    return frozenset(available_timezones())


def on_clock(moment: datetime, clock: str) -> datetime:
    """A moment in UTC, as a clock tells it then."""
    return moment.replace(tzinfo=UTC).astimezone(ZoneInfo(clock)).replace(tzinfo=None)


def tells_utc(table: Table, columns: Columns) -> bool:
    """Whether an order file tells its times in UTC: its heading says so, or most of its cells, and none is so or so
    many hours ahead of it or behind."""
    texts = [text for key in ("date", "time") for text in _texts(table, columns, key)]
    timed = [text for text in texts if _TIME_OF_DAY.search(text)]
    if not timed or _says_utc(table, columns):
        return bool(timed)
    utc = [text for text in timed if _is_in_utc(text)]
    return len(utc) * 2 > len(timed) and not any(_OFFSET.search(text) for text in {*timed} - {*utc})


def reader_of_moments(table: Table, columns: Columns, reading: Reading) -> Callable[[str, str], datetime]:
    """What reads a day's cell and that of its time, empty where there is none: on the shop's own clock. Raises
    BadCellError."""

    def as_told(day: str, time: str) -> datetime:
        return parse_moment(day, reading.date_order, time)

    if not reading.clock or not tells_utc(table, columns):
        return as_told
    in_utc = _TIME_OF_DAY.search if _says_utc(table, columns) else _is_in_utc

    def read(day: str, time: str) -> datetime:
        moment = as_told(day, time)
        return on_clock(moment, reading.clock) if in_utc(time if time.strip() else day) else moment

    return read


def _is_in_utc(text: str) -> bool:
    bare = text.strip()
    if _SECONDS.fullmatch(bare):
        return True
    return _IN_UTC.search(bare) is not None and _TIME_OF_DAY.search(bare) is not None


def _says_utc(table: Table, columns: Columns) -> bool:
    headings = (table.header[at] for key in ("date", "time") for at in columns.get(key, ()))
    return any(not words_of("utc").isdisjoint(simplify(heading).split()) for heading in headings)


def _texts(table: Table, columns: Columns, key: str) -> Sequence[str]:
    told = (text.strip() for at in columns.get(key, ()) for text in table.rows.columns[at].used)
    return list(islice(filter(None, told), MOST_LOOKED_AT))
