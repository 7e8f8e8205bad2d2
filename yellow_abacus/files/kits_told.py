"""What files of goods tell of kits: all parts in a cell, or one a row; and whether they can be parts.

>>> parse_kit("2 x Pot; HERB (3); soil:1", {"pot": "POT", "herb": "HERB", "soil": "SOIL"})
(('POT', 2), ('HERB', 3), ('SOIL', 1))
"""

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.goods.records import COST_PARTS, GoodRecord
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.columns import Columns, answering
from yellow_abacus.files.fields import OF_ORDERS
from yellow_abacus.files.order_shapes import counted, things_in
from yellow_abacus.files.rejected import Rejection
from yellow_abacus.files.rows import Coded, coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import BadCellError, DecimalMark, number_if_any

Kit = tuple[tuple[str, int], ...]
"""SKUs and units of each."""

MOST_UNITS = 9_999
LIKE = "Write each part once, like 2 x SKU-A; SKU-B."
ONLY_PARTS = frozenset(["sku", "product", "kit", "kit_units", "stock"])
"""A file that tells no more than these tells parts, and a column *Quantity* in it is of them."""

_PLUS = re.compile(r"\s\+\s")


@dataclass(frozen=True)
class ShopGoods:
    """What the shop has: its SKUs, and the parts of kits."""

    skus: Sequence[str]
    kits: Mapping[str, Kit]

    def beside(self, skus: Sequence[str]) -> dict[str, str]:
        """The SKUs that may be parts, by how they are folded: of the shop, of its kits, and of a file."""
        of_kits = (sku for kit in self.kits.values() for sku, _ in kit)
        return {folded(sku): sku for sku in (*of_kits, *self.skus, *skus)}


def parse_kit(text: str, known: Mapping[str, str]) -> Kit:
    """known: SKUs by how they are folded. Raises BadCellError."""
    found: dict[str, int] = {}
    for part in (one for some in things_in(text) for one in _PLUS.split(some)):
        name, units = (part, "1") if folded(part) in known else counted(part)
        sku = known.get(folded(name))
        if sku is None:
            message = f"Neither Goods nor this file has the SKU “{name}”."
            raise BadCellError(message, "Bring in its product first, or in the same file.")
        if not 1 <= int(units) <= MOST_UNITS or sku in found:
            raise BadCellError(f"“{part}” is not a part of a kit.", LIKE)
        found[sku] = int(units)
    return tuple(found.items())


def kits_within_kits(records: Sequence[GoodRecord], kits: Mapping[str, Kit]) -> Iterator[tuple[str, str, str]]:
    """Of records that tell kits: SKU, message and mend of those that have a kit as a part, or are parts of one. kits:
    those of the shop."""
    after = {**kits, **{record.sku: record.kit for record in records}}
    part_of = {part: sku for sku, kit in after.items() for part, _ in kit}
    for record in records:
        inner = next((part for part, _ in record.kit if after.get(part)), None)
        if inner is not None:
            yield record.sku, f"“{inner}” is a kit itself.", "List its parts instead."
        elif record.kit and record.sku in part_of:
            yield (
                record.sku,
                f"{record.sku} is a part of {part_of[record.sku]} itself.",
                "List its parts there instead.",
            )


def without_kits_within_kits(
    records: list[GoodRecord], rows: Mapping[str, int], kits: Mapping[str, Kit], label: str
) -> tuple[list[GoodRecord], list[Rejection]]:
    """Those that can be, and what is wrong with the others. rows: of each SKU; label: of the field of parts."""
    within = kits_within_kits(records, kits)
    told = {sku: Rejection(rows[sku], label, message, mend) for sku, message, mend in within}
    return [record for record in records if record.sku not in told] if told else records, list(told.values())


def notes_of_kits(records: Sequence[GoodRecord]) -> list[str]:
    """That what kits are said to cost or weigh is not gone by.

    >>> notes_of_kits([GoodRecord("SET", kit=(("A", 2),), purchase_cost=900.0), GoodRecord("A", purchase_cost=300.0)])
    ['What 1 kit costs and weighs follows from its parts, not from the cells that tell it.']
    """
    told = sum(
        bool(one.kit) and any(getattr(one, name) is not None for name in (*COST_PARTS, "weight")) for one in records
    )
    what = (
        "1 kit costs and weighs follows from its" if told == 1 else f"{told:,} kits cost and weigh follows from their"
    )
    return [f"What {what} parts, not from the cells that tell it."] if told else []


def with_units_of_parts(table: Table, columns: Columns) -> Columns:
    r"""The columns, where a file tells a part a row and nothing else, with its units taken for those of parts.

    >>> from yellow_abacus.files.tables import read_table
    >>> table = read_table(b"Kit SKU,Component SKU,Quantity\nSET,A,2\n")
    >>> with_units_of_parts(table, {"sku": (0,), "kit": (1,), "stock": (2,)})
    {'sku': (0,), 'kit': (1,), 'kit_units': (2,)}
    """
    if not {"kit", "stock"} <= columns.keys() <= ONLY_PARTS or "kit_units" in columns:
        return columns
    at = columns["stock"][0]
    is_units = (
        at in answering(table.header, OF_ORDERS["quantity"]) and table.rows.columns[columns["kit"][0]].filled.all()
    )
    if not is_units:
        return columns
    return {**{key: some for key, some in columns.items() if key != "stock"}, "kit_units": (at,)}


def a_row_a_kit(table: Table, columns: Columns, mark: DecimalMark) -> Table:
    """A table that tells parts of kits in rows of their own, or their units in a column, as one with a row a SKU and
    all parts in a cell; any other as it is. Rows of a SKU are one where they tell nothing else that differs."""
    if not {"sku", "kit"} <= columns.keys():
        return table
    rows, (at, *_) = table.rows, columns["kit"]
    sku, part = rows.columns[columns["sku"][0]], rows.columns[at]
    units = rows.columns[columns["kit_units"][0]] if "kit_units" in columns else None
    _, first, of_row = np.unique(sku.codes, return_index=True, return_inverse=True)
    if units is None and (len(first) == len(rows) or not part.filled.all()):
        return table
    others = {place for key, some in columns.items() if key not in ("kit", "kit_units") for place in some}
    if any((one.codes != one.codes[first[of_row]]).any() for one in map(rows.columns.__getitem__, others)):
        return table
    told: list[list[str]] = [[] for _ in first]
    for row, each in enumerate(of_row.tolist()):
        if name := part.texts[part.codes[row]].strip():
            told[each].append(_with_units(name, "" if units is None else units.texts[units.codes[row]], mark))
    order = np.argsort(first)
    merged = coded(["; ".join(told[each]) for each in order.tolist()])
    return replace(table, rows=rows.some(first[order]).changed({at: merged} | _nothing(columns, len(first))))


def _with_units(part: str, text: str, mark: DecimalMark) -> str:
    number = number_if_any(text.strip(), mark) if text.strip() else 1
    return f"{int(number)} x {part}" if number is not None and number == int(number) else f"{text.strip()} x {part}"


def _nothing(columns: Columns, size: int) -> dict[int, Coded]:
    return {at: Coded([""], np.zeros(size, dtype=np.int64)) for at in columns.get("kit_units", ())}
