"""Spells of lower prices that orders tell of, and nobody told the shop: which goods, when, and by how much.

On each day goods are taken at the most anybody was asked for them, since prices from a quantity on and prices of a
group lower what some are asked, a spell what all are. A spell lies between days at a higher price, before and after.
docs/sums.md, "What history says".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.axes import among, run_begins
from yellow_abacus.core.ground.money import Ints
from yellow_abacus.learning.ran import Past, Ran

LEAST_OFF = 0.05
"""A price is lower where it is by so much or more."""
MOST_DAYS = 62
"""What is lower for longer is another price."""
FEWEST_ORDERS, FEWEST_DAYS = 5, 2
"""A spell is told of by so many orders, and on so many days."""
ALIKE = 0.03
"""Goods of one spell are lower by shares that differ by no more."""
MOST_LOWER, MOST_LOOKED_AT = 1_500, 200
"""So many times that goods cost less are put together, and so many spells of them looked at, those of most lines."""
MOST_OF = 0.5
"""Goods are called a category, or everything, where so many of those sold then are meant."""


@dataclass(frozen=True)
class Spell:
    """Goods that cost less for some days. skus: by index, rising. category: that holds them and of which they are
    most, empty for none; everything: whether they are most of all that was sold then. first_day, last_day: ordinals,
    of the first and last order at the lower price. off: of the usual price, on average over lines."""

    skus: tuple[int, ...]
    category: str
    everything: bool
    first_day: int
    last_day: int
    orders: int
    off: float


@dataclass(frozen=True)
class _Lower:
    """Some days on which one SKU cost less. It began after `after`, the last day at the usual price, and ended before
    `before`, the first one again; ordinals."""

    skus: frozenset[int]
    after: int
    first: int
    last: int
    before: int
    lines: int
    off: float

    def together(self, other: "_Lower") -> "_Lower | None":
        """Both as one spell, if that can be: it could have begun and ended on the same days, and is as deep."""
        after, first = max(self.after, other.after), min(self.first, other.first)
        last, before = max(self.last, other.last), min(self.before, other.before)
        if after >= first or last >= before or abs(self.off - other.off) > ALIKE:
            return None
        lines = self.lines + other.lines
        off = (self.off * self.lines + other.off * other.lines) / lines
        return _Lower(self.skus | other.skus, after, first, last, before, lines, off)


def spells_found(past: Past, ran: Sequence[Ran]) -> list[Spell]:
    """Spells that no offer told of explains, those of most orders first. ran: the offers told."""
    joined: list[_Lower] = []
    for one in sorted(_lower(past), key=lambda one: (one.first, one.after, min(one.skus))):
        both = ((at, found) for at, other in enumerate(joined) if (found := other.together(one)) is not None)
        at, found = next(both, (None, one))
        if at is None:
            joined.append(found)
        else:
            joined[at] = found
    known = _Lines.of(past)
    most = sorted(joined, key=lambda one: -one.lines)[:MOST_LOOKED_AT]
    spells = [spell for one in most if (spell := known.spell(one)) is not None]
    unknown = [spell for spell in spells if not any(_explains(one, spell, past.batch.goods) for one in ran)]
    return sorted(unknown, key=lambda one: (-one.orders, one.first_day, one.skus))


def _lower(past: Past) -> list[_Lower]:
    """Every time a SKU cost less than before and after; those of most lines where they are very many."""
    sku, day, price, lines = _by_day(past)
    first = np.flatnonzero(run_begins(sku, price))
    if len(first) < 3:
        return []
    last = np.append(first[1:], len(sku)) - 1
    begins, ends, of, at = day[first], day[last], sku[first], price[first]
    usual = np.minimum(at[:-2], at[2:])
    off = 1 - at[1:-1] / np.maximum(usual, 1)
    same = (of[:-2] == of[1:-1]) & (of[2:] == of[1:-1])
    number = np.add.reduceat(lines, first)[1:-1]
    found = np.flatnonzero(same & (off >= LEAST_OFF) & (ends[1:-1] - begins[1:-1] < MOST_DAYS))
    found = found[np.argsort(-number[found], kind="stable")][:MOST_LOWER]
    return [
        _Lower(
            skus=frozenset([int(of[one + 1])]),
            after=int(ends[one]),
            first=int(begins[one + 1]),
            last=int(ends[one + 1]),
            before=int(begins[one + 2]),
            lines=int(number[one]),
            off=float(off[one]),
        )
        for one in found.tolist()
    ]


def _by_day(past: Past) -> tuple[Ints, Ints, Ints, Ints]:
    """Of each SKU and each day it was ordered on, in that order: the most it was asked for, and in how many lines."""
    batch = past.batch
    day, sku, asked = past.day_by_cart[batch.axes.cart_by_line], batch.sku_by_line, batch.standing_by_line
    order = np.lexsort((day, sku))
    sku, day, asked = sku[order], day[order], asked[order]
    first = np.flatnonzero(run_begins(sku, day))
    most = np.maximum.reduceat(asked, first) if len(first) else asked
    return sku[first], day[first], most, np.diff(np.append(first, len(sku)))


@dataclass(frozen=True, eq=False)
class _Lines:
    """The lines of a history by rising day."""

    goods: Goods
    day: Ints
    sku: Ints
    cart: Ints

    @staticmethod
    def of(past: Past) -> "_Lines":
        batch = past.batch
        day = past.day_by_cart[batch.axes.cart_by_line]
        order = np.argsort(day, kind="stable")
        return _Lines(batch.goods, day[order], batch.sku_by_line[order], batch.axes.cart_by_line[order])

    def spell(self, one: _Lower) -> Spell | None:
        """None where too few orders tell of it."""
        then = slice(*np.searchsorted(self.day, (one.first, one.last + 1)))
        mine = among(sorted(one.skus), len(self.goods.skus))[self.sku[then]]
        orders, days = len(np.unique(self.cart[then][mine])), len(np.unique(self.day[then][mine]))
        if orders < FEWEST_ORDERS or days < FEWEST_DAYS:
            return None
        skus, sold = tuple(sorted(one.skus)), np.unique(self.sku[then])
        everything = len(skus) >= MOST_OF * len(sold) and len(skus) > 1
        category = "" if everything else _category(self.goods, skus, sold)
        return Spell(skus, category, everything, one.first, one.last, orders, one.off)


def _category(goods: Goods, skus: tuple[int, ...], sold: Ints) -> str:
    """The smallest category that holds all of them, and of whose goods sold then they are most."""
    if len(skus) == 1:
        return ""
    holds = goods.in_category[:, list(skus)].all(axis=1)
    of_sold = goods.in_category[:, sold].sum(axis=1)
    fits = np.flatnonzero(holds & (len(skus) >= MOST_OF * of_sold))
    return goods.categories[fits[np.argmin(of_sold[fits])]] if len(fits) else ""


def _explains(ran: Ran, spell: Spell, goods: Goods) -> bool:
    """Whether an offer without a code ran then, on such goods."""
    if ran.offer.given.key is not None or ran.first_day > spell.last_day or ran.last_day < spell.first_day:
        return False
    return bool(ran.offer.on.holds(goods)[list(spell.skus)].any())
