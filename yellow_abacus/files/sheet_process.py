"""Reads a spreadsheet in a process of its own, which may use so much memory and time and no more.

A spreadsheet of a few bytes can stand for more cells than any machine holds; what reads it is then ended by the
system, and nothing else is. Run as a module: the file on standard input; on standard output JSON lines, for each
sheet its name and then its rows. What it imports is loaded for every file.
"""

import io
import json
import resource
import sys
import zipfile
import zlib
from collections.abc import Iterator
from datetime import date, datetime, time
from decimal import Decimal
from typing import Any

from python_calamine import CalamineError, CalamineWorkbook, SheetTypeEnum, SheetVisibleEnum

from yellow_abacus.files.cell_formats import PERCENT, marks_of
from yellow_abacus.files.open_document import is_open_document, with_values_shown

MEMORY = 1_500_000_000
"""Bytes: some three times what the largest file that may be brought in takes."""
SECONDS = 120
"""Of the processor; as long again may pass while others use it."""

DIGITS = 15
"""Spreadsheets keep no more of a number."""

LOOKED_AT = 50
"""A table has two rows of more than one cell among its sheet's first so many."""

DAMAGED = 3
"""Exit code for what is no spreadsheet."""


def main() -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    data = sys.stdin.buffer.read()
    try:
        is_open = is_open_document(data)
        file = io.BytesIO(with_values_shown(data) if is_open else data)
        for name, rows in _tables_of(CalamineWorkbook.from_filelike(file)):
            if not is_open:
                _show_as_formatted(rows, file, name)
            _tell(name, rows)
    except (CalamineError, RuntimeError, zipfile.BadZipFile, zlib.error):
        sys.exit(DAMAGED)


def _show_as_formatted(rows: list[list[Any]], data: io.BytesIO, sheet: str) -> None:
    """Makes numbers that their cells show otherwise texts that do so too."""
    with zipfile.ZipFile(data) as archive:
        for row, column, mark in marks_of(archive, sheet):
            if row < len(rows) and column < len(rows[row]) and type(value := rows[row][column]) in (int, float):
                rows[row][column] = _shown(value, mark)


def _shown(value: float, mark: str) -> str:
    """A number with its sign, unit or currency, or with the zeros it begins with; percentages to their second
    decimal."""
    if mark == PERCENT:
        return _text(round(value * 100, 2)) + mark
    return _text(value).zfill(len(mark)) if mark.isdecimal() else f"{_text(value)} {mark}"


def _tell(name: str, rows: list[list[Any]]) -> None:
    print(json.dumps(name))
    for number, values in enumerate(rows, start=1):
        cells = [value if type(value) is str else _text(value) for value in values]
        while cells and not cells[-1]:
            cells.pop()
        if cells:
            print(json.dumps([number, cells]))


def _tables_of(book: CalamineWorkbook) -> Iterator[tuple[str, list[list[Any]]]]:
    """Name and rows of each sheet with a table on it, hidden ones only where no other has one; of the first sheet
    where none has one."""
    seen = SheetVisibleEnum.Visible
    sheets = [one for one in book.sheets_metadata if one.typ == SheetTypeEnum.WorkSheet]
    of_visible = [one.name for one in sheets if one.visible == seen]
    for names in (of_visible, [one.name for one in sheets if one.visible != seen]):
        has_one = False
        for name in names:
            rows = book.get_sheet_by_name(name).to_python(skip_empty_area=False)
            if sum(sum(value != "" for value in values) > 1 for values in rows[:LOOKED_AT]) > 1:
                has_one = True
                yield name, rows
        if has_one:
            return
    if sheets:
        yield sheets[0].name, book.get_sheet_by_name(sheets[0].name).to_python(skip_empty_area=False)


def _text(value: Any) -> str:
    match value:
        case float():  # most cells that are no texts
            told = f"{value:.{DIGITS}g}"
            if "e" not in told:
                return told
            told = f"{Decimal(told):f}"
            return told.rstrip("0").rstrip(".") if "." in told else told
        case bool():
            return "yes" if value else "no"
        case datetime() if value.time() == time():
            return value.date().isoformat()
        case datetime() | date() | time():
            return value.isoformat(" ") if isinstance(value, datetime) else value.isoformat()
    return str(value)


if __name__ == "__main__":
    main()
