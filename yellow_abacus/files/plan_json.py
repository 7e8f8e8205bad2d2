"""Plans as JSON: the shape the API takes, the shop file keeps, and the command line reads and writes.

An offer's terms are the core's own dataclasses, so no shape is written twice. docs/files.md, "Plans".
"""

from collections.abc import Collection
from datetime import date
from typing import Annotated, Any
from uuid import uuid4

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.core.check import check_plan
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.plan import Plan
from yellow_abacus.core.problem import Problem

Name = Annotated[str, Field(min_length=1, max_length=80)]
Note = Annotated[str, Field(max_length=4000)]
MOST_OFFERS = 40


class OfferDoc(BaseModel):
    """An offer with what only people care for: its name, a private note, and whether it is slid into the plan."""

    model_config = ConfigDict(extra="forbid")

    id: Annotated[str, Field(min_length=1, max_length=40)] = Field(default_factory=lambda: uuid4().hex)
    name: Annotated[str, Field(max_length=80)] = ""
    note: Note = ""
    in_plan: bool = True
    terms: Offer


class PlanDoc(BaseModel):
    model_config = ConfigDict(extra="forbid")

    name: Name
    note: Note = ""
    first_day: date
    last_day: date
    offers: Annotated[list[OfferDoc], Field(max_length=MOST_OFFERS)] = []

    def plan(self) -> Plan:
        """The plan as the core takes it: offers that are slid out are not part of it."""
        return Plan(self.first_day, self.last_day, tuple(offer.terms for offer in self.offers if offer.in_plan))

    def problems(self, zones: Collection[str], categories: Collection[str], skus: Collection[str]) -> list[Problem]:
        """What makes no sense, slid-out offers included, with paths into this document."""
        everything = Plan(self.first_day, self.last_day, tuple(offer.terms for offer in self.offers))
        return [_in_document(problem) for problem in check_plan(everything, zones, categories, skus)]

    def offers_json(self) -> list[dict[str, Any]]:
        return [offer.model_dump(mode="json") for offer in self.offers]


class PlansFile(BaseModel):
    """A file of plans."""

    model_config = ConfigDict(extra="forbid")

    plans: list[PlanDoc]


def _in_document(problem: Problem) -> Problem:
    match problem.path:
        case ("offers", number, *rest) if rest:
            return Problem(("offers", number, "terms", *rest), problem.message, problem.mend)
    return problem
