"""Rows of sets of offers as they were found, and which of them serve a set that is nearly the same.

What a cart comes to depends on the cart and the offers that reach it alone. So rows of a set serve another that
differs in one offer, but for the carts that offer reaches; those of carts before a price was saved, but for the carts
it matters to; and those while there is enough of everything, but for the carts from which something is missing.
docs/sums.md, "Groups and sums".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import cast

import numpy as np

from yellow_abacus.core.forecast.costed import Costed
from yellow_abacus.core.forecast.former import Former, Key, KnownSet
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.sketched import is_sketched
from yellow_abacus.core.ground.keeper import Keeper, size_of
from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Offer, PricedPart
from yellow_abacus.core.pricing.pricing import Apply
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.shop.shop import Shop

SETS_KEPT, SETS_HANDED_ON = 24, 2
MOSTLY = 0.8
"""Where a changed offer reaches this share of what a set reaches, all of the set is priced anew."""
TO_PUT_TOGETHER = 0.1
"""How much work it is to put a set together of which only the changed rows are kept, as a share of pricing it."""

Offers = tuple[Offer, ...]


@dataclass(frozen=True, eq=False)
class Wanted:
    """A set of offers over a mix branched for them and for those of today. reaches: which carts each offer does;
    touched: those that any does, or any of today's. enough: as in `Mix`, branched alike.
    """

    mix: Mix
    offers: Offers
    apply: Apply
    today: Offers
    reaches: Bools
    touched: Bools
    enough: Mix | None

    @property
    def key(self) -> Key:
        return key_of(self.mix, self.offers, self.apply, self.today)


@dataclass(frozen=True, eq=False)
class Basis:
    """rows: of a set that serves. changed: the carts on which what is wanted may come to something else.

    same: the carts that offers reach and on which it does not. source: as in `KnownSet`.
    """

    key: object
    rows: Costed
    changed: Bools
    same: Bools
    source: tuple[int | None, ...]

    @cached_property
    def kept(self) -> Bools:
        """The rows of the carts that stay the same."""
        result: Bools = self.same[self.rows.cart_by_row]
        return result


class KnownSets:
    """Sets of offers by what tells them. Safe to share between threads."""

    def __init__(self, shop: Shop, former: Former | None, most: int) -> None:
        """most: bytes of rows to keep."""
        self._shop, self._former = shop, former
        self._sets = Keeper(most, SETS_KEPT, weigh=lambda one: size_of(one.rows))

    def put(self, wanted: Wanted, rows: Costed, basis: Basis | None = None) -> None:
        """rows: all of the set, or those beside what a basis has of it."""
        rest = () if basis is None else (basis.rows, basis.kept, basis.source)
        self._sets.put(wanted.key, KnownSet(wanted.offers, rows, *rest))

    def of(self, key: Key) -> KnownSet | None:
        """A set, if it is at hand."""
        return next((cast(KnownSet, one) for at, one in self._sets.newest_first() if at == key), None)

    def handed_on(self) -> dict[Key, KnownSet]:
        """The newest, for shops in which some things are otherwise; none that need the carts they were found of."""
        every = ((cast(Key, key), cast(KnownSet, one)) for key, one in self._sets.newest_first())
        lasting = [(key, one) for key, one in every if not is_sketched(cast(Key, key[0]))]
        return dict(lasting[:SETS_HANDED_ON])

    def basis(self, wanted: Wanted) -> Basis | None:
        """The set that differs in one offer at most and on the fewest carts; None where those are most of them."""
        most = MOSTLY * max(int(wanted.touched.sum()), 1)
        found: tuple[float, Key, KnownSet, Bools, tuple[int | None, ...]] | None = None
        for key, known, otherwise in self._like(wanted):
            differs = at_most_one_apart(known.offers, wanted.offers)
            if differs is None or (known.base is not None and found is not None and found[2].base is None):
                continue  # one that is whole will do
            here, there, source = differs
            changed = otherwise.copy()
            if here is not None:
                changed |= wanted.reaches[here]
            if there is not None:
                changed |= reached(known.offers, self._shop, wanted.mix.batch)[there]
            anew = int((changed & wanted.touched).sum())
            work = anew + (0 if known.base is None else TO_PUT_TOGETHER * most)
            if anew <= most and (found is None or work < found[0]):
                found = work, key, known, changed, source
        if found is None:
            return None
        _, key, known, changed, source = found
        if key in self._sets:
            self._sets.put(key, KnownSet(known.offers, known.whole))
        return Basis(key, known.whole, changed, wanted.touched & ~changed, source)

    def _like(self, wanted: Wanted) -> Iterator[tuple[Key, KnownSet, Bools]]:
        """Sets of the same carts, whole ones first, and the carts that come to something else than there."""
        mix, told = wanted.mix, (wanted.apply, priced_parts(wanted.today))
        carts = mix.batch.axes.carts
        mine = [(cast(Key, key), cast(KnownSet, one)) for key, one in self._sets.newest_first()]
        mine.sort(key=lambda one: one[1].base is not None)
        yield from ((key, one, np.zeros(carts, np.bool_)) for key, one in mine if key[:3] == (mix.key, *told))
        if wanted.enough is not None:
            missing = np.arange(carts) >= wanted.enough.batch.axes.carts
            yield from ((key, one, missing) for key, one in mine if key[:3] == (wanted.enough.key, *told))
        former = self._former
        if former is not None and not wanted.today:
            put_in = [at for at, one in enumerate(wanted.offers) if former.puts_in(one, mix.batch.goods)]
            otherwise = former.among(mix) | wanted.reaches[put_in].any(axis=0)
            before = former.sets.items()
            yield from (((*key, "before"), one, otherwise) for key, one in before if key[:3] == (mix.key, *told))


def priced_parts(offers: Sequence[Offer]) -> tuple[PricedPart, ...]:
    return tuple(offer.priced_part for offer in offers)


def key_of(mix: Mix, offers: Offers, apply: Apply, today: Offers) -> Key:
    """What tells the rows of a set of offers beside today's."""
    return (mix.key, apply, priced_parts(today), priced_parts(offers))


def at_most_one_apart(known: Offers, offers: Offers) -> tuple[int | None, int | None, tuple[int | None, ...]] | None:
    """Where two lists of offers differ, if by one that is changed, added or left out: its number in the new one and
    in the known one, None where it is not there; and each new offer's number in the known one."""
    old, new = [one.priced_part for one in known], [one.priced_part for one in offers]
    if old == new:
        return None, None, tuple(range(len(old)))
    first = next((at for at, (a, b) in enumerate(zip(old, new, strict=False)) if a != b), min(len(old), len(new)))
    before = list(range(first))
    if len(old) == len(new) and old[first + 1 :] == new[first + 1 :]:
        return first, first, (*before, None, *range(first + 1, len(old)))
    if len(old) == len(new) + 1 and old[first + 1 :] == new[first:]:
        return None, first, (*before, *range(first + 1, len(old)))
    if len(old) + 1 == len(new) and old[first:] == new[first + 1 :]:
        return first, None, (*before, None, *range(first, len(old)))
    return None
