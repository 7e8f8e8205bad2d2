"""OpenDocument spreadsheets: percentages and amounts in a currency as the texts that their cells show.

What reads spreadsheets tells bare numbers of them too. It is imported where those are read, so it takes nothing but
what Python ships with.
"""

import io
import re
import zipfile
import zlib

KIND = b"application/vnd.oasis.opendocument.spreadsheet"

_CELL = re.compile(rb"""<(table:table-cell)\s[^>]*?office:value-type="(?:percentage|currency)"[^>]*>""")
_ATTRIBUTE = re.compile(rb"""([\w:-]+)="([^"]*)\"""")


def is_open_document(data: bytes) -> bool:
    """Whether the bytes are a spreadsheet of this kind."""
    if not data.startswith(b"PK\x03\x04"):
        return False
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive, archive.open("mimetype") as told:
            return told.read(len(KIND)) == KIND
    except (KeyError, RuntimeError, zipfile.BadZipFile, zlib.error):  # not there, locked, or damaged
        return False


def with_values_shown(data: bytes) -> bytes:
    """The spreadsheet with such cells as texts; percentages to their second decimal."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w") as new:
        for name in old.namelist():
            part = old.read(name)
            new.writestr(name, _CELL.sub(_shown, part) if name == "content.xml" else part)
    return out.getvalue()


def _shown(cell: re.Match[bytes]) -> bytes:
    """The tag of a cell, which has its text instead of its number.

    >>> _shown(_CELL.search(b'<table:table-cell office:value-type="percentage" office:value="0.15">'))
    b'<table:table-cell office:value-type="string" office:string-value="15%">'
    """
    told = dict(_ATTRIBUTE.findall(cell[0]))
    kind, value = told.pop(b"office:value-type"), told.pop(b"office:value", b"")
    try:
        share = f"{round(float(value) * 100, 2):.15g}%".encode()
    except ValueError:
        return cell[0]
    text = share if kind == b"percentage" else (value + b" " + told.get(b"office:currency", b"")).strip()
    told |= {b"office:value-type": b"string", b"office:string-value": text}
    ends = b"/>" if cell[0].endswith(b"/>") else b">"
    return b"<" + cell[1] + b"".join(b' %s="%s"' % one for one in told.items()) + ends
