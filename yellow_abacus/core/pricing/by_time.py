"""Carts of which it is not known when they come, once for each stretch of the week that offers tell apart.

Where no offer asks for weekdays or hours, a cart is one cart whenever it comes. docs/sums.md, "Branches".
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.clauses.when import MINUTES_A_DAY, WEEKDAYS
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.offers import Offer


@dataclass(frozen=True, eq=False)
class Times:
    """When orders come: shares by weekday, from Monday, and by minute of the day; each adds up to 1."""

    by_weekday: Floats
    by_minute: Floats


EVENLY = Times(np.full(WEEKDAYS, 1 / WEEKDAYS), np.full(MINUTES_A_DAY, 1 / MINUTES_A_DAY))


@dataclass(frozen=True, eq=False)
class ByTime:
    """Carts, their times known as far as offers ask. cart: which each one is. weekday, stretch: of those that were
    not known, UNKNOWN for others.

    starts: the first minute of each stretch of the day, of rising ones.
    """

    batch: CartBatch
    cart: Ints
    weekday: Ints
    stretch: Ints
    starts: tuple[int, ...]

    def shares(self, times: Times) -> Floats:
        """How likely each of them is its cart."""
        day = np.where(self.weekday == UNKNOWN, 1.0, times.by_weekday[self.weekday])
        by_stretch = np.add.reduceat(times.by_minute, self.starts)
        result: Floats = day * np.where(self.stretch == UNKNOWN, 1.0, by_stretch[self.stretch])
        return result


def asked_of_time(offers: Sequence[Offer]) -> tuple[bool, tuple[int, ...]]:
    """Whether offers ask for weekdays; and the first minutes of the stretches of the day they tell apart."""
    bounds = {0}
    for when in (offer.when for offer in offers):
        for minute in (when.from_minute, when.to_minute, when.first_minute, when.last_minute):
            bounds.add((minute or 0) % MINUTES_A_DAY)
    return any(offer.when.weekdays for offer in offers), tuple(sorted(bounds))


def by_time(batch: CartBatch, offers: Sequence[Offer]) -> ByTime | None:
    """The carts by the times that matter; None where these are known, or none do. Kept with the batch."""
    asks_weekday, starts = asked_of_time(offers)
    facts = batch.facts
    no_weekday = (facts.weekday_by_cart == UNKNOWN) & asks_weekday
    no_minute = (facts.minute_by_cart == UNKNOWN) & (len(starts) > 1)
    if not no_weekday.any() and not no_minute.any():
        return None
    return batch.kept(("by time", asks_weekday, starts), lambda: _by_time(batch, starts, no_weekday, no_minute))


def _by_time(batch: CartBatch, starts: tuple[int, ...], no_weekday: Bools, no_minute: Bools) -> ByTime:
    days, stretches = np.where(no_weekday, WEEKDAYS, 1), np.where(no_minute, len(starts), 1)
    copies = days * stretches
    cart = np.repeat(np.arange(len(copies)), copies)
    number = np.arange(len(cart)) - np.repeat(np.cumsum(copies) - copies, copies)
    weekday = np.where(no_weekday[cart], number // stretches[cart], UNKNOWN)
    stretch = np.where(no_minute[cart], number % stretches[cart], UNKNOWN)
    some = batch.some(cart)
    facts = replace(
        some.facts,
        weekday_by_cart=np.where(weekday == UNKNOWN, some.facts.weekday_by_cart, weekday),
        minute_by_cart=np.where(stretch == UNKNOWN, some.facts.minute_by_cart, np.array(starts)[stretch]),
    )
    return ByTime(replace(some, facts=facts), cart, weekday, stretch, starts)
