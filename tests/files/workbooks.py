"""Workbooks as shops keep them: a table a sheet."""

import io
from collections.abc import Sequence

from openpyxl import Workbook


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
