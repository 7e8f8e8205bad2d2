"""What an order puts on the scales, and how it is split into parcels. docs/sums.md, "Delivery"."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.money import MILLIGRAMS, Bools, Floats, Ints
from yellow_abacus.core.ground.problem import Problem, amount_between
from yellow_abacus.core.ground.shape import CLOSED

MILLIGRAMS_A_KILOGRAM = 1_000_000
HEAVIEST, LONGEST = 1_000_000_000, 100_000


@dataclass(frozen=True)
class Carries:
    """What can be carried. heaviest: grams of one parcel, packaging included. longest: millimetres of any side.

    refuses: goods that cannot go at all; a scope that names nothing refuses nothing.
    """

    heaviest: int | None = None
    longest: int | None = None
    refuses: Scope = EVERYTHING

    __pydantic_config__ = CLOSED

    def problems(self) -> Iterator[Problem]:
        if self.heaviest is not None:
            yield from amount_between("heaviest", "The heaviest parcel", self.heaviest, 1, HEAVIEST)
        if self.longest is not None:
            yield from amount_between("longest", "The longest side", self.longest, 1, LONGEST)


ANYTHING = Carries()


@dataclass(frozen=True, eq=False)
class Load:
    """What each row asks a carrier to take, things put in included; one entry a row.

    cart: index into the batch. weight: milligrams of goods. volume: cubic millimetres. heaviest_unit: milligrams.
    longest: millimetres. worth: standing price of it all, minor units; insured: of insured goods. nothing: carts
    without goods of their own, with which nothing is sent.
    """

    batch: CartBatch
    cart: Ints
    weight: Ints
    volume: Floats
    heaviest_unit: Ints
    longest: Floats
    worth: Ints
    insured: Floats
    nothing: Bools

    def some(self, rows: Ints) -> "Load":
        """Of some rows, by index. `batch` stays whole: it is only asked which carts hold goods that are refused."""
        names = ("cart", "weight", "volume", "heaviest_unit", "longest", "worth", "insured", "nothing")
        return Load(self.batch, *(getattr(self, name)[rows] for name in names))


def load_of(batch: CartBatch) -> Load:
    """The load of each cart without things put in; kept with the batch."""
    return batch.kept("load", lambda: _load_of(batch))


def _load_of(batch: CartBatch) -> Load:
    goods, axes = batch.goods, batch.axes
    volume, longest, insured = (goods.column(name) for name in ("volume", "longest", "insured"))

    def unless_nothing(column: Floats, find: Callable[[], Floats]) -> Floats:
        return find() if column.any() else np.zeros(axes.carts)

    def insured_worth() -> Floats:
        worth = np.where(insured[batch.sku_by_line] > 0, batch.worth_by_line, 0)
        return axes.sum_by_cart(worth).astype(np.float64)

    return Load(
        batch=batch,
        cart=np.arange(axes.carts),
        weight=batch.weight_by_cart,
        volume=unless_nothing(volume, lambda: axes.sum_floats_by_cart(batch.by_line(volume))),
        heaviest_unit=axes.most_by_cart(goods.milligrams[batch.sku_by_line]),
        longest=unless_nothing(longest, lambda: axes.most_by_cart(longest[batch.sku_by_line])),
        worth=batch.worth_by_cart,
        insured=unless_nothing(insured, insured_worth),
        nothing=axes.lines_by_cart == 0,
    )


def with_put_in(load: Load, sku: Ints, units: Ints) -> Load:
    """The load with some units of a SKU put in each row; one entry a row."""
    goods, there = load.batch.goods, units > 0
    weight, volume, longest = goods.milligrams[sku], goods.column("volume")[sku], goods.column("longest")[sku]
    worth = np.maximum(goods.standing_price[sku], 0) * units
    return replace(
        load,
        weight=load.weight + weight * units,
        volume=load.volume + volume * units,
        heaviest_unit=np.maximum(load.heaviest_unit, np.where(there, weight, 0)),
        longest=np.maximum(load.longest, np.where(there, longest, 0.0)),
        worth=load.worth + worth,
        insured=load.insured + np.where(goods.column("insured")[sku] > 0, worth, 0),
    )


def lighter(one: int | None, other: int | None) -> int | None:
    """The tighter of two bounds, None where there is neither."""
    known = [bound for bound in (one, other) if bound is not None]
    return min(known, default=None)


def parcels(load: Load, heaviest: int | None, packaging: int) -> Floats:
    """`ceil(goods weight / (heaviest - packaging))` equal parcels, at least one; none where nothing is sent.

    heaviest: grams. packaging: milligrams of a parcel's.
    """
    count = np.ones_like(load.weight)
    if heaviest is not None and heaviest * MILLIGRAMS > packaging:
        count = np.maximum(-(-load.weight // (heaviest * MILLIGRAMS - packaging)), 1)
    return np.where(load.nothing, 0.0, count)


def able(carries: Carries, load: Load, packaging: int) -> Bools:
    """Whether each row can go at all."""
    result = np.ones(len(load.weight), dtype=np.bool_)
    if carries.heaviest is not None:
        result &= load.heaviest_unit <= carries.heaviest * MILLIGRAMS - packaging
    if carries.longest is not None:
        result &= load.longest <= carries.longest
    if carries.refuses != EVERYTHING:
        result &= ~holding(load.batch, carries.refuses)[load.cart]
    return result


def holding(batch: CartBatch, scope: Scope) -> Bools:
    """Whether each cart holds any goods of the scope; kept with the batch."""
    return batch.kept(("holding", scope), lambda: batch.axes.sum_by_cart(batch.lines_in(scope).astype(np.int64)) > 0)
