"""A plan on other days: offers that begin or end with it still do, and days between go along.

docs/sums.md, "Side by side".
"""

from dataclasses import replace
from datetime import date, timedelta

from yellow_abacus.core.clauses.when import When

Days = tuple[date, date]
"""A first and a last day, both included."""


def moved(when: When, before: Days, after: Days) -> When:
    """When an offer of a plan over `before` is open once the plan is over `after`.

    >>> here, there = (date(2026, 3, 3), date(2026, 3, 17)), (date(2026, 4, 3), date(2026, 4, 10))
    >>> when = moved(When(date(2026, 3, 3), date(2026, 3, 17)), here, there)
    >>> (when.first_day, when.last_day) == there
    True
    """
    by = after[0] - before[0]
    first = None if when.first_day is None else _later(when.first_day, by)
    last = None if when.last_day is None else after[1] if when.last_day == before[1] else _later(when.last_day, by)
    if first is not None and last is not None:
        last = max(first, last)  # of a shorter time, which may end before the offer would begin
    return replace(when, first_day=first, last_day=last)


def _later(day: date, by: timedelta) -> date:
    """So many days later, or the last or first day a calendar has."""
    try:
        return day + by
    except OverflowError:
        return date.max if by > timedelta(0) else date.min
