"""Rows of an order file that tell no goods: sums below an order or the whole table, and delivery or a discount in a
row of its own, as invoices have them; and rows that say in words that their goods came back.
"""

from collections.abc import Container, Sequence
from dataclasses import replace
from decimal import Decimal

import numpy as np

from yellow_abacus.core.ground.money import Bools
from yellow_abacus.files.columns import Columns, free_columns
from yellow_abacus.files.fields import ORDERS
from yellow_abacus.files.headings import simplify, words_of
from yellow_abacus.files.order_shapes import first_row_of_order, tells_one_of, with_column
from yellow_abacus.files.rows import Coded, coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import BadCellError, DecimalMark, is_currency_sign, parse_number

ASIDES = {"delivery_paid": ("delivery_paid",), "order_discount": ("order_discount", "line_discount")}
"""What a row may tell of its order in place of goods, and the fields whose headings say so in one of its cells."""
_WORDS = {
    key: frozenset(simplify(word) for one in ORDERS if one.key in fields for word in one.words)
    for key, fields in ASIDES.items()
}
NAME_A_ROW = frozenset(["number", "sku", "product", "variant"])
"""Fields in whose cells a row may say what it is."""


def without_sums(table: Table, columns: Columns) -> Table:
    """The table without rows of sums: those that say so in a cell, and tell no SKU beside that."""
    if "sku" not in columns:
        return table
    sku, words = table.rows.columns[columns["sku"][0]], words_of("total")
    tells_one = np.array([bool(word) and word not in words for word in map(simplify, sku.texts)], dtype=np.bool_)
    sums = _says(table, _may_name(table, columns), words, ~tells_one[sku.codes])
    return replace(table, rows=table.rows.some(np.flatnonzero(~sums))) if sums.any() else table


MOST_KINDS = 200
"""Different cells of a column that says what kind of row each is."""


def says_sent_back(table: Table, columns: Columns) -> Bools:
    """The rows that say in a cell that is not understood that their goods came back."""
    every = table.rows.columns
    free = [at for at in free_columns(table.header, columns) if len(every[at].texts) <= MOST_KINDS]
    return _says(table, free, words_of("sent_back"), np.ones(len(table.rows), dtype=np.bool_))


def beside_their_orders(
    table: Table, columns: Columns, skus: Container[str], mark: DecimalMark
) -> tuple[Table, Columns]:
    """A table with rows that tell delivery or discounts in place of goods as one with columns of the order for them;
    any other as it is.

    A row without any SKU that comes to less than nothing is a discount too. Where the file has such a column already,
    it is believed, and the rows are left out. A row whose amount cannot be read, or whose order has no goods, stays
    as it is. skus: of the shop, folded.
    """
    if not {"number", "sku"} <= columns.keys():
        return table, columns
    sku = table.rows.columns[columns["sku"][0]]
    aside = ~tells_one_of(sku, skus)
    if not aside.any():
        return table, columns
    number = table.rows.columns[columns["number"][0]]
    begins = first_row_of_order(number)
    goods = np.flatnonzero(~aside)
    orders, first = np.unique(number.codes[begins][goods], return_index=True)
    first_row = dict(zip(orders.tolist(), goods[first].tolist(), strict=True))
    left = np.ones(len(number), dtype=np.bool_)
    for key, words in _WORDS.items():
        told: dict[int, Decimal] = {}
        says, is_off = _says(table, _may_name(table, columns), words, aside & left), key == "order_discount"
        may = says | (aside & left & ~sku.filled) if is_off else says
        for row in np.flatnonzero(may).tolist():
            amount, beside = _amount(table, columns, row, mark), first_row.get(int(number.codes[begins[row]]))
            if amount is not None and beside is not None and (says[row] or amount < 0):
                told[beside] = told.get(beside, Decimal(0)) + (abs(amount) if is_off else amount)
                left[row] = False
        if told and key not in columns:
            column = coded([str(told.get(row, "")).replace(".", mark) for row in range(len(number))])
            table, columns = with_column(table, columns, key, column)
    return replace(table, rows=table.rows.some(np.flatnonzero(left))), columns


def _may_name(table: Table, columns: Columns) -> list[int]:
    """The columns in whose cells a row may say what it is: those of goods, and those that are not understood."""
    other = {at for key, taken in columns.items() if key not in NAME_A_ROW for at in taken}
    return [at for at in range(len(table.rows.columns)) if at not in other]


def _says(table: Table, places: Sequence[int], words: frozenset[str], among: Bools) -> Bools:
    """The rows among some in which one of the words is all of a cell, in some columns."""
    rows, says = np.flatnonzero(among), np.zeros(len(among), dtype=np.bool_)
    for at in places if len(rows) else ():
        column = table.rows.columns[at].rows(rows)
        says_so = column.is_used
        says_so[says_so] = [simplify(text) in words for text in column.used]
        says[rows] |= says_so[column.codes]
    return says


def _amount(table: Table, columns: Columns, row: int, mark: DecimalMark) -> Decimal | None:
    """What a row comes to; None where its cells cannot be read."""

    def number(key: str) -> Decimal | None:
        column: Coded | None = table.rows.columns[columns[key][0]] if key in columns else None
        text = column.texts[column.codes[row]].strip() if column else ""
        return parse_number(text, mark, is_currency_sign) if text else None

    try:
        total, each, units = number("line_total"), number("paid_price"), number("quantity")
        each = number("unit_price") if each is None else each
    except BadCellError:
        return None
    if total is not None or each is None:
        return total
    return each * (1 if units is None else units)
