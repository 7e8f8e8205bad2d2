"""Sums of priced carts: all that a forecast needs of them, and all that is kept.

What a set of offers does to every row is found once, summed, and forgotten. Sums of disjoint carts add up, and those
of a set are those of bare carts where no offer reaches and its own where one does.
"""

from collections.abc import Sequence
from dataclasses import dataclass, fields

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.costing.ledger import ROWS
from yellow_abacus.core.forecast.cart_types import CartTypes
from yellow_abacus.core.forecast.mix import Mix
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
)
"""What is summed of every row, money in minor units: the ledger; all tax; goods with tax; taken off goods; goods at
standing prices; orders; units; orders that lose money."""

ROWS_AT_ONCE = 16_384
"""Sums are made of so many rows at a time, which the processor's cache holds."""

AT = {name: at for at, name in enumerate(FIGURES)}


@dataclass(frozen=True, eq=False)
class OfType:
    """Sums by one way of sorting carts, one column a type: as in `Sums`. kept_if_reached: one row an offer."""

    labels: tuple[str, ...]
    total: Floats
    given: Floats
    kept_if_reached: Floats

    def __add__(self, other: "OfType") -> "OfType":
        return OfType(
            self.labels,
            self.total + other.total,
            self.given + other.given,
            self.kept_if_reached + other.kept_if_reached,
        )


@dataclass(frozen=True, eq=False)
class Sums:
    """Of an order, on average over a mix. total: one entry a figure of FIGURES.

    reached: one row an offer, of the orders it took effect on. given: given away by each offer, things put in at what
    shoppers save, minor units. any_reached: the share any offer took effect on. by_type: for each way of sorting
    carts.
    """

    total: Floats
    reached: Floats
    given: Floats
    any_reached: float
    by_type: dict[str, OfType]

    @property
    def profit(self) -> float:
        return float(self.total[LEDGER].sum())

    @property
    def kept_if_reached(self) -> Floats:
        """What the orders each offer took effect on keep, minor units."""
        result: Floats = self.reached[:, LEDGER].sum(axis=1)
        return result

    def __add__(self, other: "Sums") -> "Sums":
        return Sums(
            self.total + other.total,
            self.reached + other.reached,
            self.given + other.given,
            self.any_reached + other.any_reached,
            {way: mine + other.by_type[way] for way, mine in self.by_type.items()},
        )

    def __sub__(self, other: "Sums") -> "Sums":
        return self + other.times(-1.0)

    def times(self, factor: float) -> "Sums":
        return Sums(
            self.total * factor,
            self.reached * factor,
            self.given * factor,
            self.any_reached * factor,
            {
                way: OfType(one.labels, one.total * factor, one.given * factor, one.kept_if_reached * factor)
                for way, one in self.by_type.items()
            },
        )

    def with_offers(self, source: Sequence[int | None]) -> "Sums":
        """The same sums with other offers in view: each one's number here, None for one that took no effect."""

        def rows(by_offer: Floats) -> Floats:
            padded = np.concatenate([by_offer, np.zeros((1, *by_offer.shape[1:]))])
            result: Floats = padded[[len(by_offer) if one is None else one for one in source]]
            return result

        by_type = {
            way: OfType(one.labels, one.total, one.given, rows(one.kept_if_reached))
            for way, one in self.by_type.items()
        }
        return Sums(self.total, rows(self.reached), rows(self.given), self.any_reached, by_type)


@dataclass(frozen=True, eq=False)
class Costed:
    """Rows under one set of offers, costed. figures: one entry a figure of FIGURES, one column a row.

    cart_by_row, share_by_row: as in `Rows`, carts of the whole mix. took_effect, given: one row an offer.
    """

    cart_by_row: Ints
    share_by_row: Floats
    figures: Floats
    took_effect: Bools
    given: Floats

    def summed(self, mix: Mix, where: Bools | None = None) -> Sums:
        """where: the rows to sum, None for all."""
        size = len(self.cart_by_row)
        starts = range(0, size, ROWS_AT_ONCE) if size else [0]
        return sum_of([self._summed(slice(start, start + ROWS_AT_ONCE), mix, where) for start in starts])

    def _summed(self, rows: slice, mix: Mix, where: Bools | None) -> Sums:
        cart, figures, took_effect = self.cart_by_row[rows], self.figures[:, rows], self.took_effect[:, rows]
        weight = mix.share_by_cart[cart] * self.share_by_row[rows]
        if where is not None:
            weight = weight * where[rows]
        given = self.given[:, rows] * weight
        if_reached = took_effect * weight
        by_row = np.vstack([figures * weight, given.sum(axis=0), figures[LEDGER].sum(axis=0) * if_reached])

        def of_type(types: CartTypes) -> OfType:
            is_of = types.type_by_cart[cart][:, None] == np.arange(len(types.labels))
            by_type = by_row @ is_of.astype(np.float64)
            return OfType(types.labels, by_type[: len(FIGURES)], by_type[len(FIGURES)], by_type[len(FIGURES) + 1 :])

        return Sums(
            total=by_row[: len(FIGURES)].sum(axis=1),
            reached=if_reached @ figures.T,
            given=given.sum(axis=1),
            any_reached=float(weight @ took_effect.any(axis=0)),
            by_type={way: of_type(one) for way, one in mix.types.items()},
        )

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
        )


def end_to_end(parts: Sequence[Costed]) -> Costed:
    """Rows of the same offers, one after another."""
    if len(parts) == 1:
        return parts[0]
    names = [one.name for one in fields(Costed)]
    return Costed(*(np.concatenate([getattr(part, one) for part in parts], axis=-1) for one in names))


def sum_of(parts: Sequence[Sums]) -> Sums:
    """Sums of disjoint rows of the same offers, together."""
    first, *others = parts
    for one in others:
        first = first + one
    return first
