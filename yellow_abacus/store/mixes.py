"""Mixes of carts to expect in the shop file. The usual one is always there, as the history shows it until it is
changed."""

from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.core.forecast.expected import MixTerms
from yellow_abacus.store.models import MixRow
from yellow_abacus.store.survived import survived

USUAL = "Usual"
TERMS = TypeAdapter(MixTerms)


def all_mixes(session: Session) -> dict[str, MixTerms]:
    """By name, the usual one first."""
    rows = session.scalars(select(MixRow).order_by(MixRow.id))
    return {USUAL: MixTerms()} | {row.name: TERMS.validate_python(survived(row.terms)) for row in rows}


def save_mix(session: Session, name: str, terms: MixTerms) -> None:
    """A mix of the same name is replaced."""
    told: dict[str, Any] = TERMS.dump_python(terms, mode="json")
    row = session.scalars(select(MixRow).where(MixRow.name == name)).first()
    if row is None:
        session.add(MixRow(name=name, terms=told))
    else:
        row.terms = told
    session.flush()


def delete_mix(session: Session, name: str) -> bool:
    """Whether there was one; the usual one is as the history shows it again."""
    row = session.scalars(select(MixRow).where(MixRow.name == name)).first()
    if row is not None:
        session.delete(row)
        session.flush()
    return row is not None
