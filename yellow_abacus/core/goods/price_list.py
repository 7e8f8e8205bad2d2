"""Quantity prices and prices of groups: what a unit stands at beside the list price.

A SKU's steps say "from so many units at so much". A group with a step from 1 unit has a price of its own there:
that and its further steps stand alone for the group's shoppers; where it has none, its steps stand beside
everybody's. docs/sums.md, "Standing price".
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.ground.naming import folded

NEVER = np.iinfo(np.int64).max


@dataclass(frozen=True)
class PriceStep:
    """From `units` of the SKU (or its product) on, a unit stands at `price`. group: empty for everybody."""

    sku: str
    units: int
    price: int
    group: str = ""


@dataclass(frozen=True, eq=False)
class Steps:
    """Of one group: one row a step, rising, one column a SKU; `units` is NEVER where a SKU has fewer steps."""

    units: Ints
    price: Ints

    @property
    def own(self) -> Bools:
        """One truth a SKU: whether the group has a price of its own there."""
        result: Bools = (self.units == 1).any(axis=0)
        return result

    def reached(self, standing: Ints, sku_by_line: Ints, units_by_line: Ints) -> Ints:
        """`standing`, or the price of the highest step reached where there is one."""
        for units, price in zip(self.units, self.price, strict=True):
            standing = np.where(units_by_line >= units[sku_by_line], price[sku_by_line], standing)
        return standing


@dataclass(frozen=True, eq=False)
class PriceList:
    """everybody, by_group: the steps; by_group by the group's name as it is compared.

    by_product: one truth a SKU: whether units of its whole product count together.
    """

    everybody: Steps
    by_group: dict[str, Steps]
    by_product: Bools

    @property
    def is_empty(self) -> bool:
        return not len(self.everybody.units) and not self.by_group


def price_list(skus: Sequence[str], steps: Iterable[PriceStep], by_product: Bools) -> PriceList:
    """The steps as arrays; SKUs that are not among `skus` are left out."""
    index = {sku: at for at, sku in enumerate(skus)}
    found: dict[str, dict[int, list[tuple[int, int]]]] = {}
    for step in steps:
        if step.sku in index:
            found.setdefault(folded(step.group), {}).setdefault(index[step.sku], []).append((step.units, step.price))
    everybody = _steps(found.pop("", {}), len(skus))
    return PriceList(everybody, {group: _steps(told, len(skus)) for group, told in found.items()}, by_product)


def no_prices(skus: int) -> PriceList:
    return PriceList(_steps({}, skus), {}, np.zeros(skus, dtype=np.bool_))


def _steps(by_sku: dict[int, list[tuple[int, int]]], skus: int) -> Steps:
    most = max((len(told) for told in by_sku.values()), default=0)
    units, price = np.full((most, skus), NEVER), np.zeros((most, skus), dtype=np.int64)
    for sku, told in by_sku.items():
        for number, (from_units, amount) in enumerate(sorted(told)):
            units[number, sku], price[number, sku] = from_units, amount
    return Steps(units, price)
