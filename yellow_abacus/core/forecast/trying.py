"""Carts with something added, priced under some offers; and what a try under nearly the same offers tells of them.

A try holds *entries*, by rising cart and then units: a cart may be there twice, with so many units added and with one
more. Its rows are numbered by entry. docs/sums.md, "Top-ups".

>>> added = Added(np.array([3, 5]), np.array([0, 0]), np.array([2, 1]))
>>> entries_with_one_more(added, np.array([False, True]))[1].units.tolist()
[2, 1, 2]
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import cast

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.forecast.adding import Added, with_added
from yellow_abacus.core.forecast.costed import Costed, end_to_end
from yellow_abacus.core.forecast.from_stock import Taking
from yellow_abacus.core.forecast.known_sets import at_most_one_apart
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.outlook import Bare, Outlook, costed_rows, other_day_of
from yellow_abacus.core.forecast.variants import apart, at_once, side_by_side
from yellow_abacus.core.ground.axes import run_begins
from yellow_abacus.core.ground.keeper import size_of
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.pricing import Apply
from yellow_abacus.core.pricing.reached import may_differ, reached
from yellow_abacus.core.pricing.rows import rows_of

MOST_LOOKED_AT = 4
"""So many tries, the newest, are looked at for one that still holds."""
NOT_THERE = -1
UNITS_BITS = 32
"""No cart holds so many units that they would need more (LARGEST_CART)."""


@dataclass(frozen=True, eq=False)
class Setup:
    """Carts of a mix under some offers. today: those that run today."""

    outlook: Outlook
    mix: Mix
    offers: tuple[Offer, ...]
    apply: Apply
    today: tuple[Offer, ...] = ()

    def key(self, *rest: object) -> tuple[object, ...]:
        """What tells it, and the carts' weights, from others."""
        parts, today = (tuple(one.priced_part for one in some) for some in (self.offers, self.today))
        return (self.mix.weights, self.mix.key, self.apply, today, parts, *rest)

    @property
    def as_today(self) -> Bare:
        return self.outlook.as_today(self.mix, self.today, self.apply).kept

    @property
    def other_day(self) -> "Setup | None":
        """The same on a day from which its carts can be told."""
        there = other_day_of(self.mix, (*self.offers, *self.today))
        return None if there is None else replace(self, mix=there.mix)

    def as_on_other_day(self, added: Added) -> Bools:
        """Which of what carts add comes to the same on the other day: neither they nor it cost something else."""
        there = self.mix.other_day
        assert there is not None, "it was asked for"
        goods = self.mix.batch.goods
        differs = goods.with_any("skus", there.skus)
        result: Bools = ~(there.otherwise[added.cart] | differs[added.sku])
        return result


@dataclass(frozen=True, eq=False)
class Try:
    """Entries, costed under some offers; rows are numbered by entry."""

    offers: tuple[Offer, ...]
    added: Added
    costed: Costed

    @property
    def kept_bytes(self) -> int:
        return size_of(self.added) + size_of(self.costed)


def entries_with_one_more(added: Added, again: Bools) -> tuple[Ints, Added]:
    """What carts add, and for some of them (`again`) one unit more as well: of each entry the place in `added`, and
    the entries."""
    of = np.repeat(np.arange(len(added.cart)), 1 + again)
    return of, Added(added.cart[of], added.sku[of], added.units[of] + ~run_begins(of))


def entries_in(added: Added, other: Added) -> Ints:
    """Where each of some entries is in others, NOT_THERE where it is not."""
    if not len(other.cart):
        return np.full(len(added.cart), NOT_THERE)
    mine, theirs = ((one.cart << UNITS_BITS) + one.units for one in (added, other))
    at = np.minimum(np.searchsorted(theirs, mine), len(theirs) - 1)
    return np.where((theirs[at] == mine) & (other.sku[at] == added.sku), at, NOT_THERE)


def tried(setup: Setup, added: Added, at: int) -> Costed:
    """Entries, costed, rows by entry. at: the offer something is added for."""
    ahead = cast(Try | None, setup.outlook.tries_ahead.known((*setup.key(), at)))
    if ahead is not None:
        where = entries_in(added, ahead.added)
        if (where != NOT_THERE).all():
            return _entries_of(ahead, where, np.arange(len(where)), range(len(setup.offers)))
    return _tried_now(setup, added, at)


def _tried_now(setup: Setup, added: Added, at: int) -> Costed:
    """By itself, but for what a try under nearly the same offers tells."""
    outlook, mix = setup.outlook, setup.mix
    batch = _added_to(outlook, mix, added)
    there = reached(setup.offers, outlook.shop, batch)
    known, where, source = _like(setup, added, batch, there)
    told, rest = np.flatnonzero(where != NOT_THERE), np.flatnonzero(where == NOT_THERE)
    parts = []
    if known is not None and len(told):
        parts.append(_entries_of(known, where[told], told, source))
    if len(rest) or not parts:
        some, here = batch.part(rest), there[:, rest]
        rows_there = rows_of(outlook.shop, some, setup.offers, here)
        kept_today = setup.as_today.kept_as_they_were(added.cart[rest], rows_there)
        found = costed_rows(outlook.shop, rows_there, setup.offers, setup.apply, here, kept_today)
        found = replace(found, cart_by_row=rest[found.cart_by_row])
        parts.append(replace(found, taking=found.taking.beside(_from_stock(found, added, mix))))
    costed = end_to_end(parts)
    if len(rest):
        outlook.tries.put(setup.key(at, added.cart.tobytes()), Try(setup.offers, added, costed))
    return costed


def _entries_of(one: Try, where: Ints, entries: Ints, source: Sequence[int | None]) -> Costed:
    """Some entries of a try. where: which of its own; entries: their numbers. source: as in `Costed.some`."""
    number = np.full(len(one.added.cart), NOT_THERE)
    number[where] = entries
    by_row = number[one.costed.cart_by_row]
    rows = np.flatnonzero(by_row != NOT_THERE)
    return replace(one.costed.some(rows, source), cart_by_row=by_row[rows])


def priced_together(tries: Sequence[tuple[Setup, Added]], at: int) -> Iterator[Try]:
    """Each of them costed, under its own setup. at: the offer in which setups differ."""
    lines = max((int(setup.mix.batch.axes.lines_by_cart[added.cart].sum()) for setup, added in tries), default=1)
    for some in at_once(len(tries), lines):
        here = tries[some]
        setup = here[0][0]
        carts, skus, units = (
            np.concatenate([getattr(added, name) for _, added in here]) for name in ("cart", "sku", "units")
        )
        batch = with_added(setup.mix.batch.some(carts), Added(np.arange(len(carts)), skus, units))
        sizes = [len(added.cart) for _, added in here]
        parts = map(batch.part, np.split(np.arange(len(carts)), np.cumsum(sizes)[:-1]))
        reaches = [reached(own.offers, setup.outlook.shop, part) for (own, _), part in zip(here, parts, strict=True)]
        offers, there = side_by_side([own.offers for own, _ in here], at, reaches)
        rows = rows_of(setup.outlook.shop, batch, offers, there)
        kept_today = setup.as_today.kept_as_they_were(carts, rows)
        costed = costed_rows(setup.outlook.shop, rows, offers, setup.apply, there, kept_today)
        for (own, added), copy in zip(here, apart(costed, at, len(setup.offers), sizes), strict=True):
            yield Try(
                own.offers, added, replace(copy, taking=copy.taking.beside(_from_stock(copy, added, setup.mix)))
            )


def _from_stock(found: Costed, added: Added, mix: Mix) -> Taking:
    """What is added to carts of goods whose stock is known, by row. found: rows by entry."""
    sku, units = added.sku[found.cart_by_row], added.units[found.cart_by_row]
    row = np.flatnonzero(mix.batch.goods.stock[sku] >= 0)
    return Taking(row, sku[row], units[row].astype(np.float64))


def _added_to(outlook: Outlook, mix: Mix, added: Added) -> CartBatch:
    """The carts with what is added, kept: a changed number seldom changes what that is."""
    key = ("added", mix.key, *(one.tobytes() for one in (added.cart, added.sku, added.units)))
    own = Added(np.arange(len(added.cart)), added.sku, added.units)
    return outlook.tries_on.get(key, lambda: with_added(mix.batch.some(added.cart), own))


def _like(
    setup: Setup, added: Added, batch: CartBatch, there: Bools
) -> tuple[Try | None, Ints, tuple[int | None, ...]]:
    """A try with offers that differ in one alone, and where in it each entry is for which it holds. there: what the
    offers reach. Each offer's number there, as in `Sums.with_offers`."""
    best: tuple[Try | None, Ints, tuple[int | None, ...]] = (None, np.full(len(added.cart), NOT_THERE), ())
    looked_at, mine = 0, setup.key()[1:4]
    for key, found in setup.outlook.tries.newest_first():
        one = cast(Try, found)
        if looked_at == MOST_LOOKED_AT:
            break
        if cast(tuple[object, ...], key)[1:4] != mine:
            continue
        differs = at_most_one_apart(one.offers, setup.offers)
        if differs is None:
            continue
        looked_at += 1
        here, was, source = differs
        differs_on = may_differ(setup.outlook.shop, batch, setup.offers, there, here, one.offers, was, exactly=True)
        where = np.where(differs_on, NOT_THERE, entries_in(added, one.added))
        if (where != NOT_THERE).sum() > (best[1] != NOT_THERE).sum():
            best = one, where, source
    return best
