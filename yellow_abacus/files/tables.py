"""CSV, XLSX or ODS bytes to tables of text cells, whatever the encoding and the separator.

A regular CSV file is taken apart in columns by polars, a million rows in a second or two. Whatever is not regular is
read by Python's own reader, which takes ragged rows one by one and tells the row a fault is in; both read alike.
"""

import csv
import io
import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
import polars as pl

from yellow_abacus.files.encodings import decoded
from yellow_abacus.files.headings import simplify, words_of
from yellow_abacus.files.rows import Coded, Row, Rows, UnreadableFileError, coded, in_columns
from yellow_abacus.files.sheets import Sheet, read_sheets, spreadsheet_kind
from yellow_abacus.files.titles import LOOKED_AT, rows_above
from yellow_abacus.files.writing import plain, something

LARGEST_FILE = 180_000_000
"""Bytes. Some 1.5 million order lines."""

MOST_COLUMNS = 500

SEPARATED, LONGEST_LOOKED_AT = 5, 20_000
"""Rows that tell the separator, and letters of a line that are looked at for it."""
SEPARATORS = {",": "comma", ";": "semicolon", "\t": "tab", "|": "bar"}
_EMPTY = UnreadableFileError("The file is empty.", "Choose a file with a header row and at least one row.")


@dataclass(frozen=True)
class Table:
    """above: rows that stand above its header, such as a title. name: of its sheet, or file.

    Where it is made of several: of_orders are the columns that tell of whole orders, if the others tell of their
    lines alone; says how it was made, in sentences. tells: the fields of its orders that others do not tell of them.
    """

    header: list[str]
    rows: Rows
    encoding: str
    separator: str
    above: tuple[Row, ...] = ()
    name: str = ""
    of_orders: frozenset[int] = frozenset()
    says: tuple[str, ...] = ()
    tells: frozenset[str] = frozenset()

    def with_beside(self, more: Sequence[tuple[str, Coded]], *says: str, of_lines: int = 0) -> "Table":
        """The table with more columns, each told with its heading. of_lines: so many of them, the first, tell of
        lines alone; the others are of orders, if any here are."""
        width = len(self.header)
        of_orders = range(width + of_lines, width + len(more)) if self.of_orders else ()
        return replace(
            self,
            header=[*self.header, *(heading for heading, _ in more)],
            rows=Rows(self.rows.numbers, [*self.rows.columns, *(column for _, column in more)], {}),
            of_orders=self.of_orders.union(of_orders),
            says=(*self.says, *says),
        )


def read_table(data: bytes) -> Table:
    """The table in a CSV file, or the first in a spreadsheet. Raises UnreadableFileError."""
    return read_tables(data)[0]


def read_tables(data: bytes, name: str = "") -> list[Table]:
    """The table in a CSV file, or those on the sheets of a spreadsheet, hidden ones only where no other has one; one
    at least. name: of the file, by which one alone is called unless its sheet has a name of its own. Raises
    UnreadableFileError."""
    refuse_size(len(data))
    if not data.strip():
        raise _EMPTY
    kind = spreadsheet_kind(data)
    found = _of_sheets(read_sheets(data), kind) if kind else [_of_text(data)]
    if name and len(found) == 1 and _is_unnamed(found[0].name):
        found = [replace(found[0], name=name)]
    return list(map(_headed_once, found))


def without_ending(name: str) -> str:
    """What a file is called, or a sheet.

    >>> [without_ending(one) for one in ("Abroad 2.5.csv", "Home.ods", "Zone 2.5")]
    ['Abroad 2.5', 'Home', 'Zone 2.5']
    """
    return re.sub(r"\.(csv|tsv|txt|xls[xm]|ods)$", "", name.strip(), flags=re.IGNORECASE)


def _is_unnamed(sheet: str) -> bool:
    """Whether a sheet is called as programs call sheets that nobody named.

    >>> _is_unnamed("Sheet1"), _is_unnamed("Tabelle 2"), _is_unnamed("Home")
    (True, True, False)
    """
    return simplify(sheet.rstrip("0123456789 _-")) in words_of("sheets_unnamed") | {""}


def _of_sheets(sheets: Sequence[Sheet], kind: str) -> list[Table]:
    """Raises UnreadableFileError where none is a table."""
    found, wrong = [], [_EMPTY]
    for sheet in sheets:
        try:
            found.append(_of_sheet(sheet, kind))
        except UnreadableFileError as error:
            wrong.append(error)
    if not found:
        raise wrong[:2][-1]
    return found


def _of_sheet(sheet: Sheet, kind: str) -> Table:
    """Raises UnreadableFileError."""
    above = rows_above([row.cells for row in sheet.rows[:LOOKED_AT]])
    told = ((row.number, list(map(something, row.cells))) for row in sheet.rows[above:])
    table = _table(((number, cells) for number, cells in told if any(map(str.strip, cells))), kind, "sheet")
    return replace(table, above=tuple(sheet.rows[:above]), name=sheet.name)


def _headed_once(table: Table) -> Table:
    """The table without rows that repeat its headings, as printed pages do."""
    header, rows = table.header, table.rows
    again = np.ones(len(rows), dtype=np.bool_)
    for heading, column in zip(header, rows.columns, strict=True):
        codes = [code for code, text in enumerate(column.texts) if text.strip() == heading]
        again &= np.isin(column.codes, codes)
        if not again.any():
            return table
    left = np.flatnonzero(~again)
    return replace(table, rows=rows.some(left)) if len(left) else table


def _of_text(data: bytes) -> Table:
    text, encoding = decoded(data)
    if not text.strip("\ufeff \t\r\n\xa0"):
        raise _EMPTY
    separator = _separator(text)
    first = _first_rows(text, separator)
    above = rows_above([cells for _, cells in first])
    text = text[first[above][0] :] if above else text
    passed = tuple(Row(number, cells) for number, (_, cells) in enumerate(first[:above], start=1))
    if _is_regular(text, separator) and (found := _at_once(text, separator, above)) is not None:
        return Table(*found, encoding, separator, passed)
    return replace(_table(_rows(text, separator, above), encoding, separator), above=passed)


def _is_regular(text: str, separator: str) -> bool:
    """Whether rows end alike, none is blank, and quotation marks stand around whole cells alone."""
    if "\r" in text and text.count("\r") != text.count("\r\n"):
        return False
    if "\n\n" in text or "\n\r\n" in text or text.startswith(("\n", "\r")):
        return False
    inside = f'[^{re.escape(separator)}\n\r"]'
    return '"' not in text or (text.count('"') % 2 == 0 and not re.search(f'{inside}"{inside}', text))


def _at_once(text: str, separator: str, above: int) -> tuple[list[str], Rows] | None:
    """Header and rows of a regular file with no row longer than its header; None for any other. above: rows of the
    file that are not in the text."""
    try:
        frame = pl.read_csv(
            io.BytesIO(text.encode()), has_header=False, separator=separator, infer_schema=False, encoding="utf8"
        )
    except pl.exceptions.PolarsError:
        return None
    if frame.width > MOST_COLUMNS or frame.height < 2:
        return None
    columns = [_coded(frame[:, at]) for at in range(frame.width)]
    header = [column.texts[column.codes[0]].strip() for column in columns]
    blank = np.ones(frame.height, dtype=np.bool_)
    for column in columns:
        blank &= ~column.filled
    rows = np.flatnonzero(~blank)
    if not any(header) or len(rows) < 2:
        return None
    return header, Rows(rows[1:] + 1 + above, [column.rows(rows[1:]) for column in columns], {})


def _coded(told: pl.Series) -> Coded:
    filled = told.fill_null("")
    texts = filled.unique(maintain_order=True)
    codes = filled.cast(pl.Enum(texts)).to_physical().to_numpy().astype(np.int64)
    each = coded([plain(one) for one in texts.to_list()])
    return Coded(each.texts, each.codes[codes])


def _rows(text: str, separator: str, above: int) -> Iterator[tuple[int, list[str]]]:
    """Rows that hold anything, numbered as the file has them. above: as in `_at_once`."""
    reader, last = csv.reader(io.StringIO(text, newline=""), delimiter=separator, strict=True), above
    try:
        for number, cells in enumerate(reader, start=above + 1):
            told = [plain(cell) for cell in cells]
            if any(map(str.strip, told)):
                last = number
                yield number, told
    except csv.Error as error:
        row = last + 1
        raise UnreadableFileError(
            f"Row {row} cannot be taken apart ({error}).", "Look for a quotation mark that is never closed.", row
        ) from error


def _table(found: Iterable[tuple[int, list[str]]], encoding: str, separator: str) -> Table:
    told = iter(found)
    _, first = next(told, (0, [""]))
    header = [cell.strip() for cell in first]
    if not any(header):
        raise _EMPTY
    if len(header) > MOST_COLUMNS:
        raise UnreadableFileError(
            f"The file has {len(header):,} columns; up to {MOST_COLUMNS} can be read.", "Leave out those not needed."
        )
    rows = in_columns(told, len(header))
    if not len(rows):
        raise UnreadableFileError("The file has a header row and nothing below it.", "Add at least one row.")
    return Table(header, rows, encoding, separator)


def refuse_size(size: int) -> None:
    """Raises UnreadableFileError for more bytes than are taken."""
    if size > LARGEST_FILE:
        raise UnreadableFileError(
            f"The file has {size / 1e6:,.0f} MB; up to {LARGEST_FILE / 1e6:,.0f} MB can be brought in at a time.",
            "Cut it into several files, by month for example, and bring them in one after another.",
        )


def _separator(text: str) -> str:
    """The separator that cuts the header, and then the first rows, into the most cells."""

    def cells(separator: str) -> tuple[int, int]:
        rows = [row for _, row in _first_rows(text, separator) if len(row) > 1 or any(map(str.strip, row))]
        counts = [len(row) for row in rows[rows_above(rows) :][:SEPARATED]]
        return (counts[0], sum(counts)) if counts else (0, 0)

    return max(SEPARATORS, key=cells)


def _first_rows(text: str, separator: str) -> list[tuple[int, list[str]]]:
    """The first rows of the text, and where in it each begins."""
    read = 0

    def lines() -> Iterator[str]:
        nonlocal read
        for line in re.finditer(r"[^\r\n]*(?:\r\n|\r|\n|$)", text):
            read = line.end()
            yield line.group()[:LONGEST_LOOKED_AT]

    reader, found, filled = csv.reader(lines(), delimiter=separator), [], 0
    while filled < LOOKED_AT:
        begins = read
        try:
            row = next(reader)
        except (StopIteration, csv.Error):  # what is wrong with it is told where all rows are read
            break
        found.append((begins, row))
        filled += any(map(str.strip, row))
    return found
