"""Files to be saved, as answers."""

from typing import Literal

from flask import Response

from yellow_abacus.files.calendar_ics import MIME_ICS
from yellow_abacus.files.writing import MIME, Format

Kind = Format | Literal["ics", "sqlite"]
KINDS: dict[str, str] = {**MIME, "ics": MIME_ICS, "sqlite": "application/vnd.sqlite3"}
"""The media type of each kind of file, by its ending."""


def attachment(data: bytes | str, name: str, kind: Kind) -> Response:
    """name: of the file, without its ending."""
    headers = {"Content-Disposition": f'attachment; filename="{name}.{kind}"'}
    return Response(data, mimetype=KINDS[kind], headers=headers)
