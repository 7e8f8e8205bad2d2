"""Sums of priced carts: all that a forecast needs of them, and all that is kept.

What a set of offers does to every row is found once, summed by group of carts, and forgotten. Sums of disjoint carts
add up, and those of a set are those of bare carts where no offer reaches and its own where one does. docs/sums.md,
"Sums".
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, fields, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csc_array

from yellow_abacus.core.costing.ledger import ROWS
from yellow_abacus.core.forecast.groups import Groups
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.money import Bools, Floats, Ints

LEDGER = slice(0, len(ROWS))
"""The figures that are rows of the ledger; they add up to what a row keeps."""

FIGURES = (
    *(row.key for row in ROWS),
    "tax",
    "goods_with_tax",
    "goods_off",
    "goods_before_offers",
    "orders",
    "units",
    "losing",
    "kept_today",
    "kept_squared",
    "change_squared",
)
"""What is summed of every row, money in minor units: the ledger; all tax; goods with tax; taken off goods; goods at
standing prices; orders; units; orders that lose money; what the same row keeps today; the squares of what it keeps
and of how much more that is than today."""

ROWS_AT_ONCE = 16_384
"""Sums are made of so many rows at a time, which the processor's cache holds."""

AT = {name: at for at, name in enumerate(FIGURES)}


@dataclass(frozen=True, eq=False)
class OfType:
    """Sums by one way of sorting carts: as in `Sums`, the types an axis of their own.

    total: [type, figure]. given: [type]. kept_if_reached: [offer, type].
    """

    labels: tuple[str, ...]
    total: Floats
    given: Floats
    kept_if_reached: Floats


@dataclass(frozen=True, eq=False)
class Sums:
    """Of an order, on average over a mix, by group of its carts: each array has an axis of groups in front, which
    `weighed` takes off.

    total: [figure of FIGURES]. reached: [offer, figure], of the orders it took effect on. given: [offer], given
    away by each, things put in at what shoppers save, minor units. uses, spent: [offer, other], of the orders an
    offer took effect on, those another did too, and what that one gave away. any_reached: the share any offer took
    effect on. sampled: the squares of how much more than today each cart is expected to keep, times the square of
    its share. from_stock: by SKU, [offer + 1], units put in, or added to reach an offer, and of goods that may sell
    out also those bought: of all orders, and of those each offer took effect on. by_type: for each way of sorting
    carts.
    """

    groups: Groups
    total: Floats
    reached: Floats
    given: Floats
    uses: Floats
    spent: Floats
    any_reached: Floats
    sampled: Floats
    from_stock: dict[int, Floats]
    by_type: dict[str, OfType]

    @property
    def profit(self) -> Floats:
        result: Floats = self.total[..., LEDGER].sum(axis=-1)
        return result

    @property
    def kept_if_reached(self) -> Floats:
        """What the orders each offer took effect on keep, minor units."""
        result: Floats = self.reached[..., LEDGER].sum(axis=-1)
        return result

    def weighed(self, weight_by_group: Floats) -> "Sums":
        """All groups together, each so many times."""
        return self._each(lambda one: np.tensordot(weight_by_group, one, axes=1))

    @cached_property
    def by_cell(self) -> "dict[object, Sums]":
        """These sums as `states.by_cell` finds them, by what tells how days weigh their groups."""
        return {}

    def __add__(self, other: "Sums") -> "Sums":
        return self._beside(other, np.add)

    def __sub__(self, other: "Sums") -> "Sums":
        return self._beside(other, np.subtract)

    def times(self, factor: float) -> "Sums":
        return self._each(lambda one: one * factor)

    def with_offers(self, source: Sequence[int | None]) -> "Sums":
        """The same sums with other offers in view: each one's number here, None for one that took no effect."""

        def some(by_offer: Floats, axis: int, before: int = 0) -> Floats:
            shape = list(by_offer.shape)
            last = shape[axis]
            shape[axis] = 1
            padded = np.concatenate([by_offer, np.zeros(shape)], axis=axis)
            at = [*range(before), *(last if one is None else one + before for one in source)]
            result: Floats = padded.take(at, axis=axis)
            return result

        return Sums(
            groups=self.groups,
            total=self.total,
            reached=some(self.reached, -2),
            given=some(self.given, -1),
            uses=some(some(self.uses, -1), -2),
            spent=some(some(self.spent, -1), -2),
            any_reached=self.any_reached,
            sampled=self.sampled,
            from_stock={sku: some(units, -1, before=1) for sku, units in self.from_stock.items()},
            by_type={
                way: OfType(one.labels, one.total, one.given, some(one.kept_if_reached, -2))
                for way, one in self.by_type.items()
            },
        )

    def _each(self, make: Callable[[Floats], Floats]) -> "Sums":
        return Sums(
            groups=self.groups,
            **{name: make(getattr(self, name)) for name in PLAIN},
            from_stock={sku: make(units) for sku, units in self.from_stock.items()},
            by_type={
                way: OfType(one.labels, make(one.total), make(one.given), make(one.kept_if_reached))
                for way, one in self.by_type.items()
            },
        )

    def _beside(self, other: "Sums", join: Callable[[Floats, Floats], Floats]) -> "Sums":
        nothing = np.zeros((*self.given.shape[:-1], self.given.shape[-1] + 1))
        skus = {**self.from_stock, **other.from_stock}
        return Sums(
            groups=self.groups,
            **{name: join(getattr(self, name), getattr(other, name)) for name in PLAIN},
            from_stock={
                sku: join(self.from_stock.get(sku, nothing), other.from_stock.get(sku, nothing)) for sku in skus
            },
            by_type={
                way: OfType(
                    one.labels,
                    join(one.total, theirs.total),
                    join(one.given, theirs.given),
                    join(one.kept_if_reached, theirs.kept_if_reached),
                )
                for way, one in self.by_type.items()
                for theirs in (other.by_type[way],)
            },
        )


PLAIN = ("total", "reached", "given", "uses", "spent", "any_reached", "sampled")
"""The arrays of `Sums` that are there once."""


@dataclass(frozen=True, eq=False)
class Costed:
    """Rows under one set of offers, costed. figures: one entry a figure of FIGURES, one column a row.

    cart_by_row, share_by_row: as in `Rows`, carts of the whole mix. took_effect, given: one row an offer. put_in: by
    SKU, the units of it on each row that offers put in, or that were added to reach one.
    """

    cart_by_row: Ints
    share_by_row: Floats
    figures: Floats
    took_effect: Bools
    given: Floats
    put_in: dict[int, Floats]

    def summed(self, mix: Mix, where: Bools | None = None, shares: Floats | None = None) -> Sums:
        """where: the rows to sum, None for all. shares: of the carts in place of the mix's; below 0 they are taken
        off."""
        shares = mix.share_by_cart if shares is None else shares
        size = len(self.cart_by_row)
        starts = range(0, size, ROWS_AT_ONCE) if size else [0]
        found = sum_of([self._summed(slice(start, start + ROWS_AT_ONCE), mix, where, shares) for start in starts])
        return replace(found, sampled=self._sampled(mix, where, shares))

    def _sampled(self, mix: Mix, where: Bools | None, shares: Floats) -> Floats:
        change = self.figures[LEDGER].sum(axis=0) - self.figures[AT["kept_today"]]
        change = change * self.share_by_row
        if where is not None:
            change = change * where
        by_cart = summed_by(self.cart_by_row, change, mix.batch.axes.carts)
        squares = by_cart**2 * shares * np.abs(shares)
        return summed_by(mix.groups.number_by_cart, squares, len(mix.groups))

    def _summed(self, rows: slice, mix: Mix, where: Bools | None, shares: Floats) -> Sums:
        cart, figures = self.cart_by_row[rows], np.ascontiguousarray(self.figures[:, rows].T)
        weight = shares[cart] * self.share_by_row[rows]
        if where is not None:
            weight = weight * where[rows]
        groups, group = len(mix.groups), mix.groups.number_by_cart[cart]
        took_effect, offers = self.took_effect[:, rows].T, len(self.took_effect)
        row, offer = np.nonzero(took_effect)
        if_reached, at = weight[row], group[row] * offers + offer
        given = self.given[:, rows]
        told: Floats = np.hstack((figures, took_effect.astype(np.float64), given.T))
        reached = _added_up(at, if_reached, groups * offers, told, took_effect.sum(axis=1))
        reached = reached.reshape(groups, offers, told.shape[1])
        given_by_row = given.sum(axis=0) * weight
        kept = figures[:, LEDGER].sum(axis=1)
        kept_if_reached = kept[row] * if_reached

        def of_type(way: str) -> OfType:
            types, many = mix.types[way], len(mix.types[way].labels)
            if not many:  # as zones, in a shop that has none
                none = np.zeros((groups, 0))
                return OfType((), np.zeros((groups, 0, len(FIGURES))), none, np.zeros((groups, offers, 0)))
            of_row = types.type_by_cart[cart]
            cell = group * many + of_row
            by_type = _added_up(cell, weight, groups * many, figures)
            return OfType(
                types.labels,
                by_type.reshape(groups, many, len(FIGURES)),
                summed_by(cell, given_by_row, groups * many).reshape(groups, many),
                summed_by(at * many + of_row[row], kept_if_reached, groups * offers * many).reshape(
                    groups, offers, many
                ),
            )

        by_type = {way: of_type(way) for way in mix.types}
        any_reached = took_effect.any(axis=1) * weight
        return Sums(
            groups=mix.groups,
            total=_added_up(group, weight, groups, figures),
            reached=reached[..., : len(FIGURES)],
            given=np.einsum("goo->go", reached[..., len(FIGURES) + offers :]),
            uses=reached[..., len(FIGURES) : len(FIGURES) + offers],
            spent=reached[..., len(FIGURES) + offers :],
            any_reached=summed_by(group, any_reached, groups),
            sampled=np.zeros(groups),
            from_stock={
                sku: np.column_stack(
                    (
                        summed_by(group, units * weight, groups),
                        summed_by(at, units[row] * if_reached, groups * offers).reshape(groups, offers),
                    )
                )
                for sku, units in self._from_stock(rows, mix)
            },
            by_type=by_type,
        )

    def _from_stock(self, rows: slice, mix: Mix) -> Iterator[tuple[int, Floats]]:
        """By SKU, the units of it put in, and bought if it may sell out, on some rows."""
        cart = self.cart_by_row[rows]
        for sku in dict.fromkeys([*self.put_in, *mix.may_sell_out]):
            put_in, bought = self.put_in.get(sku), mix.bought.get(sku)
            units = np.zeros(len(cart)) if put_in is None else put_in[rows]
            yield sku, units if bought is None else units + bought[cart]

    def took_effect_by_cart(self, at: int, carts: int) -> Floats:
        """On how many of the ways it may go each of so many carts is one that an offer took effect on."""
        return summed_by(self.cart_by_row, self.took_effect[at] * self.share_by_row, carts)

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
            {sku: units[rows] for sku, units in self.put_in.items()},
        )


def _added_up(cell: Ints, weight: Floats, cells: int, figures: Floats, entries: Ints | None = None) -> Floats:
    """Figures of rows added up by cell, each weighed: [cell, figure].

    figures: [row, figure]. entries: how many of `cell` are of each row, one after another; None for one each.
    """
    rows = len(figures)
    ends = np.arange(rows + 1) if entries is None else np.concatenate(([0], np.cumsum(entries)))
    table = csc_array((weight, cell, ends), shape=(cells, rows))
    result: Floats = np.asarray(table @ figures)
    return result


def end_to_end(parts: Sequence[Costed]) -> Costed:
    """Rows of the same offers, one after another."""
    if len(parts) == 1:
        return parts[0]
    names = [one.name for one in fields(Costed) if one.name != "put_in"]
    skus = dict.fromkeys(sku for part in parts for sku in part.put_in)
    put_in = {
        sku: np.concatenate([part.put_in.get(sku, np.zeros(len(part.cart_by_row))) for part in parts]) for sku in skus
    }
    joined = {one: np.concatenate([getattr(part, one) for part in parts], axis=-1) for one in names}
    return Costed(**joined, put_in=put_in)


def sum_of(parts: Sequence[Sums]) -> Sums:
    """Sums of disjoint rows of the same offers, together."""
    first, *others = parts
    for one in others:
        first = first + one
    return first
