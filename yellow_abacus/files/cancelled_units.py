"""Units of lines that were cancelled, told in a column beside those ordered: they are none of an order's units."""

from dataclasses import replace

import numpy as np

from yellow_abacus.core.ground.money import Bools, Floats
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.order_shapes import with_column
from yellow_abacus.files.order_statuses import CANCELLED, without_left_out
from yellow_abacus.files.rows import Coded, Rows, coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import DecimalMark, is_currency_sign, number_if_any

AMOUNTS = ("line_total", "line_asked", "line_discount")
"""Of all units of a line."""


def less_cancelled(table: Table, columns: Columns, mark: DecimalMark) -> tuple[Table, Columns]:
    """A table with a column of units cancelled as one with those that were not; any other as it is.

    A line cancelled whole goes, and its order is one cancelled where all of them are. What the other lines came to is
    taken as that of all units ordered, and so with its share of those left, unless it is nearer to what these cost.
    """
    if not {"cancelled_units", "quantity", "number"} <= columns.keys():
        return table, columns
    ordered, cancelled = (_numbers(table, columns, key, mark) for key in ("quantity", "cancelled_units"))
    if not (cancelled > 0).any():
        return table, columns
    left = ordered - cancelled
    some = (cancelled > 0) & (left > 0)
    each = _numbers(table, columns, "unit_price", mark)
    total = _numbers(table, columns, "line_total", mark)
    of_all = ~(np.abs(total - each * left) < np.abs(total - each * ordered))
    changed = {columns["quantity"][0]: _put(table, columns["quantity"][0], some, left, mark)}
    for at in (at for key in AMOUNTS for at in columns.get(key, ())):
        amount = _of(table.rows.columns[at], mark)
        told = some & of_all & ~np.isnan(amount)
        changed[at] = _put(table, at, told, np.round(amount * left / np.maximum(ordered, 1), 6), mark)
    every = [changed.get(place, column) for place, column in enumerate(table.rows.columns)]
    table = replace(table, rows=Rows(table.rows.numbers, every, table.rows.extra))
    if "status" not in columns:
        table, columns = with_column(table, columns, "status", coded([""] * len(table.rows)))
    whole = Coded(["", CANCELLED], ((cancelled > 0) & (left <= 0)).astype(np.int64))
    return without_left_out(table, columns, whole), columns


def _numbers(table: Table, columns: Columns, key: str, mark: DecimalMark) -> Floats:
    """A field's numbers by row, NaN where there are none."""
    if key not in columns:
        return np.full(len(table.rows), np.nan)
    return _of(table.rows.columns[columns[key][0]], mark)


def _of(column: Coded, mark: DecimalMark) -> Floats:
    return np.array([_number(text, mark) for text in column.texts], dtype=np.float64)[column.codes]


def _number(text: str, mark: DecimalMark) -> float:
    told = number_if_any(text.strip(), mark, is_currency_sign)
    return float("nan") if told is None else float(told)


def _put(table: Table, at: int, rows: Bools, numbers: Floats, mark: DecimalMark) -> Coded:
    """A column with numbers of some rows in place of what it tells there."""
    column = table.rows.columns[at]
    texts = [column.texts[code] for code in column.codes.tolist()]
    for row in np.flatnonzero(rows).tolist():
        texts[row] = f"{numbers[row]:.6f}".rstrip("0").rstrip(".").replace(".", mark)
    return coded(texts)
