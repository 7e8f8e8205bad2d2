"""How files were read, remembered by their headings: the next one that has them is read the same way."""

from collections.abc import Sequence
from dataclasses import dataclass

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.files.columns import Columns
from yellow_abacus.files.fields import Field
from yellow_abacus.files.values import Reading
from yellow_abacus.store.models import HeadingsRow

READING = TypeAdapter(Reading)
APART = "\x1f"
"""Stands between headings; no text of a file holds it that is taken."""


@dataclass(frozen=True)
class Remembered:
    """fields: for each column the field it was taken for, None for one left out."""

    fields: Sequence[str | None]
    reading: Reading

    def columns(self, fields: Sequence[Field]) -> Columns:
        """Columns by field, of the fields there still are."""
        known, found = {one.key for one in fields}, dict[str, tuple[int, ...]]()
        for at, key in enumerate(self.fields):
            if key in known:
                found[str(key)] = (*found.get(str(key), ()), at)
        return found


def recall(session: Session, kind: str, header: Sequence[str]) -> Remembered | None:
    row = _row(session, kind, header)
    return None if row is None else Remembered(row.fields, READING.validate_python(row.reading))


def remember(session: Session, kind: str, header: Sequence[str], columns: Columns, reading: Reading) -> None:
    field_of = {at: key for key, some in columns.items() for at in some}
    fields, told = [field_of.get(at) for at in range(len(header))], READING.dump_python(reading, mode="json")
    row = _row(session, kind, header)
    if row is None:
        session.add(HeadingsRow(kind=kind, headings=_text(kind, header), fields=fields, reading=told))
    elif row.fields != fields or row.reading != told:
        row.fields, row.reading = fields, told


def _row(session: Session, kind: str, header: Sequence[str]) -> HeadingsRow | None:
    return session.scalars(select(HeadingsRow).where(HeadingsRow.headings == _text(kind, header))).first()


def _text(kind: str, header: Sequence[str]) -> str:
    return APART.join((kind, *header))
