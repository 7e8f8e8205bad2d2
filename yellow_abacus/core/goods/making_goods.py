"""Goods made from records: one column a field, in SKU order, what kits are made of worked out.

The records of all goods are held as columns too (`GoodTable`): a shop of many SKUs is read, looked through and
changed so, and a single record made only where it is asked for.

>>> goods = make_goods([GoodRecord("POT", list_price=500), GoodRecord("AXE", purchase_cost=120.0)])
>>> goods.skus, goods.list_price.tolist(), goods.unit_cost.tolist()
(('AXE', 'POT'), [-1, 500], [120.0, nan])
"""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, fields
from datetime import date
from functools import cached_property
from typing import Any

import numpy as np

from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.goods.kits import filled, longest_of, volume_of
from yellow_abacus.core.goods.price_list import PriceStep, no_prices, price_list
from yellow_abacus.core.goods.records import COST_PARTS, GoodRecord
from yellow_abacus.core.ground.keeper import Apart
from yellow_abacus.core.ground.money import MILLIGRAMS, WHOLE_BP, Bools, Floats, Ints

NAMES = tuple(field.name for field in fields(GoodRecord))


@dataclass(frozen=True, eq=False)
class GoodTable(Mapping[str, GoodRecord], Apart):
    """All goods, by SKU. columns: one a field of GoodRecord, one entry a SKU, in SKU order."""

    columns: dict[str, list[Any]]

    @property
    def skus(self) -> list[str]:
        return self.columns["sku"]

    def record(self, at: int) -> GoodRecord:
        return GoodRecord(*(self.columns[name][at] for name in NAMES))

    def __getitem__(self, sku: str) -> GoodRecord:
        return self.record(self._place[sku])

    def __iter__(self) -> Iterator[str]:
        return iter(self.skus)

    def __len__(self) -> int:
        return len(self.skus)

    @cached_property
    def _place(self) -> dict[str, int]:
        return {sku: at for at, sku in enumerate(self.skus)}

    def with_records(self, records: Iterable[GoodRecord], without: Iterable[str] = ()) -> "GoodTable":
        """The table with some records new or otherwise, and some SKUs gone."""
        told = {record.sku: record for record in records}
        gone = {sku for sku in without if sku in self._place and sku not in told}
        fresh = [record for sku, record in told.items() if sku not in self._place]
        if gone or fresh:
            left = (self.record(at) for at, sku in enumerate(self.skus) if sku not in gone and sku not in told)
            return table_of([*left, *told.values()])
        columns = {name: list(column) for name, column in self.columns.items()}
        for sku, record in told.items():
            for name in NAMES:
                columns[name][self._place[sku]] = getattr(record, name)
        return GoodTable(columns)

    @cached_property
    def complete(self) -> "GoodTable":
        """The same, with what follows for kits from their parts filled in."""
        kits = [at for at, kit in enumerate(self.columns["kit"]) if kit]
        return self.with_records(filled(self.record(at), self) for at in kits) if kits else self


def table_of(records: Iterable[GoodRecord]) -> GoodTable:
    """The later of two records of one SKU counts."""
    by_sku = {record.sku: record for record in records}
    found = [by_sku[sku] for sku in sorted(by_sku)]
    return GoodTable({name: [getattr(record, name) for record in found] for name in NAMES})


def make_goods(told: GoodTable | Sequence[GoodRecord]) -> Goods:
    """Goods as arrays, in SKU order."""
    table = told if isinstance(told, GoodTable) else table_of(told)
    columns, skus = table.complete.columns, tuple(table.skus)
    categories, in_category = _categories(columns["categories"])
    weight = _figures(columns["weight"])
    return Goods(
        skus=skus,
        products=tuple(columns["product"]),
        list_price=_prices(columns["list_price"]),
        reduced_price=_prices(columns["reduced_price"]),
        unit_cost=_unit_cost(columns),
        weight=np.rint(weight * MILLIGRAMS),
        stock=_figures(columns["stock"]),
        brands=tuple(columns["brand"]),
        tags=tuple(columns["tags"]),
        never_discounted=_those(skus, columns["never_discounted"]),
        gift_only=_those(skus, columns["gift_only"]),
        categories=categories,
        in_category=in_category,
        prices=_quantity_prices(skus, columns),
        reduced_first=_days(columns["reduced_from"], date.min),
        reduced_last=_days(columns["reduced_to"], date.max),
        tax_classes=tuple(columns["tax_class"]),
        volume=_of_size(table, lambda sides: sides.prod(axis=0), volume_of),
        longest=_of_size(table, lambda sides: np.fmax.reduce(sides), longest_of),
        return_rate=np.array(columns["return_bp"], dtype=np.float64) / WHOLE_BP,
        commission_bp=np.array(columns["commission_bp"], dtype=np.float64),
        insured=np.array(columns["insured"], dtype=np.bool_),
    )


def _figures(column: Sequence[float | None]) -> Floats:
    """nan for what is not known."""
    return np.array(column, dtype=np.float64)


def _prices(column: Sequence[int | None]) -> Ints:
    return np.array([NO_PRICE if price is None else price for price in column], dtype=np.int64)


def _days(column: Sequence[date | None], otherwise: date) -> Ints:
    return np.array([(day or otherwise).toordinal() for day in column], dtype=np.int64)


def _those(skus: Sequence[str], column: Sequence[bool]) -> frozenset[str]:
    return frozenset(sku for sku, meant in zip(skus, column, strict=True) if meant)


def _categories(column: Sequence[Sequence[str]]) -> tuple[tuple[str, ...], Bools]:
    """All categories, and one row a category, one column a SKU."""
    names = tuple(sorted({name for told in column for name in told}))
    number = {name: at for at, name in enumerate(names)}
    inside = np.zeros((len(names), len(column)), dtype=np.bool_)
    pairs = [(number[name], at) for at, told in enumerate(column) for name in told]
    if pairs:
        inside[tuple(np.array(pairs).T)] = True
    return names, inside


def _unit_cost(columns: Mapping[str, Sequence[Any]]) -> Floats:
    """All parts of a unit's cost, minor units; nan where the purchase cost is not known."""
    purchase, *others = (_figures(columns[name]) for name in COST_PARTS)
    for part in others:
        purchase = purchase + np.nan_to_num(part)
    return purchase


def _quantity_prices(skus: Sequence[str], columns: Mapping[str, Sequence[Any]]) -> Any:
    quantity, groups = columns["quantity_prices"], columns["group_prices"]
    steps = [
        *(PriceStep(skus[at], *step) for at, told in enumerate(quantity) for step in told),
        *(PriceStep(skus[at], units, price, group) for at, told in enumerate(groups) for group, units, price in told),
    ]
    if not steps:
        return no_prices(len(skus))
    counted = zip(columns["counted_by_product"], columns["product"], strict=True)
    return price_list(skus, steps, np.array([by_product and bool(name) for by_product, name in counted]))


def _of_size(
    table: GoodTable,
    of_sides: Callable[[Floats], Floats],
    of_record: Callable[[GoodRecord, Mapping[str, GoodRecord]], float | None],
) -> Floats:
    """A figure of each SKU's three sides; of kits, what their parts come to where they have no size of their own."""
    sides = np.array([_figures(table.columns[name]) for name in ("length", "width", "height")])
    found = of_sides(sides)
    for at, kit in enumerate(table.columns["kit"]):
        if kit:
            told = of_record(table.record(at), table)
            found[at] = np.nan if told is None else told
    return found
