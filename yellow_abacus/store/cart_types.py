"""Types of carts in the shop file."""

from dataclasses import asdict

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.core.forecast.known_types import Centre, KnownType, KnownTypes
from yellow_abacus.store.models import CartTypeRow
from yellow_abacus.store.survived import survived

CENTRES = TypeAdapter(tuple[Centre, ...])


def known_types(session: Session) -> KnownTypes | None:
    """None where none were found yet."""
    rows = session.scalars(select(CartTypeRow).order_by(CartTypeRow.place, CartTypeRow.id))
    found = tuple(KnownType(row.name, CENTRES.validate_python(survived(row.centres))) for row in rows)
    return KnownTypes(found) if found else None


def save_types(session: Session, known: KnownTypes | None) -> None:
    """In place of those there are."""
    for row in session.scalars(select(CartTypeRow)):
        session.delete(row)
    session.flush()
    for place, one in enumerate(() if known is None else known.types):
        centres = [asdict(centre) | {"shares": dict(centre.shares)} for centre in one.centres]
        session.add(CartTypeRow(place=place, name=one.name, centres=centres))
    session.flush()
