"""The sheets of an XLSX or ODS file that have a table on them, as rows of text. Formulas are never worked out: their
last result is taken.
"""

import io
import json
import subprocess
import sys
import tempfile
import zipfile
from dataclasses import dataclass, field
from threading import Timer

from yellow_abacus.files import sheet_process
from yellow_abacus.files.open_document import is_open_document
from yellow_abacus.files.rows import Row, UnreadableFileError

LARGEST_UNPACKED = 600_000_000
"""Bytes: more than any sheet of a file that may be brought in unpacks to."""

_SAVE_AGAIN = "Open it in a spreadsheet program, save it again as XLSX or CSV, and choose that file."


def spreadsheet_kind(data: bytes) -> str:
    """Which kind of spreadsheet the bytes are, XLSX or ODS; empty for text, or another archive."""
    return "ODS" if is_open_document(data) else "XLSX" if _is_xlsx(data) else ""


def _is_xlsx(data: bytes) -> bool:
    if not data.startswith(b"PK\x03\x04"):
        return False
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return "xl/workbook.xml" in archive.namelist()
    except zipfile.BadZipFile:
        return False


@dataclass
class Sheet:
    """rows: those that hold anything, numbered as the sheet numbers them."""

    name: str
    rows: list[Row] = field(default_factory=list)


def read_sheets(data: bytes) -> list[Sheet]:
    """Those with a table on them, hidden ones only where no other has one; one at least, but of a file without any.
    Raises UnreadableFileError."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        unpacked = sum(entry.file_size for entry in archive.infolist())
    if unpacked > LARGEST_UNPACKED:
        raise UnreadableFileError(
            f"The spreadsheet unpacks to {unpacked / 1e6:,.0f} MB.", "Cut it into several files, or save it as CSV."
        )
    found = _read_apart(data)
    for sheet in found:
        width = len(sheet.rows[0].cells) if sheet.rows else 0
        sheet.rows = [_widened(row, width) for row in sheet.rows]
    return found


def _widened(row: Row, width: int) -> Row:
    missing = width - len(row.cells)
    return row if missing <= 0 else Row(row.number, row.cells + [""] * missing)


def _read_apart(data: bytes) -> list[Sheet]:
    """The same, rows as wide as their last cell that holds something."""
    with tempfile.TemporaryFile() as file, tempfile.TemporaryFile() as told:
        file.write(data)
        file.seek(0)
        words = [sys.executable, "-m", sheet_process.__name__]
        with subprocess.Popen(words, stdin=file, stdout=told, stderr=subprocess.DEVNULL) as reader:
            too_long = Timer(2 * sheet_process.SECONDS, reader.kill)  # to wait with a limit would look now and then
            too_long.start()
            try:
                code = reader.wait()
            finally:
                too_long.cancel()
        if code == sheet_process.DAMAGED:
            raise UnreadableFileError("The spreadsheet is damaged.", _SAVE_AGAIN)
        if code != 0:
            raise UnreadableFileError(
                "The spreadsheet takes more memory or time to read than any table should.",
                "Delete what lies far below or beside the table, or save the table alone as CSV.",
            )
        told.seek(0)
        found: list[Sheet] = []
        for one in map(json.loads, told):
            if isinstance(one, str):
                found.append(Sheet(one))
            else:
                found[-1].rows.append(Row(*one))
        return found
