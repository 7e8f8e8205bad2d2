"""Spells of days on which orders were delivered free from a lower value than usual, and nobody told the shop.

Orders of one zone are taken that tell what was paid for delivery and used no code, those that pay from some value on
and those that do not. Where all from a lower value on were free for some days, with some that paid before and after,
a lower value held then. docs/sums.md, "What history says".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.ground.axes import run_begins
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.offers import DeliveryLoweredTo
from yellow_abacus.learning.from_value import from_value, roundest
from yellow_abacus.learning.ran import Past, Ran

FEWEST_ORDERS, FEWEST_DAYS = 5, 2
"""A spell is told of by so many orders, and on so many days."""
MOST_DAYS = 62
"""What is free for longer is another value from which delivery is free."""
LEAST_LOWER = 0.05
"""The value is lower by so much of the usual one, or more."""
TRIED = 24
"""So many lower values are tried in each zone."""


@dataclass(frozen=True)
class FreeSpell:
    """zones: by index, rising. free_from: minor units; usual: of the first of the zones. first_day, last_day:
    ordinals, of the first and last order that was free for it."""

    zones: tuple[int, ...]
    free_from: int
    usual: int
    first_day: int
    last_day: int
    orders: int


@dataclass(frozen=True, eq=False)
class _Orders:
    """Of one zone, by rising day: what their goods came to, minor units, and whether they were delivered free."""

    day: Ints
    worth: Floats
    free: Bools

    def some(self, which: Bools) -> "_Orders":
        return _Orders(self.day[which], self.worth[which], self.free[which])


def free_spells(past: Past, ran: Sequence[Ran]) -> list[FreeSpell]:
    """Spells that no offer told of explains, those of most orders first. ran: the offers told."""
    paid = past.delivery_paid
    if paid is None:
        return []
    tells = (paid >= 0) & (past.batch.facts.code.number_by_cart == UNKNOWN)
    found = []
    for zone in range(len(past.shop.zones)):
        here = np.flatnonzero(tells & (past.batch.zone_by_cart == zone))
        here = here[np.argsort(past.day_by_cart[here], kind="stable")]
        orders = _Orders(past.day_by_cart[here], past.net_by_cart[here], paid[here] == 0)
        found += [replace(one, zones=(zone,)) for one in _of_zone(orders)]
    unknown = [one for one in _joined(found) if not any(_explains(told, one) for told in ran)]
    return sorted(unknown, key=lambda one: (-one.orders, one.first_day, one.zones))


def _of_zone(orders: _Orders) -> Iterator[FreeSpell]:
    usual = from_value(orders.worth, orders.free)
    if usual is None:
        return
    below = orders.some(orders.worth < usual)
    tried = np.unique(np.quantile(below.worth[below.free], np.linspace(0, 1, TRIED))) if below.free.any() else ()
    taken = np.zeros(len(below.day), dtype=np.bool_)
    every = [one for value in tried for one in _runs(below, float(value))]
    for first, last, which in sorted(every, key=lambda one: -len(one[2])):
        if taken[first : last + 1].any():
            continue
        taken[first : last + 1] = True
        then = slice(first, last + 1)
        paying = below.worth[then][~below.free[then]]
        least, most = float(below.worth[which].min()), float(paying.max(initial=0.0))
        days = below.day[which]
        free_from = roundest(most, least)
        if free_from <= usual * (1 - LEAST_LOWER):
            yield FreeSpell((), free_from, usual, int(days[0]), int(days[-1]), len(which))


def _runs(below: _Orders, value: float) -> Iterator[tuple[int, int, Ints]]:
    """Times at which all orders from a value on were free, between some that were not: the first and last of them
    among the orders, and which they are."""
    mine = np.flatnonzero(below.worth >= value)
    if not len(mine):
        return
    begins = np.flatnonzero(run_begins(below.free[mine].astype(np.int64)))
    ends = np.append(begins[1:], len(mine))
    for start, end in zip(begins[1:-1].tolist(), ends[1:-1].tolist(), strict=True):
        which = mine[start:end]
        days = below.day[which]
        lasts = len(np.unique(days)) >= FEWEST_DAYS and days[-1] - days[0] < MOST_DAYS
        if below.free[which[0]] and len(which) >= FEWEST_ORDERS and lasts:
            yield int(which[0]), int(which[-1]), which


def _joined(found: Sequence[FreeSpell]) -> list[FreeSpell]:
    """Zones with the same value over the same time, but for a few days, together."""
    joined: list[FreeSpell] = []
    for one in found:
        at = next((at for at, other in enumerate(joined) if _alike(one, other)), None)
        if at is None:
            joined.append(one)
            continue
        other = joined[at]
        joined[at] = replace(
            other,
            zones=(*other.zones, *one.zones),
            first_day=min(one.first_day, other.first_day),
            last_day=max(one.last_day, other.last_day),
            orders=one.orders + other.orders,
        )
    return joined


def _alike(one: FreeSpell, other: FreeSpell) -> bool:
    overlap = min(one.last_day, other.last_day) - max(one.first_day, other.first_day) + 1
    longest = max(one.last_day - one.first_day, other.last_day - other.first_day) + 1
    return one.free_from == other.free_from and 2 * overlap > longest


def _explains(ran: Ran, spell: FreeSpell) -> bool:
    """Whether an offer of free delivery without a code ran then."""
    if ran.offer.given.key is not None or ran.first_day > spell.last_day or ran.last_day < spell.first_day:
        return False
    return any(isinstance(one, DeliveryLoweredTo) and one.amount == 0 for one in ran.offer.rewards())
