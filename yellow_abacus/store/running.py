"""Offers that run already, in the shop file, in the order they apply."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.core.offers import Terms
from yellow_abacus.store.models import RunningOfferRow
from yellow_abacus.store.survived import survived

TERMS = TypeAdapter(Terms)


@dataclass(frozen=True)
class RunningOffer:
    """offer_id: by which plans name it."""

    offer_id: str
    name: str
    note: str
    terms: Terms


def all_running(session: Session) -> tuple[RunningOffer, ...]:
    rows = session.scalars(select(RunningOfferRow).order_by(RunningOfferRow.id))
    return tuple(
        RunningOffer(row.offer_id, row.name, row.note, TERMS.validate_python(survived(row.terms))) for row in rows
    )


def save_running(session: Session, offers: Sequence[RunningOffer]) -> None:
    """These alone, in this order."""
    rows = list(session.scalars(select(RunningOfferRow).order_by(RunningOfferRow.id)))
    for row, offer in zip(rows, offers, strict=False):
        for name, value in _values(offer).items():
            setattr(row, name, value)
    for row in rows[len(offers) :]:
        session.delete(row)
    session.add_all(RunningOfferRow(**_values(offer)) for offer in offers[len(rows) :])
    session.flush()


def _values(offer: RunningOffer) -> dict[str, Any]:
    terms = TERMS.dump_python(offer.terms, mode="json")
    return {"offer_id": offer.offer_id, "name": offer.name, "note": offer.note, "terms": terms}
