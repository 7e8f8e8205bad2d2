"""Units that rows of priced carts take of goods, and their sums: things put in, and goods added to reach an offer.

Few rows take anything, and each of few goods, so what they take is a list of entries.

>>> entries = Taking(np.array([0, 2]), np.array([7, 7]), np.array([1.0, 3.0]))
>>> entries.some(np.array([2, 1]), 3).row.tolist()
[0]
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, fields, replace

import numpy as np

from yellow_abacus.core.ground.money import Floats, Ints


@dataclass(frozen=True, eq=False)
class Taking:
    """Entries, in no order: which row takes how many units of which SKU (index)."""

    row: Ints
    sku: Ints
    units: Floats

    def some(self, rows: slice | Ints, rows_in_all: int) -> "Taking":
        """Of some rows alone, each once, numbered among themselves."""
        if not len(self.row):
            return self
        number = np.full(rows_in_all, -1)
        mine = np.arange(rows_in_all)[rows]
        number[mine] = np.arange(len(mine))
        row = number[self.row]
        here = row >= 0
        return Taking(row[here], self.sku[here], self.units[here])

    def beside(self, other: "Taking") -> "Taking":
        """Of the same rows, that and this."""
        return together([self, other])

    def from_row(self, first: int) -> "Taking":
        """The same where its rows begin at `first`."""
        return replace(self, row=self.row + first) if first and len(self.row) else self


NOTHING = Taking(np.zeros(0, dtype=np.int64), np.zeros(0, dtype=np.int64), np.zeros(0))


def together(parts: Iterable[Taking]) -> Taking:
    """All entries of several."""
    some = [one for one in parts if len(one.row)]
    if not some:
        return NOTHING
    return Taking(*(np.concatenate([getattr(one, field.name) for one in some]) for field in fields(Taking)))


@dataclass(frozen=True, eq=False)
class FromStock:
    """units: [group, SKU of `skus`, offer + 1]: of all orders, and of those each offer took effect on. skus: indices,
    rising."""

    skus: tuple[int, ...]
    units: Floats

    def of(self, sku: int) -> Floats | None:
        """Of one SKU; None where nothing is taken of it."""
        return self.units[..., self.skus.index(sku), :] if sku in self.skus else None

    def each(self, make: Callable[[Floats], Floats]) -> "FromStock":
        return FromStock(self.skus, make(self.units))

    def joined(self, other: "FromStock", join: Callable[[Floats, Floats], Floats]) -> "FromStock":
        if self.skus == other.skus:
            return FromStock(self.skus, join(self.units, other.units))
        skus = tuple(sorted({*self.skus, *other.skus}))
        return FromStock(skus, join(self._of_all(skus), other._of_all(skus)))

    def _of_all(self, skus: tuple[int, ...]) -> Floats:
        *before, _, offers = self.units.shape
        found = np.zeros((*before, len(skus), offers))
        found[..., np.searchsorted(skus, self.skus).astype(np.int64), :] = self.units
        return found
