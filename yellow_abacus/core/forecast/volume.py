"""How many orders a day to expect: a base rate, times what the weekday, the month, named days and growth do to it.

Both profiles have mean 1, so the base rate is that of an average day of an average month. What too few days were
counted of is not told apart: its profile is 1. docs/sums.md, "Volume".

>>> week = (0.5, 1, 1, 1, 1, 1, 1.5)
>>> fair = NamedDays("Fair", date(2026, 3, 7), date(2026, 3, 8), factor_bp=20_000)
>>> volume = Volume(base=30.0, weekday=week, named=(fair,))
>>> [volume.on(date(2026, 3, day)) for day in (2, 3, 8)]
[15.0, 30.0, 90.0]
"""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.clauses.when import WEEKDAYS
from yellow_abacus.core.ground.money import WHOLE_BP, Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.ground.shape import CLOSED

MONTHS = 12
AS_ANY = (1.0,) * WEEKDAYS
ALL_YEAR = (1.0,) * MONTHS

FEWEST_WEEKS = 4
"""Weekdays are told apart where each was counted at least so often."""
FEWEST_DAYS = 7
"""A month is told from others where so many days of it were counted."""
LARGEST_FACTOR_BP = 1_000_000


@dataclass(frozen=True)
class NamedDays:
    """Days, both ends included, on which so many times the usual orders come (basis points)."""

    name: str
    first_day: date
    last_day: date
    factor_bp: int

    __pydantic_config__ = CLOSED

    def __contains__(self, day: date) -> bool:
        return self.first_day <= day <= self.last_day

    def problems(self) -> Iterator[Problem]:
        if self.last_day < self.first_day:
            yield Problem(
                ("last_day",), f"{self.name or 'These days'} end before they start.", "Choose a later last day."
            )
        if not 0 <= self.factor_bp <= LARGEST_FACTOR_BP:
            yield Problem(("factor_bp",), "No day has so many orders.", "Choose from 0 to 100 times the usual.")


@dataclass(frozen=True)
class Volume:
    """base: orders a day where all else is 1. weekday: one a weekday from Monday. month: one a month from January.

    growth: more orders than the history had, as a share of them.
    """

    base: float
    weekday: tuple[float, ...] = AS_ANY
    month: tuple[float, ...] = ALL_YEAR
    named: tuple[NamedDays, ...] = ()
    growth: float = 0.0

    def shape_on(self, day: date) -> float:
        """How many times the base rate a day has, growth aside."""
        return self.weekday[day.weekday()] * self.month[day.month - 1] * factor_on(self.named, day)

    def on(self, day: date) -> float:
        """Expected orders of a day."""
        return self.base * self.shape_on(day) * (1 + self.growth)

    def times(self, factor: float) -> "Volume":
        """So many times the orders."""
        return replace(self, base=self.base * factor)

    def by_weekday(self, days: Iterable[date]) -> Floats:
        """Expected orders of some days, by weekday."""
        found = np.zeros(WEEKDAYS)
        for day in days:
            found[day.weekday()] += self.on(day)
        return found


def factor_on(named: Sequence[NamedDays], day: date) -> float:
    """What all the named days that a day is among come to."""
    factor = 1.0
    for one in named:
        if day in one:
            factor *= one.factor_bp / WHOLE_BP
    return factor


@dataclass(frozen=True, eq=False)
class Counted:
    """The orders of each day of a history. days: as ordinals, rising. orders: one entry a day."""

    days: Ints
    orders: Ints

    @cached_property
    def weekday(self) -> Ints:
        return (self.days - 1) % WEEKDAYS

    @property
    def tells_weekdays(self) -> bool:
        """Whether each weekday was counted often enough to be told from others."""
        return bool(np.bincount(self.weekday, minlength=WEEKDAYS).min() >= FEWEST_WEEKS)

    @property
    def days_of_month(self) -> Ints:
        """How many days of each month were counted, from January."""
        return np.bincount(self.month, minlength=MONTHS)

    @cached_property
    def month(self) -> Ints:
        return np.array([date.fromordinal(int(day)).month - 1 for day in self.days], dtype=np.int64)


def count_days(day_by_order: Ints, left_out: Sequence[tuple[date, date]] = ()) -> Counted:
    """From the first order's day to the last one's, days without orders included, those left out not.

    day_by_order: the ordinal of each order's day.
    """
    if not len(day_by_order):
        return Counted(np.zeros(0, dtype=np.int64), np.zeros(0, dtype=np.int64))
    first, last = int(day_by_order.min()), int(day_by_order.max())
    orders = np.bincount(day_by_order - first, minlength=last - first + 1)
    kept = np.ones(len(orders), dtype=np.bool_)
    for start, end in left_out:
        kept[max(start.toordinal() - first, 0) : max(end.toordinal() - first + 1, 0)] = False
    return Counted(np.arange(first, last + 1)[kept], orders[kept])


def measured(
    counted: Counted,
    named: tuple[NamedDays, ...] = (),
    weekday: tuple[float, ...] = (),
    month: tuple[float, ...] = (),
    growth: float = 0.0,
) -> Volume:
    """The volume that a history shows.

    weekday, month: what the merchant says days to come will be, in times an average day, in place of what was
    counted; the base rate stays that of the days counted, so that a changed month changes that month alone. Empty for
    what was counted.
    """
    usual = np.array([factor_on(named, date.fromordinal(int(day))) for day in counted.days])
    tells = counted.tells_weekdays
    of_weekday = _profile(counted.weekday, WEEKDAYS, counted.orders, usual, 1) if tells else AS_ANY
    shape = usual * np.array(of_weekday)[counted.weekday]
    of_month = _profile(counted.month, MONTHS, counted.orders, shape, FEWEST_DAYS)
    shape = shape * np.array(of_month)[counted.month]
    base = float(counted.orders.sum() / shape.sum()) if shape.sum() else 0.0
    return Volume(base, weekday or of_weekday, month or of_month, named, growth)


def _profile(number: Ints, size: int, orders: Ints, usual: Floats, fewest: int) -> tuple[float, ...]:
    """Orders a usual day of each kind has, mean 1 over the kinds seen on enough days; 1 for others."""
    days = np.bincount(number, minlength=size)
    weight = np.bincount(number, weights=usual, minlength=size)
    seen: Bools = (days >= fewest) & (weight > 0)
    rate = np.bincount(number, weights=orders, minlength=size) / np.where(seen, weight, 1)
    mean = rate[seen].mean() if seen.any() else 0.0
    if not mean:
        return (1.0,) * size
    return tuple(np.where(seen, rate / mean, 1.0).tolist())


Dates = NDArray[np.datetime64]
UNIX_ORDINAL = date(1970, 1, 1).toordinal()


def ordinals(moments: Dates) -> Ints:
    """The ordinal of each moment's day."""
    return moments.astype("datetime64[D]").astype(np.int64) + UNIX_ORDINAL
