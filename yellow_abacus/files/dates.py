"""Cells to days and moments: figures in any order, months by name in many languages, times of day beside them, and
moments that are counted, as spreadsheets and databases do.

>>> parse_moment("1. März 2026, 14:05 Uhr", "day first")
datetime.datetime(2026, 3, 1, 14, 5)
>>> parse_moment("46082.587", "day first")
datetime.datetime(2026, 3, 1, 14, 5, 17)
"""

import re
from collections.abc import Iterable, Iterator
from contextlib import suppress
from datetime import date, datetime, time, timedelta
from functools import cache, lru_cache
from itertools import product
from typing import Literal

from babel.dates import get_month_names

from yellow_abacus.files.headings import simplify
from yellow_abacus.files.values import BadCellError, DateOrder

LANGUAGES = (
    "en", "de", "fr", "es", "it", "pt", "nl", "pl", "sv", "da", "nb", "fi",
    "cs", "hu", "ro", "tr", "el", "bg", "ru", "uk", "sk", "sl", "et", "lv", "lt", "is",
)  # fmt: skip
"""Those of headings.toml. A word that means another month in an earlier language means that."""
FEWEST_LETTERS = 3
"""A month may be cut short to so many letters, where no other begins so."""

_AFTER_YEAR = r"(?:\.?\s?(?:[грm]|gada)\b\.?)?"
"""Some languages write a word for year behind it, most of them cut to a letter."""
_FIGURES = re.compile(rf"(\d{{1,4}})\s?[./年년-]\s?(\d{{1,2}})\s?[./月월-]\s?(\d{{1,4}})[.日号號일]?{_AFTER_YEAR}")
_RUN_TOGETHER = re.compile(r"(\d{4})(\d{2})(\d{2})(?!\d)")
_ALL_RUN_TOGETHER = re.compile(r"((?:19|20)\d{6})[T_ ]?(\d{2})(\d{2})(\d{2})?(Z|[+-]\d{4})?")
_WEEKDAY = re.compile(r"[^\W\d_]+(?:\.?,\s*|\.?\s+)")
_DAY, _MONTH = r"(?P<day>\d{1,2})(?:\.|er|º|st|nd|rd|th)?", r"(?P<month>[^\W\d_]{3,})\.?,?"
_YEAR, _SHORT_YEAR = rf"(?P<year>\d{{4}}){_AFTER_YEAR}", rf"(?P<year>\d{{4}}|\d\d(?![\d:.h])){_AFTER_YEAR}"
_OF = r"(?:de\s+|di\s+|del\s+)?"
_NAMED = (
    re.compile(rf"{_DAY}[\s.-]*{_OF}{_MONTH}[\s-]*{_OF}{_SHORT_YEAR}"),  # 3 March 2026, 03-MAR-26, 03MAR2026
    re.compile(rf"{_MONTH}\s+{_DAY},?\s+{_YEAR}"),  # March 3, 2026
    re.compile(rf"{_MONTH}-{_DAY}-{_SHORT_YEAR}"),  # Mar-03-26
    re.compile(rf"{_YEAR}\.?\s+{_MONTH}\s+{_DAY}(?:\s?d\b\.?)?"),  # 2026. március 3., 2026 m. kovo 3 d.
    re.compile(rf"{_YEAR}\s+{_DAY}\s+{_MONTH}"),  # 2026. gada 3. marts
)
_AFTER_NOON = ("오후", "下午", "午後")
_TIME = re.compile(
    rf"(?:(?:klo|kl\.?|um|à|at)\s+)?(?P<before>오전|上午|午前|{'|'.join(_AFTER_NOON)})?\s?"
    r"(?P<hour>\d{1,2})\s?[:.h時时点시]\s?(?P<minute>\d{2})(?:\s?[:.分분]\s?(?P<second>\d{2})(?:[.,]\d+)?)?[分秒분초]?"
    r"\s*(?P<half>[ap]\.?\s?m\.?)?\s*"
    r"(?:uhr|hrs?|(?:[a-z]{0,4}[tz]|UTC|MSK)?\s*(?:[+-]\d{2}:?(?:\d{2})?)?(?:\s*[\[(].*[\])])?)",
    re.IGNORECASE,
)
_CLOCK_RUN_TOGETHER = re.compile(r"(\d{1,2})(\d{2})")
"""Only in a column of its own: behind a day it might be anything."""

_PLAIN = re.compile(r"(?:199\d|20\d\d)-\d\d-\d\d(?:[ T]\d\d:\d\d(?::\d\d)?)?", re.ASCII)
"""As most shops write moments, which Python reads by itself, and at once."""

_COUNTED = re.compile(r"(?P<days>\d{5}(?:[.,]\d+)?)|(?P<seconds>\d{10})(?:[.,]\d+|\d{3})?")
"""As spreadsheets count days, and databases seconds or thousandths of one."""
_FIRST_DAY, _FIRST_SECOND = datetime(1899, 12, 30), datetime(1970, 1, 1)


def parse_day(text: str, order: DateOrder) -> date:
    """Raises BadCellError."""
    return parse_moment(text, order).date()


def parse_moment(text: str, order: DateOrder, time_text: str = "") -> datetime:
    """A date, with its time if there is one, on the shop's own clock (an offset is dropped). Raises BadCellError."""
    text, time_text = text.strip(), time_text.strip()
    if not time_text and _PLAIN.fullmatch(text):
        with suppress(ValueError):  # which is told below
            return datetime.fromisoformat(text)
    if together := _ALL_RUN_TOGETHER.fullmatch(text):
        text = f"{together[1]} {together[2]}:{together[3]}:{together[4] or '00'}{together[5] or ''}"
    counted = _counted(text)
    day, rest = (counted.date(), "") if counted else _day(text, order)
    clock = time_text or rest.strip().lstrip("T,:_–- ").strip()
    if together := _CLOCK_RUN_TOGETHER.fullmatch(time_text):
        clock = f"{together[1]}:{together[2]}"
    try:
        at = _clock(clock) if clock else counted.time() if counted else time()
        moment = datetime.combine(day, at)
    except ValueError as error:
        raise BadCellError(f"“{clock}” is not a time of day.", "Write it like 14:05.") from error
    if not 1990 <= moment.year <= 2100:
        raise BadCellError(
            f"“{text}” lies outside 1990 to 2100.", "Write the year with four digits, like 2026-03-01."
        )
    return moment


def guess_date_order(cells: Iterable[str]) -> DateOrder:
    """Day or month first, from all cells of a date column; day first where nothing tells."""
    day, month, year = 0, 0, 0
    for cell in cells:
        found = _FIGURES.match(cell.strip())
        if not found:
            continue
        first, second = int(found[1]), int(found[2])
        year += len(found[1]) == 4
        day += first > 12 and len(found[1]) < 4
        month += second > 12 and len(found[1]) < 4
    if year and not day and not month:
        return "year first"
    return "month first" if month > day else "day first"


def _day(text: str, order: DateOrder) -> tuple[date, str]:
    """The day a text begins with, or that stands behind its weekday, and what follows it."""
    mend = "Write it like 2026-03-01 14:05."
    weekday = _WEEKDAY.match(text)
    begins = (0, weekday.end()) if weekday else (0,)
    read = next((read for at in begins if (read := _in_figures(text, order, at) or _with_a_name(text, at))), None)
    if read is None:
        raise BadCellError(f"“{text}” is not a date." if text else "The date is missing.", mend)
    (year, month, day), ends = read
    try:
        return date(year + 2000 if year < 100 else year, month, day), text[ends:]
    except ValueError as error:
        raise BadCellError(f"“{text}” is no day of the calendar.", mend) from error


def _counted(text: str) -> datetime | None:
    """The moment that a number of days or seconds stands for, to the second; None for any other text."""
    found = _COUNTED.fullmatch(text)
    if found is None:
        return None
    if found["days"]:
        return _FIRST_DAY + timedelta(seconds=round(float(found["days"].replace(",", ".")) * 86_400))
    return _FIRST_SECOND + timedelta(seconds=int(found["seconds"]))


Read = tuple[tuple[int, int, int], int]
"""Year, month and day; and where in the text they end."""


def _in_figures(text: str, order: DateOrder, at: int) -> Read | None:
    if found := _FIGURES.match(text, at):
        first, second, third = (int(part) for part in found.groups())
        if len(found[1]) == 4:
            return (first, second, third), found.end()
        day, month = (second, first) if order == "month first" else (first, second)
        return (third, month, day), found.end()
    if found := _RUN_TOGETHER.match(text, at):
        return (int(found[1]), int(found[2]), int(found[3])), found.end()
    return None


def _with_a_name(text: str, at: int) -> Read | None:
    for found in filter(None, (one.match(text, at) for one in _NAMED)):
        if month := month_named(found["month"]):
            return (int(found["year"]), month, int(found["day"])), found.end()
    return None


@lru_cache(maxsize=24 * 60)
def _clock(text: str) -> time:
    found = _TIME.fullmatch(text)
    if found is None:
        raise ValueError(text)
    hour, minute, second = int(found["hour"]), int(found["minute"]), int(found["second"] or 0)
    if half := (found["half"] or found["before"] or "").lower():
        if not 1 <= hour <= 12:
            raise ValueError(text)
        hour = hour % 12 + (12 if half.startswith(("p", *_AFTER_NOON)) else 0)
    return time(hour, minute, second)


def month_named(name: str) -> int | None:
    """The month, from 1, that a word is in any of the languages; None where it is none, or might be two.

    >>> [month_named(one) for one in ("Dezember", "févr", "květen", "kwietnia", "tomorrow")]
    [12, 2, 5, 4, None]
    """
    whole, short = _months()
    word = simplify(name)
    return whole.get(word, short.get(word))


@cache
def _months() -> tuple[dict[str, int], dict[str, int | None]]:
    """Names of months, and what they may be cut short to, None for what might be two."""
    whole: dict[str, int] = {}
    short: dict[str, int | None] = {}
    for name, month in _names():
        whole.setdefault(name, month)
    for name, month in whole.items():
        for letters in range(FEWEST_LETTERS, len(name)):
            cut = name[:letters]
            short[cut] = month if short.get(cut, month) == month else None
    return whole, short


def _names() -> Iterator[tuple[str, int]]:
    widths: tuple[Literal["wide", "abbreviated"], ...] = ("wide", "abbreviated")
    contexts: tuple[Literal["format", "stand-alone"], ...] = ("format", "stand-alone")
    for language, width, context in product(LANGUAGES, widths, contexts):
        for month, name in get_month_names(width, context, language).items():
            word = simplify(name)
            if len(word) >= FEWEST_LETTERS and not any(map(str.isdigit, word)):
                yield word, month
