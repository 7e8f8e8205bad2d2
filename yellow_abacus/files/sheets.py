"""The first sheet of an XLSX file as rows of text. Formulas are never worked out: their last result is taken."""

import io
import zipfile
from datetime import date, datetime, time
from decimal import Decimal
from typing import Any

from python_calamine import CalamineError, CalamineWorkbook

from yellow_abacus.files.rows import Row, UnreadableFileError

LARGEST_UNPACKED = 600_000_000
"""Bytes: more than any sheet of a file that may be brought in unpacks to."""

DIGITS = 15
"""Spreadsheets keep no more of a number."""

_SAVE_AGAIN = "Open it in a spreadsheet program, save it again as XLSX or CSV, and choose that file."


def is_xlsx(data: bytes) -> bool:
    """Whether the bytes are a spreadsheet, rather than another archive."""
    if not data.startswith(b"PK\x03\x04"):
        return False
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return "xl/workbook.xml" in archive.namelist()
    except zipfile.BadZipFile:
        return False


def read_sheet(data: bytes) -> list[Row]:
    """Rows that hold anything, numbered as the sheet numbers them. Raises UnreadableFileError."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        unpacked = sum(entry.file_size for entry in archive.infolist())
    if unpacked > LARGEST_UNPACKED:
        raise UnreadableFileError(
            f"The spreadsheet unpacks to {unpacked / 1e6:,.0f} MB.", "Cut it into several files, or save it as CSV."
        )
    try:
        sheet = CalamineWorkbook.from_filelike(io.BytesIO(data)).get_sheet_by_index(0)
        rows = sheet.to_python(skip_empty_area=False)
    except CalamineError as error:
        raise UnreadableFileError("The spreadsheet is damaged.", _SAVE_AGAIN) from error
    found = []
    for number, values in enumerate(rows, start=1):
        cells = [_text(value) for value in values]
        while cells and not cells[-1]:
            cells.pop()
        if cells:
            found.append(Row(number, cells))
    width = len(found[0].cells) if found else 0
    return [Row(row.number, row.cells + [""] * (width - len(row.cells))) for row in found]


def _text(value: Any) -> str:
    match value:
        case str():
            return value
        case bool():
            return "yes" if value else "no"
        case datetime() if value.time() == time():
            return value.date().isoformat()
        case datetime() | date() | time():
            return value.isoformat(" ") if isinstance(value, datetime) else value.isoformat()
        case float():
            told = f"{Decimal(f'{value:.{DIGITS}g}'):f}"
            return told.rstrip("0").rstrip(".") if "." in told else told
    return str(value)
