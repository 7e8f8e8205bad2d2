"""Rows of an order file that are no goods ordered: a tip, a fee, wrapping; and what says that it is part of a kit
beside it.

The former are passed over where their names say so in ordinary words, or it was chosen so; what else has no SKU
stays.

>>> passes_over("Gift wrapping", ()), passes_over("Fern", ()), passes_over("Fern", (("fern", True),))
(True, False, True)
"""

from collections import Counter
from collections.abc import Callable, Container, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.headings import simplify, words_of
from yellow_abacus.files.order_shapes import OF_A_ROW, by_name, first_row_of_order, tells_one_of, without_lines
from yellow_abacus.files.rows import Coded
from yellow_abacus.files.tables import Table

Chosen = Sequence[tuple[str, bool]]
"""Names, and whether their rows are passed over."""


@dataclass(frozen=True)
class NameTold:
    """What rows without a SKU of the shop are called, how many they are, and whether they are passed over."""

    name: str
    rows: int
    passed_over: bool


def passes_over(name: str, chosen: Chosen) -> bool:
    """chosen: by hand, against what the words say or beside it."""
    by_hand = {folded(one): is_so for one, is_so in chosen}
    return by_hand.get(folded(name), simplify(name) in words_of("no_goods"))


def without_no_goods(
    table: Table, columns: Columns, skus: Container[str], chosen: Chosen
) -> tuple[Table, tuple[NameTold, ...]]:
    """The table without rows that are passed over, and the names of all that tell no SKU, those of most rows first.

    A row that tells a SKU the shop does not have is passed over too, but not listed unless it is. The first row of an
    order stays for what it tells of that, without its goods; and so do all where their order has nothing else. skus:
    of the shop, folded.
    """
    if not (columns.keys() >= OF_A_ROW and "product" in columns):
        return table, ()
    number, sku, product = (table.rows.columns[columns[key][0]] for key in ("number", "sku", "product"))
    known = tells_one_of(sku, skus)
    aside = ~known & product.filled
    if not aside.any():
        return table, ()
    order = number.codes[first_row_of_order(number)]
    aside &= np.isin(order, order[known])
    says: Bools = np.array([passes_over(text.strip(), chosen) for text in product.texts], dtype=np.bool_)
    goes = aside & says[product.codes]
    told = Counter(product.texts[code].strip() for code in product.codes[aside & (goes | ~sku.filled)].tolist())
    names = tuple(NameTold(name, rows, passes_over(name, chosen)) for name, rows in told.most_common())
    return without_lines(table, columns, goes), names


def without_parts(table: Table, columns: Columns, skus: Container[str]) -> tuple[Table, int]:
    """The table without rows that say of which kit they are parts, where that is in the same order, and how many
    those are. skus: of the shop, folded."""
    if not columns.keys() >= OF_A_ROW | {"part_of"}:
        return table, 0
    number, sku, kit = (table.rows.columns[columns[key][0]] for key in ("number", "sku", "part_of"))
    ids = {text: at for at, text in enumerate(dict.fromkeys(folded(one.strip()) for one in (*sku.texts, *kit.texts)))}
    of_sku, of_kit = (np.array([ids[folded(text.strip())] for text in one.texts])[one.codes] for one in (sku, kit))
    known = tells_one_of(sku, skus)
    order = number.codes[first_row_of_order(number)] * len(ids)
    goes = kit.filled & (of_kit != of_sku) & np.isin(order + of_kit, (order + of_sku)[known])
    return (without_lines(table, columns, goes) if goes.any() else table), int(goes.sum())


def notes_of_parts(rows: int) -> list[str]:
    """How many rows are parts of a kit beside them, in words.

    >>> notes_of_parts(2)
    ['2 rows are parts of kits in the same orders, and count with those.']
    """
    if not rows:
        return []
    which = "row is a part" if rows == 1 else "rows are parts"
    return [f"{rows:,} {which} of kits in the same orders, and count with those."]


def named_where_untold(
    table: Table, columns: Columns, skus: Container[str], named: Callable[[], Mapping[str, Sequence[str]]]
) -> Table:
    """The table with the SKUs of goods that rows tell by a name alone which is that of one SKU. skus: of the shop,
    folded; named: finds those that go by each name, simplified."""
    if not (columns.keys() >= OF_A_ROW and "product" in columns):
        return table
    sku, quantity, product = (table.rows.columns[columns[key][0]] for key in ("sku", "quantity", "product"))
    untold = ~sku.filled & quantity.filled & product.filled
    if not untold.any():
        return table
    told, places = by_name(table, columns, named())
    name = told.rows.columns[places["sku"][0]]
    codes = np.where(untold & tells_one_of(name, skus), len(sku.texts) + name.codes, sku.codes)
    return replace(table, rows=table.rows.changed({columns["sku"][0]: Coded([*sku.texts, *name.texts], codes)}))
