"""Kits: SKUs made of others. Cost, weight, size and stock follow from the parts. docs/sums.md, "Kits"."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.goods.records import COST_PARTS, GoodRecord
from yellow_abacus.core.ground.axes import Axes
from yellow_abacus.core.ground.money import Floats, Ints
from yellow_abacus.core.ground.once import cached_property


@dataclass(frozen=True, eq=False)
class KitParts:
    """What kits are made of. kit: their SKUs (index), rising; axes: which parts are of which; part, units: one entry
    a part: its SKU (index), and how many a kit has of it."""

    kit: Ints
    axes: Axes
    part: Ints
    units: Ints

    @cached_property
    def kit_by_part(self) -> Ints:
        """The kit of each entry."""
        return self.kit[self.axes.cart_by_line]

    def parts_of(self, sku: int) -> dict[int, int]:
        """How many of which parts a SKU is made of; none of one that is no kit."""
        at = np.flatnonzero(self.kit_by_part == sku)
        return dict(zip(self.part[at].tolist(), self.units[at].tolist(), strict=True))

    def kits_with(self, sku: int) -> dict[int, int]:
        """The kits that a SKU is a part of, and how many of it each has."""
        at = np.flatnonzero(self.part == sku)
        return dict(zip(self.kit_by_part[at].tolist(), self.units[at].tolist(), strict=True))

    def with_kits(self, units: Floats, skus: Ints) -> Floats:
        """Units of some SKUs (index, rising; the last axis) as they are taken from stock: to those of parts is added
        what goes with kits.

        >>> parts = KitParts(np.array([0]), Axes(np.array([0, 2])), np.array([1, 2]), np.array([1, 3]))
        >>> parts.with_kits(np.array([2.0, 5.0, 0.0]), np.arange(3)).tolist()
        [2.0, 7.0, 6.0]
        """
        kit, part, each = self._among(skus)
        found = units.copy()
        for at, of, count in zip(part.tolist(), kit.tolist(), each.tolist(), strict=True):
            found[..., at] += units[..., of] * count
        return found

    def as_parts(self, figures: Floats, skus: Ints) -> Floats:
        """A figure of some SKUs (index, rising), of kits the least of what their parts have, their own where none
        has: nan is none."""
        kit, part, _ = self._among(skus)
        return _least(figures, kit, figures[part])

    def stock_as_parts(self, stock: Floats) -> Floats:
        """Stock of all SKUs; there are as many kits as the scarcest part makes, of those that are counted."""
        kit, part, each = self._among(np.arange(len(stock)))
        return _least(stock, kit, stock[part] // each)

    def _among(self, skus: Ints) -> tuple[Ints, Ints, Ints]:
        """Kits and their parts, by place among some SKUs, and how many of it each has."""
        here = np.flatnonzero(np.isin(self.kit_by_part, skus) & np.isin(self.part, skus))
        return np.searchsorted(skus, self.kit_by_part[here]), np.searchsorted(skus, self.part[here]), self.units[here]


def _least(figures: Floats, kit: Ints, of_part: Floats) -> Floats:
    """Figures, those of kits the least of some that is not nan."""
    least = np.full(len(figures), np.nan)
    np.fmin.at(least, kit, of_part)
    return np.where(np.isnan(least), figures, least)


NO_KITS = KitParts(
    np.zeros(0, dtype=np.int64),
    Axes(np.zeros(1, dtype=np.int64)),
    np.zeros(0, dtype=np.int64),
    np.zeros(0, dtype=np.int64),
)


def with_kits(records: Sequence[GoodRecord]) -> list[GoodRecord]:
    """The records with what follows from their parts filled in; a kit of an unknown part costs an unknown amount."""
    known = {record.sku: record for record in records}
    return [filled(record, known) if record.kit else record for record in records]


def filled(kit: GoodRecord, known: Mapping[str, GoodRecord]) -> GoodRecord:
    """Each part of the cost is the sum of the parts'; assembly counts as another cost. A kit in a kit is unknown."""
    parts = [(known.get(sku, GoodRecord(sku)), units) for sku, units in kit.kit]

    def summed(name: str) -> float | None:
        return _sum([(getattr(part, name), units) for part, units in parts])

    def all_known(name: str) -> float | None:
        return None if any(getattr(part, name) is None or part.kit for part, _ in parts) else summed(name)

    return replace(
        kit,
        purchase_cost=all_known("purchase_cost"),
        freight_cost=summed("freight_cost"),
        duty_cost=summed("duty_cost"),
        packaging_cost=summed("packaging_cost"),
        other_cost=(summed("other_cost") or 0.0) + (kit.assembly_cost or 0.0),
        weight=all_known("weight"),
        stock=min((part.stock // units for part, units in parts if part.stock is not None), default=kit.stock),
    )


def _sum(parts: Sequence[tuple[float | None, int]]) -> float | None:
    known = [amount * units for amount, units in parts if amount is not None]
    return sum(known) if known else None


def unit_cost(record: GoodRecord) -> float | None:
    """All parts of a unit's cost, minor units; None where the purchase cost is not known."""
    if record.purchase_cost is None:
        return None
    return sum(getattr(record, name) or 0.0 for name in COST_PARTS)


def volume_of(record: GoodRecord, known: Mapping[str, GoodRecord]) -> float | None:
    """Cubic millimetres of one unit; of a kit with no size of its own, those of its parts. None where not known."""
    sides = (record.length, record.width, record.height)
    if None not in sides:
        return float(sides[0] * sides[1] * sides[2])  # type: ignore[operator]
    parts = [
        (volume_of(known[sku], known), units) for sku, units in record.kit if sku in known and not known[sku].kit
    ]
    if not record.kit or len(parts) < len(record.kit) or any(volume is None for volume, _ in parts):
        return None
    return _sum(parts)


def longest_of(record: GoodRecord, known: Mapping[str, GoodRecord]) -> float | None:
    """Millimetres of the longest side; of a kit with no size of its own, the longest of its parts."""
    own = [side for side in (record.length, record.width, record.height) if side is not None]
    if own:
        return float(max(own))
    parts = [longest_of(known[sku], known) for sku, _ in record.kit if sku in known and not known[sku].kit]
    return max((side for side in parts if side is not None), default=None)
