"""Goods files with more rows than goods: such as tell nothing that is asked for, as those of further pictures do, and
such as tell what one above tells.
"""

from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from yellow_abacus.core.ground.money import Bools
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.tables import Table


def without_bare_rows(table: Table, columns: Columns) -> Table:
    """The table without rows in which all columns that stand for something are empty."""
    told = filled_in(table, columns, columns)
    return table if told.all() else replace(table, rows=table.rows.some(np.flatnonzero(told)))


def filled_in(table: Table, columns: Columns, keys: Iterable[str]) -> Bools:
    """The rows that tell one of some fields."""
    found = np.zeros(len(table.rows), dtype=np.bool_)
    for at in (at for key in keys for at in columns.get(key, ())):
        found |= table.rows.columns[at].filled
    return found


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
