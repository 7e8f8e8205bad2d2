"""Units of lines that were cancelled, told in a column beside those ordered: they are none of an order's units."""

from dataclasses import replace

import numpy as np

from yellow_abacus.core.ground.money import Bools, Floats
from yellow_abacus.files.amounts_told import amount_in, numbers_in
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.order_shapes import with_column
from yellow_abacus.files.order_statuses import CANCELLED, without_left_out
from yellow_abacus.files.rows import Coded, coded
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import DecimalMark

AMOUNTS = ("line_total", "line_asked", "line_discount")
"""Of all units of a line."""
LEFT = "left"
"""The status of a line of which some units are."""


def less_cancelled(table: Table, columns: Columns, mark: DecimalMark) -> tuple[Table, Columns]:
    """A table with a column of units cancelled as one with those that were not; any other as it is.

    A line cancelled whole goes, and its order is one cancelled where all of them are. What the other lines came to is
    taken as that of all units ordered, and so with its share of those left, unless it is nearer to what these cost.
    """
    if not {"cancelled_units", "quantity", "number"} <= columns.keys():
        return table, columns

    def numbers(key: str) -> Floats:
        at = columns.get(key, ())[:1]
        return read(at[0]) if at else np.full(len(table.rows), np.nan)

    def read(at: int) -> Floats:
        return numbers_in(every[at], lambda text: amount_in(text, mark))

    every = table.rows.columns
    ordered, cancelled = numbers("quantity"), numbers("cancelled_units")
    if not (cancelled > 0).any():
        return table, columns
    left = ordered - cancelled
    some = (cancelled > 0) & (left > 0)
    each, total = numbers("unit_price"), numbers("line_total")
    of_all = ~(np.abs(total - each * left) < np.abs(total - each * ordered))
    (units,) = columns["quantity"]
    changed = {units: _put(every[units], some, left, mark)}
    for at in (at for key in AMOUNTS for at in columns.get(key, ())):
        amount = read(at)
        told = some & of_all & ~np.isnan(amount)
        changed[at] = _put(every[at], told, amount * left / np.maximum(ordered, 1), mark)
    table = replace(table, rows=table.rows.changed(changed))
    if "status" not in columns:
        table, columns = with_column(table, columns, "status", coded([""] * len(table.rows)))
    whole = Coded([LEFT, CANCELLED], ((cancelled > 0) & (left <= 0)).astype(np.int64))
    return without_left_out(table, columns, whole), columns


def _put(column: Coded, rows: Bools, numbers: Floats, mark: DecimalMark) -> Coded:
    """The column with numbers of some rows in place of what it tells there."""
    texts = column.cells
    for row in np.flatnonzero(rows).tolist():
        texts[row] = f"{numbers[row]:.6f}".rstrip("0").rstrip(".").replace(".", mark)
    return coded(texts)
