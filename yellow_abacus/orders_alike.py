"""Orders that went one way: to one zone, by one option as they name it; and those of late among them."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import TypeVar

import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.delivery.zones import Delivery
from yellow_abacus.core.ground.money import Floats, Ints
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.store.loading import LoadedShop

FEWEST_ORDERS = 10
"""Something is told of a way that so many orders went."""
OF_LATE = (90, 30, 14)
"""The last days whose orders tell it, where so many came; the fewer where those clearly tell something else, as after
a change."""
CHANGED, CLEARLY = 0.03, 3.0
"""What orders cost is clearly something else where it is so much more or less than told, and so many times the error
of that."""
Found = TypeVar("Found")


def alike(loaded: LoadedShop, carts: Ints) -> Iterator[tuple[int, str, Ints]]:
    """Those of some carts, by index, that go to one zone and name one option, or none."""
    zones, option = loaded.batch.zone_by_cart[carts], loaded.batch.facts.option.some(carts).together()
    for zone in np.unique(zones).tolist():
        for number in np.unique(option.number_by_cart[zones == zone]).tolist():
            name = "" if number == UNKNOWN else option.names[number]
            yield zone, name, carts[(zones == zone) & (option.number_by_cart == number)]


def last_days(day: Ints, carts: Ints) -> Iterator[tuple[int | None, Ints]]:
    """The last days, the most first, and which of some carts are of those, where so many are; all where too few are
    of any. day: by cart of the history, ordinals."""
    too_few = True
    for days in OF_LATE:
        some = carts[day[carts] > day.max() - days]
        if len(some) >= FEWEST_ORDERS:
            too_few = False
            yield days, some
    if too_few:
        yield None, carts


def of_late(
    day: Ints,
    carts: Ints,
    cost: Ints,
    find: Callable[[Ints], Found],
    told: Callable[[Found, Ints], Floats],
) -> tuple[int | None, Ints, Found]:
    """The last days by which it goes, which of some carts are of those, and what is found of them: of fewer days
    where those clearly cost something else than more tell.

    day, cost: by cart of the history. told: what is found tells of some carts, one by one.
    """
    last = last_days(day, carts)
    days, some = next(last)
    found = find(some)
    for fewer, late in last:
        if _is_otherwise(told(found, late), cost[late]):
            days, some, found = fewer, late, find(late)
    return days, some, found


def _is_otherwise(told: Floats, cost: Ints) -> bool:
    more = cost - told
    return bool(abs(more.mean()) >= max(CHANGED * told.mean(), CLEARLY * more.std() / np.sqrt(len(more))))


@dataclass(frozen=True)
class Beside:
    """What some orders came to, and what it is as set, minor units."""

    orders: int
    told: float
    as_set: float

    @property
    def more(self) -> float:
        """The share by which it is more than set; below 0 where it is less."""
        return (self.told - self.as_set) / max(self.told, self.as_set, 1.0)


@dataclass(frozen=True, eq=False)
class BesideSet:
    """A figure that orders tell, beside what is set. day: by cart of the history, ordinals. tells: which carts tell
    it; both: of some of those, part by part, but for what nothing is set for."""

    day: Ints
    tells: Ints
    both: Callable[[Ints], Iterable[Beside]]

    @property
    def more_of_late(self) -> float:
        """The share by which it is more than set, of orders of late; below 0 where it is less, 0 where too few
        tell."""
        if len(self.tells) < FEWEST_ORDERS:
            return 0.0
        _, late = next(last_days(self.day, self.tells))
        return self._together(late).more

    def of(self, carts: Ints) -> Beside:
        """Those of some carts that tell it, together."""
        return self._together(np.intersect1d(self.tells, carts))

    def _together(self, carts: Ints) -> Beside:
        parts = [*self.both(carts)]
        return Beside(
            sum(one.orders for one in parts), sum(one.told for one in parts), sum(one.as_set for one in parts)
        )


def meant(delivery: Delivery, zone: int, option: str) -> list[int]:
    """The numbers of the shop's options that orders may mean: of that name, or all of the zone where they name
    none."""
    every = [(number, one.name) for number, (at, one) in enumerate(delivery.options) if at == zone]
    return [number for number, name in every if not option or folded(name) == folded(option)]
