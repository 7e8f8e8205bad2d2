"""When an offer is open: from a first to a last moment, on weekdays, at hours, all on the shop's own clock."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN, Facts
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.ground.shape import CLOSED

WEEKDAYS = 7
MINUTES_A_DAY = 24 * 60
ENDS_EARLY = "The offer ends before it starts."


@dataclass(frozen=True)
class When:
    """first_day, last_day: both included; None leaves that end to the plan.

    first_minute, last_minute: from which minute of the first day on, and up to which of the last (not included); None
    for the whole day. weekdays: 0 is Monday; none named is every day. from_minute, to_minute: hours of every day, the
    last minute not included; None for all hours. Hours across midnight belong to the day they start.
    """

    first_day: date | None = None
    last_day: date | None = None
    first_minute: int | None = None
    last_minute: int | None = None
    weekdays: tuple[int, ...] = ()
    from_minute: int | None = None
    to_minute: int | None = None

    __pydantic_config__ = CLOSED

    @property
    def _crosses_midnight(self) -> bool:
        return self.from_minute is not None and self.to_minute is not None and self.from_minute > self.to_minute

    def on_day(self, day: date) -> "When | None":
        """The clause as it holds on this one day; None if it is closed all day.

        In the result the days are None, and its first and last minute bound that day.
        """
        if (self.first_day is not None and day < self.first_day) or (
            self.last_day is not None and day > self.last_day
        ):
            return None
        return replace(
            self,
            first_day=None,
            last_day=None,
            first_minute=self.first_minute if day == self.first_day else None,
            last_minute=self.last_minute if day == self.last_day else None,
        )

    def open_at(self, moment: datetime) -> bool:
        """Whether the moment's day, and on the first and last one its minute, is among the offer's."""
        early = self._crosses_midnight and _minute(moment) < (self.to_minute or 0)
        day = moment.date() - timedelta(days=1 if early else 0)
        settled = self.on_day(day)
        if settled is None:
            return False
        minute = np.array([_minute(moment) + (MINUTES_A_DAY if early else 0)], dtype=np.int64)
        return bool(settled._within_moments(minute)[0])

    def passes(self, facts: Facts) -> Bools:
        """Whether each cart came on one of the weekdays and within the hours."""
        weekday, minute = facts.weekday_by_cart, facts.minute_by_cart
        result = np.ones(len(weekday), dtype=np.bool_)
        if self.from_minute is not None and self.to_minute is not None:
            if self._crosses_midnight:
                early = minute < self.to_minute
                result &= (minute >= self.from_minute) | early
                weekday = np.where(early & (weekday != UNKNOWN), (weekday - 1) % 7, weekday)
                minute = np.where(early, minute + MINUTES_A_DAY, minute)
            else:
                result &= (minute >= self.from_minute) & (minute < self.to_minute)
            result &= facts.minute_by_cart != UNKNOWN
        if self.weekdays:
            result &= np.isin(weekday, self.weekdays)
        if self.first_day is None and self.last_day is None:
            result &= self._within_moments(minute)
        return result

    def _within_moments(self, minute: Ints) -> Bools:
        """minute: of the day the cart belongs to; 1440 and more for hours after its midnight."""
        result = np.ones(len(minute), dtype=np.bool_)
        if self.first_minute is not None:
            result &= minute >= self.first_minute
        if self.last_minute is not None:
            result &= (minute < self.last_minute) & (minute != UNKNOWN)
        return result

    def problems(self) -> Iterator[Problem]:
        first, last = self.first_day, self.last_day
        if first and last and last < first:
            yield Problem(
                ("last_day",), "The offer ends before it starts.", "Choose a last day on or after the first."
            )
        for field, what, minute in (
            ("first_minute", "first", self.first_minute),
            ("last_minute", "last", self.last_minute),
        ):
            if minute is not None and getattr(self, f"{what}_day") is None:
                yield Problem((field,), f"There is a time for the {what} day and no {what} day.", "Choose the day.")
        ends = MINUTES_A_DAY if self.last_minute is None else self.last_minute
        if first is not None and first == last and ends <= (self.first_minute or 0):
            yield Problem(("last_minute",), ENDS_EARLY, "Choose a later time.")
        for field in ("first_minute", "last_minute", "from_minute", "to_minute"):
            minute = getattr(self, field)
            if minute is not None and not 0 <= minute <= MINUTES_A_DAY:
                yield Problem((field,), "There is no such time of day.", "Choose a time from 0:00 to 24:00.")
        if (self.from_minute is None) != (self.to_minute is None):
            yield Problem(("from_minute",), "The hours have one end only.", "Give a time for both ends.")
        elif self.from_minute is not None and self.from_minute == self.to_minute:
            yield Problem(("to_minute",), "The hours end when they start.", "Choose another time.")
        if len(set(self.weekdays)) < len(self.weekdays) or any(not 0 <= day <= 6 for day in self.weekdays):
            yield Problem(("weekdays",), "These are not weekdays.", "Name each once, 0 for Monday to 6 for Sunday.")


def _minute(moment: datetime) -> int:
    return moment.hour * 60 + moment.minute
