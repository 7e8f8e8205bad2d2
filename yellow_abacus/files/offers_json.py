"""Offers by themselves as JSON, out to a file and in again, and their JSON Schema. docs/files.md, "Offers"."""

from dataclasses import replace
from typing import Any
from uuid import uuid4

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.core.offers import Terms
from yellow_abacus.files.plan_json import MOST_OFFERS, OfferDoc


class OffersFile(BaseModel):
    """Offers in plan order. Money is minor units of `currency`, rates basis points."""

    model_config = ConfigDict(extra="forbid")

    currency: str = ""
    offers: list[OfferDoc] = Field(max_length=MOST_OFFERS)


def with_new_ids(offers: list[OfferDoc]) -> list[OfferDoc]:
    """The offers as they go into another plan: new ids, and no names of offers that stay behind."""
    new = {offer.id: uuid4().hex for offer in offers}

    def renamed(terms: Terms) -> Terms:
        beside = terms.alongside
        never, yields = (
            tuple(new[other] for other in others if other in new) for others in (beside.never_with, beside.yields_to)
        )
        return replace(terms, alongside=replace(beside, never_with=never, yields_to=yields))

    return [offer.model_copy(update={"id": new[offer.id], "terms": renamed(offer.terms)}) for offer in offers]


def offers_schema() -> dict[str, Any]:
    """The JSON Schema of a file of offers."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **OffersFile.model_json_schema()}
