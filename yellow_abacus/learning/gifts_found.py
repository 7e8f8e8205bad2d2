"""Gifts that orders tell of, and nobody told the shop: goods with a price that nothing was paid for.

A SKU that orders got free again and again, with no long pause between, is one gift; SKUs of which orders of the same
days got one each may be a gift to choose. What it was given for is told from those that got it and those of the same
days that did not. docs/sums.md, "What history says".
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.ground.axes import among
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.ground.stopping import go_on
from yellow_abacus.learning.from_value import from_value
from yellow_abacus.learning.ran import Past

FEWEST_ORDERS = 5
"""A gift is told of by so many orders."""
LONGEST_PAUSE = 21
"""Days without an order that got it, within one gift."""
MOST_LOOKED_AT = 20
"""So many times a SKU was given, those of most orders, are looked at."""
MOSTLY = 0.9
"""So many of those that should be alike are."""

GivenFor = Literal["value", "goods", "every_order", "untold"]


@dataclass(frozen=True)
class FoundGift:
    """skus: by index, the one orders got most first. units: as most orders got. code: that orders which got it used,
    empty for none. first_day, last_day: ordinals, of the first and last order that got it.

    given_for: every_order of those days, or with that code; value: goods from so many minor units; goods: a SKU, by
    index; untold where orders tell none of these. at: the value or the SKU, 0 for others.
    """

    skus: tuple[int, ...]
    units: int
    code: str
    first_day: int
    last_day: int
    orders: int
    given_for: GivenFor
    at: int


@dataclass(frozen=True, eq=False)
class _Spell:
    """carts: those that got one of the SKUs, by rising index. units: of it in each."""

    skus: tuple[int, ...]
    carts: Ints
    units: Ints
    first_day: int
    last_day: int

    def alike(self, other: "_Spell") -> bool:
        """Whether both were given over the same time, but for a few days, and to different orders."""
        overlap = min(self.last_day, other.last_day) - max(self.first_day, other.first_day) + 1
        longest = max(self.last_day - self.first_day, other.last_day - other.first_day) + 1
        both = len(np.intersect1d(self.carts, other.carts, assume_unique=True))
        return 2 * overlap > longest and both <= (1 - MOSTLY) * min(len(self.carts), len(other.carts))

    def beside(self, other: "_Spell") -> "_Spell":
        carts, units = np.append(self.carts, other.carts), np.append(self.units, other.units)
        carts, first = np.unique(carts, return_index=True)
        days = min(self.first_day, other.first_day), max(self.last_day, other.last_day)
        return _Spell((*self.skus, *other.skus), carts, units[first], *days)


def gifts_found(past: Past) -> list[FoundGift]:
    """Gifts that no offer told of explains, those of most orders first."""
    spells = sorted(_spells(past), key=lambda one: -len(one.carts))[:MOST_LOOKED_AT]
    found: list[FoundGift] = []
    done: set[int] = set()
    for at, first in enumerate(spells):
        if at in done:
            continue
        told, whole, others = _told(past, first), first, list[int]()
        if told.given_for == "untold":
            others = [
                other
                for other in range(at + 1, len(spells))
                if other not in done and first.alike(spells[other]) and first.skus != spells[other].skus
            ]
        for other in others:
            whole = whole.beside(spells[other])
        together = _told(past, whole) if others else told
        if together.given_for != "untold":
            found.append(together)
        else:
            found += [told, *(_told(past, spells[other]) for other in others)]
        done |= set(others)
    return sorted(found, key=lambda one: (-one.orders, one.first_day, one.skus))


def _spells(past: Past) -> Iterator[_Spell]:
    raw = past.batch.raw
    if past.free_by_line is None or raw is None:
        return
    free = raw.some(np.flatnonzero(past.free_by_line))
    by_sku = np.argsort(free.sku, kind="stable")
    for lines in np.split(by_sku, np.flatnonzero(np.diff(free.sku[by_sku])) + 1):
        if len(lines) < FEWEST_ORDERS:
            continue
        carts, at = np.unique(free.cart[lines], return_inverse=True)
        units = np.bincount(at, weights=free.quantity[lines]).astype(np.int64)
        by_day = np.argsort(past.day_by_cart[carts], kind="stable")
        pauses = np.flatnonzero(np.diff(past.day_by_cart[carts[by_day]]) > LONGEST_PAUSE) + 1
        for one in np.split(by_day, pauses):
            if len(one) >= FEWEST_ORDERS:
                which, days = np.sort(one), past.day_by_cart[carts[one]]
                sku = int(free.sku[lines[0]])
                yield _Spell((sku,), carts[which], units[which], int(days[0]), int(days[-1]))


def _told(past: Past, spell: _Spell) -> FoundGift:
    go_on()
    days, code = past.day_by_cart, _code_of(past, spell.carts)
    held_against = (days >= spell.first_day) & (days <= spell.last_day)
    if code != UNKNOWN:
        held_against &= past.batch.facts.code.number_by_cart == code
    given_for, at = _given_for(past, spell, held_against)
    return FoundGift(
        spell.skus,
        int(np.bincount(spell.units).argmax()),
        past.batch.facts.code.names[code] if code != UNKNOWN else "",
        spell.first_day,
        spell.last_day,
        len(spell.carts),
        given_for,
        at,
    )


def _code_of(past: Past, carts: Ints) -> int:
    """The code that nearly all orders used, as the facts number it."""
    numbers, times = np.unique(past.batch.facts.code.number_by_cart[carts], return_counts=True)
    most = int(times.argmax())
    return int(numbers[most]) if times[most] >= MOSTLY * len(carts) else UNKNOWN


def _given_for(past: Past, spell: _Spell, held_against: Bools) -> tuple[GivenFor, int]:
    got = among(spell.carts, len(held_against))
    orders = np.flatnonzero(held_against | got)
    value = from_value(past.net_by_cart[orders], got[orders])
    if value is not None and (past.net_by_cart[spell.carts] >= value).mean() >= MOSTLY:
        return "value", value
    sku = _given_with(past, spell, got, held_against)
    if sku is not None:
        return "goods", sku
    return ("every_order", 0) if got[orders].mean() >= MOSTLY else ("untold", 0)


def _given_with(past: Past, spell: _Spell, got: Bools, held_against: Bools) -> int | None:
    """The SKU that nearly all orders which got it hold, and few others: the one the fewest others do."""
    batch, skus = past.batch, len(past.batch.goods.skus)
    cart = batch.axes.cart_by_line
    all_that_hold = np.bincount(batch.sku_by_line[(got | held_against)[cart]], minlength=skus)
    that_got = np.bincount(batch.sku_by_line[got[cart]], minlength=skus)
    good = (that_got >= MOSTLY * got.sum()) & (that_got >= MOSTLY * all_that_hold)
    good[list(spell.skus)] = False
    found = np.flatnonzero(good)
    return None if not len(found) else int(found[np.argmin(all_that_hold[found] - that_got[found])])
