"""Offers the merchant told the shop, in the order they apply: those that run already, and those that ran before."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.core.offers import Terms
from yellow_abacus.store.models import ToldOfferRow
from yellow_abacus.store.survived import survived

TERMS = TypeAdapter(Terms)

Table = type[ToldOfferRow]


@dataclass(frozen=True)
class ToldOffer:
    """offer_id: by which plans name it."""

    offer_id: str
    name: str
    note: str
    terms: Terms


def all_told(session: Session, table: Table) -> tuple[ToldOffer, ...]:
    rows = session.scalars(select(table).order_by(table.id))
    return tuple(
        ToldOffer(row.offer_id, row.name, row.note, TERMS.validate_python(survived(row.terms))) for row in rows
    )


def save_told(session: Session, table: Table, offers: Sequence[ToldOffer]) -> None:
    """These alone, in this order."""
    rows = list(session.scalars(select(table).order_by(table.id)))
    for row, offer in zip(rows, offers, strict=False):
        for name, value in _values(offer).items():
            setattr(row, name, value)
    for row in rows[len(offers) :]:
        session.delete(row)
    session.add_all(table(**_values(offer)) for offer in offers[len(rows) :])
    session.flush()


def _values(offer: ToldOffer) -> dict[str, Any]:
    terms = TERMS.dump_python(offer.terms, mode="json")
    return {"offer_id": offer.offer_id, "name": offer.name, "note": offer.note, "terms": terms}
