"""Rows of priced carts with all that they come to, and how they are added up.

A row is a way a cart may go; what is told of it stays for the next changed number, what it adds to a sum is a
`Sums`. docs/sums.md, "Sums".

>>> figures = np.ones((len(FIGURES), 2))
>>> both = Costed(np.array([0, 3]), np.ones(2), figures, np.array([[True, False]]), np.array([[90.0, 0.0]]))
>>> both.took_effect_by_cart(0, carts=4).tolist(), end_to_end([both, both]).cart_by_row.tolist()
([1.0, 0.0, 0.0, 0.0], [0, 3, 0, 3])
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields, replace
from functools import partial
from itertools import accumulate
from operator import call
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csc_array

from yellow_abacus.core.forecast.from_stock import NOTHING, FromStock, Taking, together
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.sums import AT, FIGURES, OfType, Sums
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.keeper import size_of
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.several import each_part
from yellow_abacus.core.pricing.rows import Rows

ROWS_AT_ONCE = 16_384
"""Sums are made of so many rows at a time, which the processor's cache holds."""
TIMES_A_PART = 2
"""So many times that are one part of the work, whatever number of processors share it: sums stay the same."""


@dataclass(frozen=True, eq=False)
class Costed:
    """Rows under one set of offers, costed. figures: one entry a figure of FIGURES, one column a row.

    cart_by_row, share_by_row: as in `Rows`, carts of the whole mix. took_effect, given: one row an offer. taking: the
    units that offers put in, or that were added to reach one.
    """

    cart_by_row: Ints
    share_by_row: Floats
    figures: Floats
    took_effect: Bools
    given: Floats
    taking: Taking = NOTHING

    @cached_property
    def kept_bytes(self) -> int:
        """How much rows that are kept count."""
        return sum(size_of(getattr(self, one.name)) for one in fields(self))

    def at(self, rows: slice) -> "Costed":
        """Neighbouring rows, which can be told there; what is taken is not."""
        told = (self.figures[:, rows], self.took_effect[:, rows], self.given[:, rows])
        return Costed(self.cart_by_row[rows], self.share_by_row[rows], *told)

    def summed(self, mix: Mix, where: Bools | None = None, shares: Floats | None = None) -> Sums:
        """where: the rows to sum, None for all. shares: of the carts in place of the mix's; below 0 they are taken
        off."""
        shares = mix.share_by_cart if shares is None else shares
        weight = shares[self.cart_by_row] * self.share_by_row
        weight = weight if where is None else weight * where
        starts = range(0, len(self.cart_by_row), ROWS_AT_ONCE)
        many = len(starts) > TIMES_A_PART

        def add(adding: _Adding, part: range) -> _Adding:
            for start in part:
                adding.add(self, slice(start, start + ROWS_AT_ONCE), weight)
            return adding

        parts = [starts[at : at + TIMES_A_PART] for at in range(0, len(starts), TIMES_A_PART)] or [starts]
        work: list[Callable[[], Any]] = [
            partial(self._sampled, mix, where, shares),
            partial(self._from_stock, mix, weight),
            *(partial(add, _Adding(mix, len(self.took_effect)), part) for part in parts),
        ]
        sampled, from_stock, first, *others = each_part(work, call) if many else map(call, work)
        for one in others:
            first.add_all(one)
        found: Sums = first.sums(sampled, from_stock)
        return found

    def less(self, before: "Costed", mix: Mix) -> Sums:
        """What rows of carts come to, less what other rows of them do."""
        taken_off = replace(before, share_by_row=-before.share_by_row)
        sampled = (one._sampled(mix, None, mix.share_by_cart) for one in (self, before))
        return replace(end_to_end([self, taken_off]).summed(mix), sampled=np.subtract(*sampled))

    def _sampled(self, mix: Mix, where: Bools | None, shares: Floats) -> Floats:
        change = self.figures[AT["kept"]] - self.figures[AT["kept_today"]]
        change = change * self.share_by_row
        if where is not None:
            change = change * where
        by_cart = summed_by(self.cart_by_row, change, mix.batch.axes.carts)
        squares = by_cart**2 * shares * np.abs(shares)
        return summed_by(mix.groups.number_by_cart, squares, len(mix.groups))

    def _from_stock(self, mix: Mix, weight: Floats) -> FromStock:
        """The units of all that is put in or added, and bought of what is watched."""
        entries, offers, groups = self.taking, len(self.took_effect), len(mix.groups)
        counted = np.bincount(np.concatenate((entries.sku, np.array(mix.watched, dtype=np.int64))))
        skus = np.flatnonzero(counted)
        found = np.zeros((groups, len(skus), offers + 1))
        if not len(skus):
            return FromStock((), found)
        group = mix.groups.number_by_cart[self.cart_by_row]
        cell, cells = group[entries.row] * len(skus) + np.searchsorted(skus, entries.sku), groups * len(skus)
        units = entries.units * weight[entries.row]
        bought = {int(np.searchsorted(skus, sku)): mix.bought[sku][self.cart_by_row] for sku in mix.watched}
        for at, took in enumerate([None, *self.took_effect]):
            mine = units if took is None else units * took[entries.row]
            found[..., at] = summed_by(cell, mine, cells).reshape(groups, len(skus))
            of_row = weight if took is None else weight * took
            for place, by_row in bought.items():
                found[:, place, at] += summed_by(group, by_row * of_row, groups)
        return FromStock(tuple(skus.tolist()), found)

    def took_effect_by_cart(self, at: int, carts: int, where: Bools | None = None) -> Floats:
        """On how many of the ways it may go each of so many carts is one that an offer took effect on. where: the
        rows that count, None for all."""
        took = self.took_effect[at] * self.share_by_row
        return summed_by(self.cart_by_row, took if where is None else took * where, carts)

    def some(self, rows: slice | Ints, source: Sequence[int | None]) -> "Costed":
        """Some rows. source: as in `Sums.with_offers`."""
        share = self.share_by_row[rows]

        def by_offer(told: NDArray[np.generic]) -> NDArray[np.generic]:
            found = np.zeros((len(source), len(share)), dtype=told.dtype)
            for at, one in enumerate(source):
                if one is not None:
                    found[at] = told[one, rows]
            return found

        return Costed(
            self.cart_by_row[rows],
            share,
            self.figures[:, rows],
            by_offer(self.took_effect),  # type: ignore[arg-type]
            by_offer(self.given),  # type: ignore[arg-type]
            self.taking.some(rows, len(self.cart_by_row)),
        )


class _Adding:
    """Adds rows up by group of carts, and by each way of sorting them, some rows at a time."""

    def __init__(self, mix: Mix, offers: int) -> None:
        self._mix, self._offers, self._groups = mix, offers, len(mix.groups)
        self._uses, self._given = slice(len(FIGURES), len(FIGURES) + offers), slice(len(FIGURES) + offers, None)
        self._columns = len(FIGURES) + 2 * offers
        self._many = {way: len(types.labels) for way, types in mix.types.items() if types.labels}
        """How many types there are of each way; no zones in a shop that has none."""
        sizes = [self._groups * many for many in self._many.values()] or [self._groups]
        self._starts = np.concatenate(([0], np.cumsum(sizes))).tolist()
        self._by_type = np.zeros((self._starts[-1], self._columns))
        self._reached = np.zeros((self._groups * offers, self._columns))
        self._kept_if_reached = {way: np.zeros(self._groups * offers * many) for way, many in self._many.items()}
        self._any_reached = np.zeros(self._groups)

    def add(self, costed: Costed, rows: slice, weights: Floats) -> None:
        offers, cart, weight = self._offers, costed.cart_by_row[rows], weights[rows]
        took_effect, group = costed.took_effect[:, rows], self._mix.groups.number_by_cart[cart]
        told = np.empty((len(cart), self._columns))
        told[:, : len(FIGURES)] = costed.figures[:, rows].T
        told[:, self._uses], told[:, self._given] = took_effect.T, costed.given[:, rows].T
        types = {way: self._mix.types[way].type_by_cart[cart] for way in self._many}
        cells = [
            group * self._many[way] + types[way] + start for way, start in zip(types, self._starts, strict=False)
        ]
        self._by_type += _added_up(np.stack(cells or [group], axis=1), weight, len(self._by_type), told)
        if not offers:
            return
        row, offer = np.nonzero(np.ascontiguousarray(took_effect.T))
        if_reached, at = weight[row], group[row] * offers + offer
        self._reached += _added_up(at, if_reached, len(self._reached), told, took_effect.sum(axis=0))
        kept_if_reached = costed.figures[AT["kept"], rows][row] * if_reached
        for way, of_row in types.items():
            cell, known = at * self._many[way] + of_row[row], self._kept_if_reached[way]
            known += summed_by(cell, kept_if_reached, len(known))
        self._any_reached += summed_by(group, took_effect.any(axis=0) * weight, self._groups)

    def add_all(self, other: "_Adding") -> None:
        self._by_type += other._by_type
        self._reached += other._reached
        self._any_reached += other._any_reached
        for way, kept in self._kept_if_reached.items():
            kept += other._kept_if_reached[way]

    def sums(self, sampled: Floats, from_stock: FromStock) -> Sums:
        figures, groups = slice(0, len(FIGURES)), self._groups
        by_way = {
            way: self._by_type[first:last].reshape(groups, many, self._columns)
            for (way, many), first, last in zip(
                self._many.items() or [("", 1)], self._starts[:-1], self._starts[1:], strict=True
            )
        }
        reached = self._reached.reshape(groups, self._offers, self._columns)
        return Sums(
            groups=self._mix.groups,
            total=next(iter(by_way.values()))[..., figures].sum(axis=1),
            reached=reached[..., figures].copy(),
            given=np.einsum("goo->go", reached[..., self._given]),
            uses=reached[..., self._uses].copy(),
            spent=reached[..., self._given].copy(),
            any_reached=self._any_reached,
            sampled=sampled,
            from_stock=from_stock,
            by_type={way: self._of_type(way, by_way.get(way)) for way in self._mix.types},
        )

    def _of_type(self, way: str, table: Floats | None) -> OfType:
        groups, offers, figures = self._groups, self._offers, len(FIGURES)
        if table is None:
            return OfType((), np.zeros((groups, 0, figures)), np.zeros((groups, 0)), np.zeros((groups, offers, 0)))
        return OfType(
            self._mix.types[way].labels,
            table[..., :figures].copy(),
            table[..., self._given].sum(axis=-1),
            self._kept_if_reached[way].reshape(groups, offers, self._many[way]),
        )


def _added_up(cell: Ints, weight: Floats, cells: int, told: Floats, entries: Ints | None = None) -> Floats:
    """What is told of rows, added up by cell, each row weighed: [cell, column].

    cell: [row, way], where each row counts in several; or of so many `entries` of each row, one after another, then
    weight is theirs too. told: [row, column].
    """
    rows = len(told)
    if entries is None:
        ways = cell.shape[1]
        ends, weight = np.arange(rows + 1) * ways, np.repeat(weight, ways)
    else:
        ends = np.concatenate(([0], np.cumsum(entries)))
    table = csc_array((weight, cell.ravel(), ends), shape=(cells, rows))
    result: Floats = np.asarray(table @ told)
    return result


def nothing_told(rows: Rows, offers: int) -> Costed:
    """Rows of which nothing is told yet, to be told block by block."""
    size = len(rows)
    told = (np.zeros((len(FIGURES), size)), np.zeros((offers, size), dtype=np.bool_), np.zeros((offers, size)))
    return Costed(rows.cart_by_row, rows.share_by_row, *told)


def end_to_end(parts: Sequence[Costed]) -> Costed:
    """Rows of the same offers, one after another."""
    if len(parts) == 1:
        return parts[0]
    names = [one.name for one in fields(Costed) if one.name != "taking"]
    firsts = accumulate((len(part.cart_by_row) for part in parts[:-1]), initial=0)
    joined = {one: np.concatenate([getattr(part, one) for part in parts], axis=-1) for one in names}
    return Costed(
        **joined, taking=together(one.taking.from_row(first) for one, first in zip(parts, firsts, strict=True))
    )
