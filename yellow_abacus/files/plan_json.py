"""Plans as JSON: the shape the API takes, the shop file keeps, and the command line reads and writes.

An offer's terms are the core's own dataclasses, so no shape is written twice. docs/files.md, "Plans".
"""

from dataclasses import fields
from datetime import date
from typing import Annotated
from uuid import uuid4

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.core.forecast.check import check_plan
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import LARGEST_CART
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.offers import Offer, Terms, named
from yellow_abacus.core.pricing.pricing import Apply
from yellow_abacus.core.shop.shop import Shop
from yellow_abacus.files.cart_json import CartDoc

Name = Annotated[str, Field(min_length=1, max_length=80)]
Note = Annotated[str, Field(max_length=4000)]
MOST_OFFERS = 40
MOST_CASES = 60
LARGEST_PAID = 4 * LARGEST_CART
MOST_SET_ASIDE = 400


class OfferDoc(BaseModel):
    """An offer with what only people care for: its name, a private note, and whether it is slid into the plan."""

    model_config = ConfigDict(extra="forbid")

    id: Annotated[str, Field(min_length=1, max_length=40)] = Field(default_factory=lambda: uuid4().hex)
    name: Annotated[str, Field(max_length=80)] = ""
    note: Note = ""
    in_plan: bool = True
    terms: Terms

    def offer(self) -> Offer:
        return named(self.terms, self.id)


def terms_of(offer: Offer) -> Terms:
    """An offer's terms without its id."""
    return Terms(**{one.name: getattr(offer, one.name) for one in fields(Terms)})


class CaseDoc(BaseModel):
    """A cart that is to come out so under the plan. pays: by its shopper, minor units. applies: offers, by id."""

    model_config = ConfigDict(extra="forbid")

    name: Name
    cart: CartDoc
    pays: Annotated[int, Field(ge=0, le=LARGEST_PAID)]
    applies: Annotated[list[str], Field(max_length=MOST_OFFERS)] = []


class SetAsideDoc(BaseModel):
    """A snag the merchant has looked at and lets be. offer: its id, empty where the snag is the plan's."""

    model_config = ConfigDict(extra="forbid")

    snag: Annotated[str, Field(min_length=1, max_length=60)]
    offer: Annotated[str, Field(max_length=40)] = ""
    why: Annotated[str, Field(max_length=400)] = ""


class PlanDoc(BaseModel):
    """mix: the name of the carts to expect; empty for the usual ones.

    cases: carts held against what they are to come to. set_aside: snags that are let be.
    """

    model_config = ConfigDict(extra="forbid")

    name: Name
    note: Note = ""
    first_day: date
    last_day: date
    apply: Apply = "best"
    mix: Annotated[str, Field(max_length=80)] = ""
    offers: Annotated[list[OfferDoc], Field(max_length=MOST_OFFERS)] = []
    cases: Annotated[list[CaseDoc], Field(max_length=MOST_CASES)] = []
    set_aside: Annotated[list[SetAsideDoc], Field(max_length=MOST_SET_ASIDE)] = []

    def plan(self) -> Plan:
        """The plan as the core takes it: offers that are slid out are not part of it."""
        return self._plan([one for one in self.offers if one.in_plan])

    def _plan(self, offers: list[OfferDoc]) -> Plan:
        return Plan(self.first_day, self.last_day, tuple(one.offer() for one in offers), self.apply)

    def problems(self, shop: Shop, goods: Goods) -> list[Problem]:
        """What makes no sense, slid-out offers included, with paths into this document."""
        return [_in_document(problem) for problem in check_plan(self._plan(self.offers), shop, goods)]


class PlansFile(BaseModel):
    """A file of plans."""

    model_config = ConfigDict(extra="forbid")

    plans: list[PlanDoc]


def _in_document(problem: Problem) -> Problem:
    match problem.path:
        case ("offers", number, *rest) if rest and rest != ["id"]:
            return Problem(("offers", number, "terms", *rest), problem.message, problem.mend)
    return problem
