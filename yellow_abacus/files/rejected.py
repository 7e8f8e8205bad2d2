"""Rows that were not taken, and the CSV that lists them with what to mend."""

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass

from yellow_abacus.files.tables import Table
from yellow_abacus.files.writing import harmless


@dataclass(frozen=True)
class Rejection:
    """row: as a spreadsheet numbers it. field: the field's label. message: what is wrong. mend: what to do."""

    row: int
    field: str
    message: str
    mend: str


def rejected_csv(table: Table, rejected: Sequence[Rejection]) -> str:
    """The rejected rows as they came, each with its row number, field, problem and mend in front."""
    cells = {row.number: row.cells for row in table.rows}
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["row", "field", "problem", "mend", *table.header])
    for one in rejected:
        writer.writerow([one.row, one.field, one.message, one.mend, *map(harmless, cells.get(one.row, []))])
    return out.getvalue()
