"""Rows of sets of offers as they were found, and which of them serve a set that is nearly the same.

What a cart comes to depends on the cart and the offers that reach it alone. So rows of a set serve another that
differs in one offer, but for the carts to which that may matter; those of carts before a price was saved, but for the
carts it matters to; and those while there is enough of everything, but for the carts from which something is missing.
docs/sums.md, "Groups and sums".
"""

from collections import OrderedDict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from threading import Lock
from typing import cast

import numpy as np

from yellow_abacus.core.forecast.costed import Costed
from yellow_abacus.core.forecast.former import Former, Key
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.pieced import Piece, Pieced, Source, rows_of_all
from yellow_abacus.core.forecast.sketched import is_sketched
from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.offers import Offer, PricedPart
from yellow_abacus.core.pricing.pricing import Apply
from yellow_abacus.core.pricing.reached import may_differ
from yellow_abacus.core.shop.shop import Shop

SETS_KEPT, SETS_HANDED_ON = 24, 2
"""So many sets are kept; and so many for the shop as it is after a price was saved, until it has more of its own."""
MOSTLY = 0.8
"""Where a changed offer reaches this share of what a set reaches, all of the set is priced anew."""
MOST_PIECES = 4
"""A set of more pieces is put together before it serves."""

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
    """pieces: what a known set has of the carts on which what is wanted comes to the same, with the offers wanted.

    told: what tells them. changed: the carts on which it may come to something else.
    """

    pieces: tuple[Piece, ...]
    told: Key
    changed: Bools


class KnownSets:
    """Sets of offers by what tells them, within so many bytes of rows. Safe to share between threads."""

    def __init__(self, shop: Shop, former: Former | None, most: int) -> None:
        """most: bytes to keep; but at least the newest set."""
        self._shop, self._former, self._most = shop, former, most
        self._lock = Lock()
        self._sets: OrderedDict[Key, Pieced] = OrderedDict()

    def put(self, wanted: Wanted, rows: Costed | None, basis: Basis | None = None) -> None:
        """rows: all of the set, or those beside what a basis has of it; None where that has all."""
        if rows is None and self.of(wanted.key) is not None:
            return  # it is its own basis
        pieces = () if basis is None else basis.pieces
        pieces = pieces if rows is None else (*pieces, Piece(rows))
        self._keep(wanted.key, Pieced(wanted.offers, pieces, lasting=basis is None))

    def put_as_on(self, other: Key, key: Key, otherwise: Bools, rows: Sequence[Costed]) -> None:
        """A set as it is on another day, but for some carts, of which these are the rows; nothing where that day's is
        not at hand."""
        there = self.of(other)
        if there is not None:
            pieces = there.on(~otherwise, tuple(range(len(there.offers))))
            self._keep(key, Pieced(there.offers, (*pieces, *map(Piece, rows))))

    def of(self, key: Key) -> Pieced | None:
        """A set, if it is at hand."""
        with self._lock:
            return self._sets.get(key)

    def handed_on(self) -> dict[Key, Pieced]:
        """The newest, for shops in which some things are otherwise; none that need the carts they were found of."""
        own = [(key, one) for key, one in self._newest_first() if not is_sketched(cast(Key, key[0]))]
        return dict(own[:SETS_HANDED_ON])

    def basis(self, wanted: Wanted) -> Basis | None:
        """Of the set that differs in one offer at most and on the fewest carts; None where those are most of them.

        One that serves again and again is preferred: what it has of a plan is summed once.
        """
        most = MOSTLY * max(int(wanted.touched.sum()), 1)
        found: tuple[int, Key, Pieced, Bools, Source] | None = None
        for key, known, otherwise in self._like(wanted):
            differs = at_most_one_apart(known.offers, wanted.offers)
            if differs is None or (found is not None and found[2].lasting and not known.lasting):
                continue
            here, there, source = differs
            batch, offers, reaches = wanted.mix.batch, wanted.offers, wanted.reaches
            changed = otherwise | may_differ(self._shop, batch, offers, reaches, here, known.offers, there)
            anew = int((changed & wanted.touched).sum())
            if anew <= most and (found is None or anew < found[0]):
                found = anew, key, known, changed, source
        if found is None:
            return None
        _, key, known, changed, source = found
        if len(known.pieces) > MOST_PIECES:
            known = known.whole(wanted.mix.batch.axes.carts)
        if self.of(key) is not None:
            self._keep(key, replace(known, lasting=True))
        same = wanted.touched & ~changed
        return Basis(known.on(same, source), (key, source, np.packbits(same).tobytes()), changed)

    def _like(self, wanted: Wanted) -> Iterator[tuple[Key, Pieced, Bools]]:
        """Sets of the same carts, lasting ones first, and the carts that come to something else than there."""
        mix, told = wanted.mix, (wanted.apply, priced_parts(wanted.today))
        carts, mine = mix.batch.axes.carts, self._newest_first()
        mine.sort(key=lambda one: not one[1].lasting)
        yield from ((key, one, np.zeros(carts, np.bool_)) for key, one in mine if key[:3] == (mix.key, *told))
        if wanted.enough is not None:
            missing = np.arange(carts) >= wanted.enough.batch.axes.carts
            yield from ((key, one, missing) for key, one in mine if key[:3] == (wanted.enough.key, *told))
        former = self._former
        if former is not None and not wanted.today:
            put_in = [at for at, one in enumerate(wanted.offers) if former.puts_in(one, mix.batch.goods)]
            otherwise = former.among(mix) | wanted.reaches[put_in].any(axis=0)
            before = list(former.sets.items())
            yield from (((*key, "before"), one, otherwise) for key, one in before if key[:3] == (mix.key, *told))

    # --- what is kept

    def _keep(self, key: Key, known: Pieced) -> None:
        with self._lock:
            self._sets[key] = known
            self._sets.move_to_end(key)
            if self._former is not None and len(self._sets) > SETS_HANDED_ON:
                self._former.sets.clear()
            while len(self._sets) > 1 and self._too_much():
                self._sets.popitem(last=False)

    def _too_much(self) -> bool:
        rows = rows_of_all(list(self._sets.values()))
        return len(self._sets) > SETS_KEPT or sum(one.kept_bytes for one in rows) > self._most

    def _newest_first(self) -> list[tuple[Key, Pieced]]:
        with self._lock:
            return list(reversed(self._sets.items()))


def priced_parts(offers: Sequence[Offer]) -> tuple[PricedPart, ...]:
    return tuple(offer.priced_part for offer in offers)


def key_of(mix: Mix, offers: Offers, apply: Apply, today: Offers) -> Key:
    """What tells the rows of a set of offers beside today's."""
    return (mix.key, apply, priced_parts(today), priced_parts(offers))


def at_most_one_apart(known: Offers, offers: Offers) -> tuple[int | None, int | None, Source] | None:
    """Where two lists of offers differ, if by one that is changed, added or left out: its number in the new one and
    in the known one, None where it is not there; and each new offer's number in the known one."""
    old, new = [one.priced_part for one in known], [one.priced_part for one in offers]
    if old == new:
        return None, None, tuple(range(len(old)))
    first = next((at for at, (a, b) in enumerate(zip(old, new, strict=False)) if a != b), min(len(old), len(new)))
    before = list(range(first))
    if len(old) == len(new) and old[first + 1 :] == new[first + 1 :]:
        return first, first, tuple(range(len(old)))
    if len(old) == len(new) + 1 and old[first + 1 :] == new[first:]:
        return None, first, (*before, *range(first + 1, len(old)))
    if len(old) + 1 == len(new) and old[first:] == new[first + 1 :]:
        return first, None, (*before, None, *range(first, len(old)))
    return None
