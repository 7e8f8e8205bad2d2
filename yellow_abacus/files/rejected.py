"""Rows that were not taken, and the CSV that lists them with what to mend."""

import csv
import io
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from yellow_abacus.files.tables import Table
from yellow_abacus.files.writing import harmless


@dataclass(frozen=True)
class Rejection:
    """row: as a spreadsheet numbers it. field: the field's label. message: what is wrong. mend: what to do.

    because_of: the row that is really at fault, where this one only goes with it; None for a fault of its own.
    """

    row: int
    field: str
    message: str
    mend: str
    because_of: int | None = None


@dataclass(frozen=True)
class Fault:
    """One kind of fault: how many rows have it, the first of them, and what is wrong in the very first."""

    field: str
    message: str
    mend: str
    rows: int
    first_rows: tuple[int, ...]


def faults(rejected: Iterable[Rejection]) -> list[Fault]:
    """What is really wrong, the most frequent first: alike but for the row and what stands in the cell."""
    alike: dict[tuple[str, str, str], list[Rejection]] = {}
    for one in rejected:
        if one.because_of is None:
            kind = (one.field, _SHAPE.sub("#", one.message), _SHAPE.sub("#", one.mend))
            alike.setdefault(kind, []).append(one)
    found = []
    for some in alike.values():
        rows = sorted({one.row for one in some})
        found.append(Fault(some[0].field, some[0].message, some[0].mend, len(rows), tuple(rows[:FIRST_ROWS])))
    return sorted(found, key=lambda fault: -fault.rows)


def left_out_with_others(rejected: Sequence[Rejection]) -> int:
    """How many rows have no fault of their own and go with one that has."""
    return len({one.row for one in rejected} - {one.row for one in rejected if one.because_of is None})


FIRST_ROWS = 5
_SHAPE = re.compile(r"“[^”]*”|\d+")


def rejected_csv(table: Table, rejected: Sequence[Rejection]) -> str:
    """The rejected rows as they came, each with its row number, field, problem and mend in front."""
    wanted = {one.row for one in rejected}
    at = {int(number): at for at, number in enumerate(table.rows.numbers.tolist()) if number in wanted}
    cells = {number: table.rows[place].cells for number, place in at.items()}
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["row", "field", "problem", "mend", *map(harmless, table.header)])
    for one in rejected:
        told = (one.field, one.message, one.mend, *cells.get(one.row, []))
        writer.writerow([one.row, *map(harmless, told)])
    return out.getvalue()
