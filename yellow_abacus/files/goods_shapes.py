"""Goods files of other shapes: options of one product in rows of which only the first tells what the product is, rows
that tell nothing that is asked for, such as those of further pictures, and rows that tell what one above tells.
"""

from dataclasses import replace

import numpy as np

from yellow_abacus.files.columns import Columns, free_columns
from yellow_abacus.files.rows import Coded, Codes
from yellow_abacus.files.tables import Table

OF_A_PRODUCT = ("product", "brand", "categories", "tags")


def without_bare_rows(table: Table, columns: Columns) -> Table:
    """The table without rows in which all columns that stand for something are empty."""
    taken = [table.rows.columns[at].filled for some in columns.values() for at in some]
    told = np.logical_or.reduce(taken) if taken else np.ones(len(table.rows), dtype=np.bool_)
    return table if told.all() else replace(table, rows=table.rows.some(np.flatnonzero(told)))


def without_repeats(table: Table, columns: Columns) -> Table:
    """The table without rows that are what one above is in all columns that stand for something (one for SKUs is
    needed); those that name no SKU stay."""
    sku = table.rows.columns[columns["sku"][0]]
    named = sku.filled
    if len(np.unique(sku.codes)) == len(named):
        return table
    codes = [table.rows.columns[at].codes for some in columns.values() for at in some]
    apart = np.where(named, 0, np.arange(len(named)))
    first = np.unique(np.stack([*codes, apart]), axis=1, return_index=True)[1]
    return table if len(first) == len(named) else replace(table, rows=table.rows.some(np.sort(first)))


def named_once(table: Table, columns: Columns) -> Table:
    """A table whose rows without a product are further options of the one above, as one that tells it in each row;
    any other as it is.

    They are where a column that stands for nothing else is filled throughout, and is in those rows what it is in the
    row above.
    """
    if "product" not in columns:
        return table
    bare = ~table.rows.columns[columns["product"][0]].filled
    free = free_columns(table.header, columns)
    if not bare.any() or bare[0] or not any(_goes_on(table.rows.columns[at], bare) for at in free):
        return table
    row = np.maximum.accumulate(np.where(bare, 0, np.arange(len(bare))))
    places = {at for key in OF_A_PRODUCT for at in columns.get(key, ())}
    told = {at: _from_first(table.rows.columns[at], row) for at in places}
    return replace(table, rows=table.rows.changed(told))


def _goes_on(column: Coded, bare: np.ndarray) -> bool:
    same = np.concatenate(([False], column.codes[1:] == column.codes[:-1]))
    return bool(column.filled.all() and same[bare].all() and not same[~bare].any())


def _from_first(column: Coded, row: Codes) -> Coded:
    """Empty cells as the first row of their product has them."""
    return Coded(column.texts, np.where(column.filled, column.codes, column.codes[row]))
