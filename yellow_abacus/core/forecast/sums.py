"""Sums of priced carts: all that a forecast needs of them, and all that is kept.

What a set of offers does to every row is found once, summed by group of carts, and forgotten. Sums of disjoint carts
add up, and those of a set are those of bare carts where no offer reaches and its own where one does. docs/sums.md,
"Sums".

What a row keeps is its ledger added up, and has a place of its own among the figures:

>>> FIGURES[LEDGER][0], AT["goods"], FIGURES[AT["kept"]]
('goods', 0, 'kept')
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.costing.ledger import ROWS
from yellow_abacus.core.forecast.from_stock import FromStock
from yellow_abacus.core.forecast.groups import Groups
from yellow_abacus.core.ground.axes import weighed_by
from yellow_abacus.core.ground.money import Floats
from yellow_abacus.core.ground.once import cached_property

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
    "kept",
    "kept_today",
    "kept_squared",
    "change_squared",
)
"""What is summed of every row, money in minor units: the ledger; all tax; goods with tax; taken off goods; goods at
standing prices; orders; units; orders that lose money; what the row keeps, the ledger added up; what the same row
keeps today; the squares of what it keeps and of how much more that is than today."""

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
    its share. from_stock: units put in, or added to reach an offer, and of goods that may sell out also those bought.
    by_type: for each way of sorting carts.
    """

    groups: Groups
    total: Floats
    reached: Floats
    given: Floats
    uses: Floats
    spent: Floats
    any_reached: Floats
    sampled: Floats
    from_stock: FromStock
    by_type: dict[str, OfType]

    @property
    def profit(self) -> Floats:
        result: Floats = self.total[..., AT["kept"]]
        return result

    @property
    def kept_if_reached(self) -> Floats:
        """What the orders each offer took effect on keep, minor units."""
        result: Floats = self.reached[..., AT["kept"]]
        return result

    def weighed(self, weight_by_group: Floats) -> "Sums":
        """All groups together, each so many times."""
        return self._each(lambda one: weighed_by(weight_by_group, one))

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
            from_stock=self.from_stock.each(lambda units: some(units, -1, before=1)),
            by_type={
                way: OfType(one.labels, one.total, one.given, some(one.kept_if_reached, -2))
                for way, one in self.by_type.items()
            },
        )

    def _each(self, make: Callable[[Floats], Floats]) -> "Sums":
        return Sums(
            groups=self.groups,
            **{name: make(getattr(self, name)) for name in PLAIN},
            from_stock=self.from_stock.each(make),
            by_type={
                way: OfType(one.labels, make(one.total), make(one.given), make(one.kept_if_reached))
                for way, one in self.by_type.items()
            },
        )

    def _beside(self, other: "Sums", join: Callable[[Floats, Floats], Floats]) -> "Sums":
        return Sums(
            groups=self.groups,
            **{name: join(getattr(self, name), getattr(other, name)) for name in PLAIN},
            from_stock=self.from_stock.joined(other.from_stock, join),
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
