"""CSV or XLSX bytes to a table of text cells, whatever the encoding and the separator.

Python's own csv reader is used because it tells the row a fault is in and takes ragged rows one by one.
"""

import codecs
import csv
import io
import re
from dataclasses import dataclass

from yellow_abacus.files.rows import Row, UnreadableFileError
from yellow_abacus.files.sheets import is_xlsx, read_sheet
from yellow_abacus.files.writing import plain

LARGEST_FILE = 100_000_000
"""Bytes. Some 1.5 million order lines."""

MOST_COLUMNS = 500

SEPARATORS = {",": "comma", ";": "semicolon", "\t": "tab", "|": "bar"}

_NOT_TEXT = {
    b"\x89PNG": "a PNG picture",
    b"\xff\xd8\xff": "a JPEG picture",
    b"GIF8": "a GIF picture",
    b"%PDF": "a PDF document",
    b"PK\x03\x04": "an archive file",
    b"\xd0\xcf\x11\xe0": "an old spreadsheet file",
    b"\x1f\x8b": "a compressed file",
    b"SQLite": "a database",
}
_SAVE_AS_CSV = "Save the table as CSV or XLSX and choose that file."
_BOMS = ((codecs.BOM_UTF8, "utf-8-sig"), (codecs.BOM_UTF16_LE, "utf-16"), (codecs.BOM_UTF16_BE, "utf-16"))


@dataclass(frozen=True)
class Table:
    header: list[str]
    rows: list[Row]
    encoding: str
    separator: str


def read_table(data: bytes) -> Table:
    """The table in a CSV file, or on the first sheet of an XLSX file. Raises UnreadableFileError."""
    refuse_size(len(data))
    if not data.strip():
        raise UnreadableFileError("The file is empty.", "Choose a file with a header row and at least one row.")
    if is_xlsx(data):
        return _table(read_sheet(data), "XLSX", "sheet")
    text, encoding = _decode(data)
    if not text.strip("\ufeff \t\r\n\xa0"):
        raise UnreadableFileError("The file is empty.", "Choose a file with a header row and at least one row.")
    separator = _separator(text)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=separator, strict=True)
    found: list[Row] = []
    guarded = "'" in text
    try:
        for number, cells in enumerate(reader, start=1):
            if any(cell.strip() for cell in cells):
                found.append(Row(number, [plain(cell) for cell in cells] if guarded else cells))
    except csv.Error as error:
        row = found[-1].number + 1 if found else 1
        raise UnreadableFileError(
            f"Row {row} cannot be taken apart ({error}).", "Look for a quotation mark that is never closed.", row
        ) from error
    return _table(found, encoding, separator)


def _table(found: list[Row], encoding: str, separator: str) -> Table:
    if not found:
        raise UnreadableFileError("The file is empty.", "Choose a file with a header row and at least one row.")
    header, rows = [cell.strip() for cell in found[0].cells], found[1:]
    if len(header) > MOST_COLUMNS:
        raise UnreadableFileError(
            f"The file has {len(header):,} columns; up to {MOST_COLUMNS} can be read.", "Leave out those not needed."
        )
    if not rows:
        raise UnreadableFileError("The file has a header row and nothing below it.", "Add at least one row.")
    return Table(header, rows, encoding, separator)


def refuse_size(size: int) -> None:
    """Raises UnreadableFileError for more bytes than are taken."""
    if size > LARGEST_FILE:
        raise UnreadableFileError(
            f"The file has {size / 1e6:,.0f} MB; up to {LARGEST_FILE / 1e6:,.0f} MB can be brought in at a time.",
            "Cut it into several files, by month for example, and bring them in one after another.",
        )


def _decode(data: bytes) -> tuple[str, str]:
    for magic, what in _NOT_TEXT.items():
        if data.startswith(magic):
            raise UnreadableFileError(f"This is {what}, not a table.", _SAVE_AS_CSV)
    for bom, encoding in _BOMS:
        if data.startswith(bom):
            try:
                return data.decode(encoding), encoding.removesuffix("-sig")
            except UnicodeDecodeError as error:
                raise _broken(data, error) from error
    if b"\x00" in data:
        raise UnreadableFileError("This is not a text file.", _SAVE_AS_CSV)
    try:
        return data.decode("utf-8"), "utf-8"
    except UnicodeDecodeError as error:
        sound = len(re.findall(rb"[\xc3-\xf4][\x80-\xbf]+", data))
        strays = len(re.findall(rb"[\x80-\xff]", data)) - 2 * sound
        if sound > strays:  # text in UTF-8 that was damaged, rather than text in an older encoding
            raise _broken(data, error) from error
    try:
        return data.decode("cp1252"), "windows-1252"
    except UnicodeDecodeError as error:
        raise _broken(data, error) from error


def _broken(data: bytes, error: UnicodeDecodeError) -> UnreadableFileError:
    row = data.count(b"\n", 0, error.start) + 1
    return UnreadableFileError(
        f"The text in row {row} is damaged: it holds letters in no encoding.",
        "Save the file again as “CSV UTF-8” from the program it came from.",
        row,
    )


def _separator(text: str) -> str:
    """The separator that cuts the header, and then the first rows, into the most cells."""

    def cells(separator: str) -> tuple[int, int]:
        counts = [len(row) for row in csv.reader(first, delimiter=separator)]
        return counts[0], sum(counts)

    filled = (line[:20_000] for line in io.StringIO(text) if line.strip())
    first = [line for _, line in zip(range(5), filled, strict=False)]
    return max(SEPARATORS, key=cells)
