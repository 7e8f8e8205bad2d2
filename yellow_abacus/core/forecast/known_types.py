"""Cart types the shop knows by what is in them: a cart is of the type that has the centre nearest to it.

A centre tells what share of such a cart's value is of which category, how many units it has and what it is worth; a
type may have several. docs/sums.md, "Cart types".

>>> seeds = Centre({"Seeds": 1.0}, units=4.0, value=1_400.0)
>>> KnownTypes((KnownType("Seeds", (seeds,)),)).categories
('Seeds',)
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.blocks import each_block
from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.forecast.cart_types import CartTypes
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.problem import Problem

UNITS_WEIGH, VALUE_WEIGHS = 0.2, 0.5
"""Twice as many units, or twice the value, are as far apart as a shift of so much of a cart's value."""
MOST_KNOWN = 20


@dataclass(frozen=True)
class Centre:
    """shares: of a cart's value by category. units; value: of goods at standing prices, minor units."""

    shares: Mapping[str, float]
    units: float
    value: float


@dataclass(frozen=True)
class KnownType:
    name: str
    centres: tuple[Centre, ...]


@dataclass(frozen=True)
class KnownTypes:
    types: tuple[KnownType, ...]

    @cached_property
    def categories(self) -> tuple[str, ...]:
        """All that the centres speak of, by name."""
        return tuple(sorted({name for one in self.types for centre in one.centres for name in centre.shares}))

    def sort(self, batch: CartBatch) -> CartTypes:
        """Every cart by the type it is nearest to; of those as near, the first."""
        names = tuple(one.name for one in self.types)
        centres = np.array([self._place(centre) for one in self.types for centre in one.centres])
        type_of = np.repeat(np.arange(len(self.types)), [len(one.centres) for one in self.types])
        found = each_block(batch, lambda _, block: _nearest(places(block, self.categories), centres))
        return CartTypes(names, type_of[np.concatenate(found)])

    def _place(self, centre: Centre) -> list[float]:
        shares = [centre.shares.get(name, 0.0) for name in self.categories]
        return [*shares, UNITS_WEIGH * np.log2(centre.units), VALUE_WEIGHS * np.log2(centre.value)]

    def problems(self) -> Iterator[Problem]:
        names = [folded(one.name.strip()) for one in self.types]
        for number, name in enumerate(names):
            if not name:
                yield Problem(("types", number, "name"), "A cart type has no name.", "Give it one.")
            elif name in names[:number]:
                message = f"Two cart types are named “{self.types[number].name}”."
                mend = "Give each a name of its own, or put them together."
                yield Problem(("types", number, "name"), message, mend)
        if len(self.types) > MOST_KNOWN:
            yield Problem(("types",), "That is too many to keep apart.", f"Keep {MOST_KNOWN} at most.")


def _nearest(places: Floats, centres: Floats) -> Ints:
    apart = (centres**2).sum(axis=1) - 2 * places @ centres.T
    result: Ints = np.round(apart, 12).argmin(axis=1)
    return result


def places(batch: CartBatch, categories: tuple[str, ...]) -> Floats:
    """Where each cart stands: one row a cart; shares of its value by category, units and value on a scale of
    doublings.

    Goods in several categories count a part for each, those in none of these for none.
    """
    known = {name: at for at, name in enumerate(categories)}
    of_category = np.array([known.get(name, len(known)) for name in batch.goods.categories], dtype=np.int64)
    first, category = batch.goods.categories_by_sku
    counts = np.diff(first)[batch.sku_by_line]
    ends = np.cumsum(counts)
    at = np.repeat(first[batch.sku_by_line] - (ends - counts), counts) + np.arange(int(counts.sum()))
    wide = len(categories) + 1
    part = np.repeat(batch.worth_by_line / np.maximum(counts, 1), counts)
    cell = np.repeat(batch.axes.cart_by_line, counts) * wide + (of_category[category[at]] if len(category) else at)
    table = np.bincount(cell, part, batch.axes.carts * wide).reshape(-1, wide)
    worth = np.maximum(batch.worth_by_cart, 1)
    shares = table[:, :-1] / worth[:, None]
    units = UNITS_WEIGH * np.log2(np.maximum(batch.units_by_cart, 1))
    result: Floats = np.column_stack([shares, units, VALUE_WEIGHS * np.log2(worth)])
    return result


@dataclass(frozen=True)
class Standing:
    """How well types stand for carts. explained: the share of the variance of what an order keeps that lies between
    them.

    kept: of an order, of all carts; kept_by_types: where each type is one typical cart.
    """

    explained: float
    kept: float
    kept_by_types: float


def standing(types: CartTypes, places_of_carts: Floats, kept_by_cart: Floats) -> Standing:
    """Every cart as likely as any other."""
    number, size = types.type_by_cart, len(types.labels)
    counts = np.bincount(number, minlength=size)
    means = np.bincount(number, weights=kept_by_cart, minlength=size) / np.maximum(counts, 1)
    whole = float(kept_by_cart.var())
    explained = float(means[number].var()) / whole if whole else 1.0
    typical = sum(
        count * float(kept_by_cart[_typical(places_of_carts, number == at)])
        for at, count in enumerate(counts)
        if count
    )
    return Standing(explained, float(kept_by_cart.mean()), typical / len(number))


def _typical(places_of_carts: Floats, mine: Bools) -> int:
    """The cart nearest to the middle of some."""
    carts = np.flatnonzero(mine)
    some = places_of_carts[carts]
    return int(carts[((some - some.mean(axis=0)) ** 2).sum(axis=1).argmin()])
