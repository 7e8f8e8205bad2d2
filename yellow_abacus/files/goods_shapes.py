"""Goods files with more rows than goods: such as tell nothing that is asked for, as those of further pictures do, and
such as tell what one above tells.
"""

from dataclasses import replace

import numpy as np

from yellow_abacus.files.columns import Columns
from yellow_abacus.files.tables import Table


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
