"""Rows of an order file that tell neither goods nor what its orders have columns for: a tip, a fee, wrapping.

They are passed over where their names say so in ordinary words, or it was chosen so; what else has no SKU stays.

>>> passes_over("Gift wrapping", ()), passes_over("Fern", ()), passes_over("Fern", (("fern", True),))
(True, False, True)
"""

from collections import Counter
from collections.abc import Callable, Container, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.ground.axes import among
from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.columns import Columns, simplify, words_of
from yellow_abacus.files.order_shapes import OF_A_LINE, OF_A_ROW, by_name, first_row_of_order
from yellow_abacus.files.rows import Coded, emptied
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
    known: Bools = np.array([folded(text.strip()) in skus for text in sku.texts], dtype=np.bool_)[sku.codes]
    aside = ~known & product.filled
    if not aside.any():
        return table, ()
    order = number.codes[first_row_of_order(number)]
    _, first = np.unique(order, return_index=True)
    aside &= np.isin(order, order[known])
    says: Bools = np.array([passes_over(text.strip(), chosen) for text in product.texts], dtype=np.bool_)
    goes = aside & says[product.codes]
    told = Counter(product.texts[code].strip() for code in product.codes[aside & (goes | ~sku.filled)].tolist())
    names = tuple(NameTold(name, rows, passes_over(name, chosen)) for name, rows in told.most_common())
    begins = goes & among(first, len(goes))
    places = [at for key in OF_A_LINE & columns.keys() for at in columns[key]]
    rows = table.rows.changed({at: emptied(table.rows.columns[at], begins) for at in places})
    return replace(table, rows=rows.some(np.flatnonzero(~goes | begins))), names


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
    is_sku: Bools = np.array([folded(text) in skus for text in name.texts], dtype=np.bool_)
    codes = np.where(untold & is_sku[name.codes], len(sku.texts) + name.codes, sku.codes)
    return replace(table, rows=table.rows.changed({columns["sku"][0]: Coded([*sku.texts, *name.texts], codes)}))
