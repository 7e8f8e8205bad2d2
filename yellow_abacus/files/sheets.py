"""The first sheet of an XLSX file as rows of text. Formulas are never worked out: their last result is taken."""

import io
import zipfile

from yellow_abacus.files.rows import Row, UnreadableFileError
from yellow_abacus.files.sheet_process import read_apart

LARGEST_UNPACKED = 600_000_000
"""Bytes: more than any sheet of a file that may be brought in unpacks to."""


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
    found = read_apart(data)
    width = len(found[0].cells) if found else 0
    return [Row(row.number, row.cells + [""] * (width - len(row.cells))) for row in found]
