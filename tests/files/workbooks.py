"""Workbooks as shops keep them: a table a sheet."""

import io
import zipfile
from collections.abc import Sequence

from openpyxl import Workbook

OPEN = "urn:oasis:names:tc:opendocument:xmlns"


def workbook(hidden: str = "", **sheets: Sequence[Sequence[object]]) -> bytes:
    """An XLSX file of sheets by name, each rows of cells. hidden: the name of one that is."""
    book, data = Workbook(), io.BytesIO()
    book.remove(book.worksheets[0])
    for name, rows in sheets.items():
        sheet = book.create_sheet(name)
        sheet.sheet_state = "hidden" if name == hidden else "visible"
        for row in rows:
            sheet.append(row)
    book.save(data)
    return data.getvalue()


def with_part(data: bytes, part: str, text: str | None) -> bytes:
    """A file with another text in one of its parts, or without that."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w") as new:
        for name in old.namelist():
            if name != part:
                new.writestr(name, old.read(name))
            elif text is not None:
                new.writestr(name, text)
    return out.getvalue()


def open_document(**sheets: Sequence[Sequence[str]]) -> bytes:
    """An ODS file of sheets by name, each rows of cells: texts, numbers as they are written, `15%`, or `12.5 EUR`."""
    told = ((name, "".join(map(_open_row, rows))) for name, rows in sheets.items())
    tables = "".join(f'<table:table table:name="{name}">{rows}</table:table>' for name, rows in told)
    spaces = " ".join(f'xmlns:{one}="{OPEN}:{one}:1.0"' for one in ("office", "table", "text"))
    content = f"<office:document-content {spaces}><office:body><office:spreadsheet>{tables}"
    data = io.BytesIO()
    with zipfile.ZipFile(data, "w") as archive:
        archive.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet")
        archive.writestr("content.xml", f"{content}</office:spreadsheet></office:body></office:document-content>")
        archive.writestr("META-INF/manifest.xml", f'<manifest:manifest xmlns:manifest="{OPEN}:manifest:1.0"/>')
    return data.getvalue()


def _open_row(cells: Sequence[str]) -> str:
    return f"<table:table-row>{''.join(map(_open_cell, cells))}</table:table-row>"


def _open_cell(text: str) -> str:
    number, _, currency = text.partition(" ")
    if text.endswith("%"):
        told = f'"percentage" office:value="{float(text[:-1]) / 100}"'
    elif number.replace(".", "").isdecimal():
        told = f'"currency" office:currency="{currency}"' if currency else '"float"'
        told += f' office:value="{number}"'
    else:
        told = '"string"'
    return f"<table:table-cell office:value-type={told}><text:p>{text}</text:p></table:table-cell>"
