"""How many top up to the value from which the shop's own delivery is free: a threshold that is always there.

Days on which delivery was known to be free from another value are left out. docs/sums.md, "What history says".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.offers import DeliveryReward
from yellow_abacus.learning.bunching import TopUps, top_ups
from yellow_abacus.learning.free_spells import FreeSpell
from yellow_abacus.learning.ran import Past, Ran


@dataclass(frozen=True, eq=False)
class FreeStanding:
    """zones: by index, rising. free_from: minor units. orders: of its days, those that came to it; days: on which
    nothing else was known to hold. top_ups: None where too few orders lie around it."""

    zones: tuple[int, ...]
    free_from: int
    orders: int
    days: int
    top_ups: TopUps | None


def free_standing(past: Past, ran: Sequence[Ran], spells: Sequence[FreeSpell]) -> Iterator[FreeStanding]:
    """Of each value from which delivery is free, by rising value. ran, spells: what else made it free."""
    counted = _what_counts(past)
    for free_from, zones in _values(past) if past.days else ():
        here = np.isin(past.batch.zone_by_cart, zones) & ~_otherwise(past, ran, spells, zones)
        values = counted[here]
        found = top_ups(free_from, values, values[:0])
        days = len(np.unique(past.day_by_cart[here]))
        yield FreeStanding(zones, free_from, int((values >= free_from).sum()), days, found)


def many_values(past: Past) -> int:
    """From how many values delivery is free."""
    return len(_values(past)) if past.days else 0


def _values(past: Past) -> list[tuple[int, tuple[int, ...]]]:
    found: dict[int, set[int]] = {}
    for number, zone in enumerate(past.shop.zones):
        for option in zone.options:
            if option.free_from:
                found.setdefault(option.free_from, set()).add(number)
    return [(value, tuple(sorted(zones))) for value, zones in sorted(found.items())]


def _what_counts(past: Past) -> Ints:
    """What each order's goods came to, as it counts for delivery, minor units."""
    if past.shop.settings.delivery_from == "standing":
        return past.batch.worth_by_cart
    return np.rint(past.net_by_cart).astype(np.int64)


def _otherwise(past: Past, ran: Sequence[Ran], spells: Sequence[FreeSpell], zones: tuple[int, ...]) -> Bools:
    """Orders of days on which an offer lowered delivery, or it was found free from another value."""
    day = past.day_by_cart
    found = np.zeros(len(day), dtype=np.bool_)
    for one in ran:
        if any(isinstance(reward, DeliveryReward) for reward in one.offer.rewards()):
            found |= one.on_its_days
    for spell in spells:
        if set(spell.zones) & set(zones):
            found |= (spell.first_day <= day) & (day <= spell.last_day)
    return found
