"""Goods made from records: one column a field, in SKU order, what kits are made of worked out.

The records of all goods are held as columns too (`GoodTable`): a shop of many SKUs is read, looked through and
changed so, and a single record made only where it is asked for.

>>> goods = make_goods([GoodRecord("POT", list_price=500), GoodRecord("AXE", purchase_cost=120.0)])
>>> goods.skus, goods.list_price.tolist(), goods.unit_cost.tolist()
(('AXE', 'POT'), [-1, 500], [120.0, nan])
"""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, fields
from datetime import date
from itertools import compress, count
from operator import ne
from typing import Any, TypeVar

import numpy as np

from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.goods.kits import KitParts, filled, longest_of, volume_of
from yellow_abacus.core.goods.price_list import PriceStep, no_prices, price_list
from yellow_abacus.core.goods.records import COST_PARTS, GoodRecord
from yellow_abacus.core.ground.axes import Axes
from yellow_abacus.core.ground.keeper import Apart
from yellow_abacus.core.ground.money import MILLIGRAMS, WHOLE_BP, Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property

Made = TypeVar("Made")

NAMES = tuple(one.name for one in fields(GoodRecord))


@dataclass(frozen=True, eq=False)
class GoodTable(Mapping[str, GoodRecord], Apart):
    """All goods, by SKU. columns: one a field of GoodRecord, one entry a SKU, in SKU order.

    made: what was made of columns, by how; a table that shares them need not make it again.
    """

    columns: dict[str, list[Any]]
    made: dict[str, tuple[tuple[list[Any], ...], Any]] = field(default_factory=dict)

    @property
    def skus(self) -> list[str]:
        return self.columns["sku"]

    def of(self, make: Callable[..., Made], *names: str) -> Made:
        """What `make` makes of some columns."""
        key, told = f"{make.__qualname__} {names}", tuple(self.columns[name] for name in names)
        known = self.made.get(key)
        if known is None or any(a is not b for a, b in zip(known[0], told, strict=True)):
            known = self.made[key] = (told, make(*told))
        found: Made = known[1]
        return found

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
        return self.of(_places, "sku")

    def with_records(self, records: Iterable[GoodRecord], without: Iterable[str] = ()) -> "GoodTable":
        """The table with some records new or otherwise, and some SKUs gone."""
        told = {record.sku: record for record in records}
        gone = {sku for sku in without if sku in self._place and sku not in told}
        fresh = [record for sku, record in told.items() if sku not in self._place]
        if gone or fresh:
            left = (self.record(at) for at, sku in enumerate(self.skus) if sku not in gone and sku not in told)
            return table_of([*left, *told.values()])
        return GoodTable({name: self._with_values(name, told) for name in NAMES}, dict(self.made))

    def _with_values(self, name: str, told: Mapping[str, GoodRecord]) -> list[Any]:
        """One column with what some records say; the same list where they say nothing new."""
        column, values = self.columns[name], {self._place[sku]: getattr(one, name) for sku, one in told.items()}
        if all(column[at] == value for at, value in values.items()):
            return column
        column = list(column)
        for at, value in values.items():
            column[at] = value
        return column

    def differing(self, other: "GoodTable") -> set[str]:
        """The SKUs whose records are not the same in another table of the same SKUs."""
        at: set[int] = set()
        for name in NAMES:
            mine, theirs = self.columns[name], other.columns[name]
            if mine is not theirs:
                at.update(compress(count(), map(ne, mine, theirs)))
        return {self.skus[place] for place in at}

    def touched_by(self, named: set[str], before: "GoodTable") -> list[int]:
        """The goods, by place, to which it can matter that some SKUs are otherwise than before: those, others of
        their products, and kits they are in."""
        products = {one[sku].product for one in (before, self) for sku in named} - {""}
        found = {self._place[sku] for sku in named}
        found.update(at for at, product in enumerate(self.columns["product"]) if product in products)
        kits = self.columns["kit"]
        found.update(at for at in self.of(_kits, "kit") if any(part in named for part, _ in kits[at]))
        return sorted(found)

    @property
    def kit_parts(self) -> KitParts:
        """What the kits are made of, of the goods that are here."""
        kits, told = self.of(_kits, "kit"), self.columns["kit"]
        parts = [[(self._place[sku], units) for sku, units in told[at] if sku in self._place] for at in kits]
        first = np.cumsum([0, *map(len, parts)])
        flat = np.array([part for of in parts for part in of], dtype=np.int64).reshape(-1, 2)
        return KitParts(np.array(kits, dtype=np.int64), Axes(first), flat[:, 0], flat[:, 1])

    @property
    def complete(self) -> "GoodTable":
        """The same, with what follows for kits from their parts filled in."""
        return self._with_kits if self.of(_kits, "kit") else self

    @cached_property
    def _with_kits(self) -> "GoodTable":
        return self.with_records(filled(self.record(at), self) for at in self.of(_kits, "kit"))


def table_of(records: Iterable[GoodRecord]) -> GoodTable:
    """The later of two records of one SKU counts."""
    by_sku = {record.sku: record for record in records}
    found = [by_sku[sku] for sku in sorted(by_sku)]
    return GoodTable({name: [getattr(record, name) for record in found] for name in NAMES})


def make_goods(told: GoodTable | Sequence[GoodRecord]) -> Goods:
    """Goods as arrays, in SKU order."""
    table = told if isinstance(told, GoodTable) else table_of(told)
    full = table.complete
    of = full.of
    categories, in_category = of(_categories, "categories")
    return Goods(
        skus=of(tuple, "sku"),
        products=of(tuple, "product"),
        list_price=of(_asked, "list_price", "going_price"),
        reduced_price=of(prices, "reduced_price"),
        least_advertised=of(prices, "least_advertised"),
        unit_cost=of(_unit_cost, *COST_PARTS),
        weight=np.rint(of(_figures, "weight") * MILLIGRAMS),
        stock=of(_figures, "stock"),
        brands=of(tuple, "brand"),
        tags=of(tuple, "tags"),
        never_discounted=of(_those, "sku", "never_discounted"),
        gift_only=of(_those, "sku", "gift_only"),
        categories=categories,
        in_category=in_category,
        prices=of(_quantity_prices, "sku", "quantity_prices", "group_prices", "counted_by_product", "product"),
        reduced_first=of(_first_days, "reduced_from"),
        reduced_last=of(_last_days, "reduced_to"),
        tax_classes=of(tuple, "tax_class"),
        volume=_of_size(table, _volume, volume_of),
        longest=_of_size(table, _longest, longest_of),
        return_rate=of(_figures, "return_bp") / WHOLE_BP,
        commission_bp=of(_figures, "commission_bp"),
        insured=of(_truths, "insured"),
        kits=table.kit_parts,
        _of_names=of(_nothing_found, "sku", "product", "categories", "brand", "tags", "tax_class"),
    )


def _nothing_found(*_: Sequence[object]) -> dict[str, Any]:
    return {}


def _figures(column: Sequence[float | None]) -> Floats:
    """nan for what is not known."""
    return np.array(column, dtype=np.float64)


def prices(column: Sequence[int | None]) -> Ints:
    """Minor units, NO_PRICE where there is none."""
    return np.array([NO_PRICE if price is None else price for price in column], dtype=np.int64)


def _asked(listed: Sequence[int | None], going: Sequence[int | None]) -> Ints:
    """The list price, or the going price in its place."""
    return prices([one if other is None else other for one, other in zip(listed, going, strict=True)])


def _truths(column: Sequence[bool]) -> Bools:
    return np.array(column, dtype=np.bool_)


def _first_days(column: Sequence[date | None]) -> Ints:
    return _days(column, date.min)


def _last_days(column: Sequence[date | None]) -> Ints:
    return _days(column, date.max)


def _days(column: Sequence[date | None], otherwise: date) -> Ints:
    """Ordinals. Most goods have the same few, or none."""
    known = {day: (day or otherwise).toordinal() for day in set(column)}
    return np.fromiter(map(known.__getitem__, column), np.int64, len(column))


def _those(skus: Sequence[str], column: Sequence[bool]) -> frozenset[str]:
    return frozenset(sku for sku, meant in zip(skus, column, strict=True) if meant)


def _categories(column: Sequence[Sequence[str]]) -> tuple[tuple[str, ...], Bools]:
    """All categories, and one row a category, one column a SKU."""
    names = tuple(sorted({name for told in column for name in told}))
    number = {name: at for at, name in enumerate(names)}
    inside = np.zeros((len(names), len(column)), dtype=np.bool_)
    rows = np.fromiter((number[name] for told in column for name in told), np.int64)
    many = np.fromiter(map(len, column), np.int64, len(column))
    inside[rows, np.repeat(np.arange(len(column)), many)] = True
    return names, inside


def _unit_cost(purchase_cost: Sequence[float | None], *parts: Sequence[float | None]) -> Floats:
    """All parts of a unit's cost, minor units; nan where the purchase cost is not known."""
    whole = _figures(purchase_cost)
    for part in parts:
        whole = whole + np.nan_to_num(_figures(part))
    return whole


def _quantity_prices(
    skus: Sequence[str],
    quantity: Sequence[Sequence[tuple[int, int]]],
    groups: Sequence[Sequence[tuple[str, int, int]]],
    by_product: Sequence[bool],
    products: Sequence[str],
) -> Any:
    steps = [
        *(PriceStep(sku, *step) for sku, told in zip(skus, quantity, strict=True) for step in told),
        *(
            PriceStep(sku, units, price, group)
            for sku, told in zip(skus, groups, strict=True)
            for group, units, price in told
        ),
    ]
    if not steps:
        return no_prices(len(skus))
    counted = zip(by_product, products, strict=True)
    return price_list(skus, steps, np.array([together and bool(name) for together, name in counted]))


def _of_size(
    table: GoodTable,
    of_sides: Callable[..., Floats],
    of_record: Callable[[GoodRecord, Mapping[str, GoodRecord]], float | None],
) -> Floats:
    """A figure of each SKU's three sides; of kits, what their parts come to where they have no size of their own."""
    found, kits = table.of(of_sides, "length", "width", "height"), table.of(_kits, "kit")
    if not kits:
        return found
    found = found.copy()
    for at in kits:
        told = of_record(table.record(at), table)
        found[at] = np.nan if told is None else told
    return found


def _volume(*sides: Sequence[float | None]) -> Floats:
    result: Floats = np.prod([_figures(side) for side in sides], axis=0)
    return result


def _longest(*sides: Sequence[float | None]) -> Floats:
    result: Floats = np.fmax.reduce([_figures(side) for side in sides])
    return result


def _kits(column: Sequence[object]) -> tuple[int, ...]:
    """Which of the goods are kits."""
    return tuple(at for at, kit in enumerate(column) if kit)


def _places(skus: Sequence[str]) -> dict[str, int]:
    return {sku: at for at, sku in enumerate(skus)}
