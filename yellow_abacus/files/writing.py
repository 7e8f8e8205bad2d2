"""Tables out: CSV and XLSX of the same rows, in which no cell is ever taken for a formula."""

import csv
import io
import re
from collections.abc import Iterable, Sequence
from decimal import Decimal
from typing import Literal

from openpyxl import Workbook
from openpyxl.cell import WriteOnlyCell
from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE
from openpyxl.styles import Font

Format = Literal["csv", "xlsx"]

MIME = {"csv": "text/csv", "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"}

_FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r")


NOTHING = frozenset(
    ["-", "--", "---", "–", "—", "n/a", "N/A", "n.a.", "N.A.", "#N/A", "#NV", "k.A.", "null", "NULL", "(null)", r"\N"]
) | {"nan", "NaN", "undefined"}
"""Cells that say that there is nothing in them, as databases, spreadsheets and people write it."""


def harmless(cell: str) -> str:
    """A cell of CSV no spreadsheet will take for a formula, nor we for nothing; `plain` gives it back as it was."""
    return "'" + cell if _is_formula(cell) or _says_nothing(cell) else cell


def plain(cell: str) -> str:
    """What a cell of CSV says, if anything, without the apostrophe that keeps it from being a formula, or nothing."""
    return cell[1:] if cell.startswith("'") and _is_formula(cell) else something(cell)


def something(cell: str) -> str:
    """What a cell says, if anything, without the apostrophe that keeps it from saying nothing."""
    if cell.startswith("'"):
        return cell[1:] if _says_nothing(cell) else cell
    return "" if cell.strip() in NOTHING else cell


def _says_nothing(cell: str) -> bool:
    """Or would, without apostrophes before it."""
    return cell.lstrip("'").strip() in NOTHING


def _is_formula(cell: str) -> bool:
    """Or would be, without apostrophes before it."""
    return cell.lstrip("'").startswith(_FORMULA_STARTS)


def write_table(kind: Format, header: Sequence[str], rows: Iterable[Sequence[str]]) -> bytes:
    """The table as a file of one of the formats."""
    return _csv(header, rows) if kind == "csv" else _xlsx(header, rows)


def _csv(header: Sequence[str], rows: Iterable[Sequence[str]]) -> bytes:
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(header)
    writer.writerows([harmless(cell) for cell in row] for row in rows)
    return ("\ufeff" + out.getvalue()).encode("utf-8")


def _xlsx(header: Sequence[str], rows: Iterable[Sequence[str]]) -> bytes:
    """Numbers as numbers, everything else as text."""
    book = Workbook(write_only=True)
    sheet = book.create_sheet("Sheet")
    sheet.freeze_panes = "A2"

    def cell(text: str, *, bold: bool = False) -> WriteOnlyCell:
        number = _number(text)
        told = "'" + text if _says_nothing(text) else text
        found = WriteOnlyCell(sheet, value=_as_sheet_text(told) if number is None else number)
        if number is None:
            found.data_type = "s"
            found.quotePrefix = text.startswith(_FORMULA_STARTS)
        if bold:
            found.font = Font(bold=True)
        return found

    sheet.append([cell(text, bold=True) for text in header])
    for row in rows:
        sheet.append([cell(text) if text else None for text in row])
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _as_sheet_text(text: str) -> str:
    """Text a sheet can hold, and gives back as it was: `_x0041_` would be read as the letter of that number."""
    return _ESCAPED.sub("_x005F_", ILLEGAL_CHARACTERS_RE.sub(" ", text))


_ESCAPED = re.compile("_(?=x[0-9A-Fa-f]{4}_)")


def _number(text: str) -> int | float | None:
    """The number a text says, if writing that number again gives the same text."""
    if not text.isascii() or not text[:1].isdigit():
        return None
    try:
        value = Decimal(text)
    except ArithmeticError:
        return None
    number = int(value) if value == value.to_integral_value() else float(value)
    return number if str(number) == text else None


def decimal(amount: float | None, digits: int, extra: int = 0) -> str:
    """An amount in minor units as files write it: `1234.50`; with `extra` further decimals where it has them."""
    if amount is None:
        return ""
    value = Decimal(str(amount)).scaleb(-digits)
    told = f"{value:.{digits + extra}f}"
    while extra and told.endswith("0"):
        told, extra = told[:-1], extra - 1
    return told


def figure(value: float | None, per: int = 1) -> str:
    """A number in units of `per`, without idle zeros: 2500 g in kilograms is `2.5`."""
    if value is None:
        return ""
    told = f"{Decimal(str(value)) / per:f}"
    return told.rstrip("0").rstrip(".") if "." in told else told


def yes(flag: bool) -> str:
    return "yes" if flag else ""
