"""What the formats of a spreadsheet's cells say of their numbers: 0.15 may be shown as 15 %, 0.9 as 0.9 kg, 12.5 as
$12.50, and 123 as 00123.

What reads spreadsheets tells bare numbers. It is imported where those are read, so it takes nothing but what Python
ships with.
"""

import re
import unicodedata
import zipfile
from collections.abc import Iterator, Mapping
from posixpath import normpath
from xml.etree.ElementTree import Element, fromstring

PERCENT = "%"
UNITS = frozenset(["g", "kg", "oz", "lb", "lbs", "mm", "cm", "m", "in"])
"""Of weight and length, which formats put behind numbers."""
LONGEST_SIGN = 3
_LETTERS = """
EUR USD GBP CHF SEK NOK DKK ISK PLN CZK HUF RON BGN TRY UAH RUB CAD AUD NZD JPY CNY HKD SGD KRW INR BRL MXN ZAR
ILS AED kr kr. zł Kč Ft lei Fr. лв. TL
"""
CURRENCIES = frozenset(_LETTERS.split())
"""That formats name by letters."""
SHOWN_AS_PERCENT = {9: "0%", 10: "0.00%"}
"""Formats that every spreadsheet has."""
PIECE = 1 << 20
"""Bytes of a sheet that are looked at together."""
LONGEST_TAG = 1 << 10
"""Bytes of the tag of a cell."""

_NOT_TOLD = (KeyError, ValueError, SyntaxError)
"""Parts that are missing, or are no XML."""
_LITERAL = re.compile(r'"([^"]*)"|\\(.)')
_CELL = re.compile(rb"""<(?:\w+:)?c\s(?:[^>]*\s)?r=["']([A-Z]{1,3})(\d+)["']""")
_DIGITS = re.compile(r"0{2,20}")
_CURRENCY = re.compile(r"\[\$([^\]-]+)(?:-[^\]]*)?\]")
_ASIDE = re.compile(r"\[[^\]]*\]|[_*].")
"""Colours, conditions and countries; and what only takes room."""


def marks_of(archive: zipfile.ZipFile, sheet: str) -> Iterator[tuple[int, int, str]]:
    """Row and column, from 0, of each cell of a sheet whose format shows its number otherwise, and its mark. Nothing
    of a file that does not tell its formats."""
    try:
        styles = _marked_styles(archive)
        path = _path(archive, sheet) if styles else ""
    except _NOT_TOLD:
        return
    if path in archive.namelist():
        yield from _marked_cells(archive, path, styles)


def mark_in(code: str) -> str:
    """The mark of a format: `%` where a share is shown as a percentage, a unit or a currency it puts beside numbers,
    or the zeros of one that shows so many digits; empty for any other.

    >>> [mark_in(one) for one in ('0.0%', '0.00" kg"', '00000', '#,##0.00\\\\ "€"', '[$USD] 0.00', '[Red]-0%;0%')]
    ['%', 'kg', '00000', '€', 'USD', '%']
    """
    first = _ASIDE.sub("", _CURRENCY.sub(r'"\1"', code.split(";")[0]))
    if _DIGITS.fullmatch(first):
        return first
    if PERCENT in _LITERAL.sub("", first):
        return PERCENT
    told = "".join(one or other for one, other in _LITERAL.findall(first)).strip()
    return told if told in UNITS or _is_currency(told) else ""


def _is_currency(text: str) -> bool:
    signs = sum(unicodedata.category(letter) == "Sc" for letter in text)
    return (signs == 1 and len(text) <= LONGEST_SIGN) or text in CURRENCIES


def _marked_styles(archive: zipfile.ZipFile) -> Mapping[str, str]:
    """The mark of each style of cells that has one, by its number as cells name it."""
    root = fromstring(archive.read("xl/styles.xml"))
    codes = SHOWN_AS_PERCENT | {int(one.attrib["numFmtId"]): one.attrib["formatCode"] for one in _all(root, "numFmt")}
    found = dict[str, str]()
    for cells in _all(root, "cellXfs"):
        for number, style in enumerate(cells):
            if mark := mark_in(codes.get(int(style.attrib.get("numFmtId", 0)), "")):
                found[str(number)] = mark
    return found


def _path(archive: zipfile.ZipFile, sheet: str) -> str:
    """Where a sheet stands in the file."""
    sheets = _all(fromstring(archive.read("xl/workbook.xml")), "sheet")
    mine = {one.attrib["name"]: one.attrib for one in sheets}[sheet]
    (which,) = (value for key, value in mine.items() if key.endswith("}id"))
    parts = _all(fromstring(archive.read("xl/_rels/workbook.xml.rels")), "Relationship")
    target = {one.attrib["Id"]: one.attrib["Target"] for one in parts}[which]
    return normpath(target.lstrip("/") if target.startswith("/") else f"xl/{target}")


def _marked_cells(archive: zipfile.ZipFile, path: str, styles: Mapping[str, str]) -> Iterator[tuple[int, int, str]]:
    style = re.compile(rf"""\ss=["']({"|".join(styles)})["']""".encode())
    with archive.open(path) as file:
        kept = b""
        while piece := file.read(PIECE):
            text = kept + piece
            ends = text.rfind(b">") + 1
            for found in style.finditer(text, 0, ends):
                begins = text.rfind(b"<", 0, found.start())
                if cell := _CELL.match(text, begins, text.find(b">", found.end())):
                    yield int(cell[2]) - 1, _column(cell[1]), styles[found[1].decode()]
            kept = text[ends:][-LONGEST_TAG:]


def _column(letters: bytes) -> int:
    """The number of a column, from 0: A, B, …, Z, AA."""
    number = 0
    for letter in letters:
        number = number * 26 + letter - ord("A") + 1
    return number - 1


def _all(root: Element, name: str) -> Iterator[Element]:
    """The elements of some name, of whatever namespace."""
    return (one for one in root.iter() if one.tag.rpartition("}")[2] == name)
