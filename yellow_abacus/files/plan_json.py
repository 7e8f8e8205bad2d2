"""Plans as JSON: the shape the API takes, the shop file keeps, and the command line reads and writes.

An offer's terms are the core's own dataclasses, so no shape is written twice. docs/files.md, "Plans".
"""

from dataclasses import fields
from datetime import date
from typing import Annotated
from uuid import uuid4

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.carts.guise import Guise
from yellow_abacus.core.forecast.check import check_plan
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.sharp import Sharp
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import LARGEST_CART, WHOLE_BP
from yellow_abacus.core.ground.naming import all_folded
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


class SharpDoc(BaseModel):
    """A share of shoppers who build a cart that leaks, in place of what they would have brought.

    offers: ids of those it is built for; while one of them is not open, nobody builds it.
    """

    model_config = ConfigDict(extra="forbid")

    share_bp: Annotated[int, Field(ge=1, le=WHOLE_BP)]
    cart: CartDoc
    offers: Annotated[list[str], Field(max_length=MOST_OFFERS)] = []

    def sharp(self) -> Sharp:
        cart, shopper = self.cart, self.cart.shopper
        return Sharp(
            share_bp=self.share_bp,
            lines=tuple((line.sku, line.quantity) for line in cart.lines),
            zone=cart.zone,
            option=cart.option,
            guise=Guise(
                weekday=UNKNOWN if cart.time is None else cart.time.weekday(),
                minute=UNKNOWN if cart.time is None else cart.time.hour * 60 + cart.time.minute,
                orders_before=UNKNOWN if shopper.orders_before is None else shopper.orders_before,
                days_since=UNKNOWN if shopper.days_since is None else shopper.days_since,
                shopper=shopper.id,
                group=shopper.group,
                tag=shopper.tags[0] if shopper.tags else "",
                channel=cart.channel,
                payment=cart.payment,
            ),
            codes=all_folded(cart.codes),
            offers=tuple(self.offers),
        )


class PlanDoc(BaseModel):
    """mix: the name of the carts to expect; empty for the usual ones.

    cases: carts held against what they are to come to. set_aside: snags that are let be. sharp: the cart some
    shoppers build.
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
    sharp: SharpDoc | None = None

    @property
    def names(self) -> dict[str, str]:
        """Of the offers by id, slid-out ones included; those without a name by their number on the rod."""
        return {one.id: one.name or f"offer {number}" for number, one in enumerate(self.offers, start=1)}

    def plan(self) -> Plan:
        """The plan as the core takes it: offers that are slid out are not part of it."""
        return self._plan([one for one in self.offers if one.in_plan])

    def _plan(self, offers: list[OfferDoc]) -> Plan:
        sharp = None if self.sharp is None else self.sharp.sharp()
        return Plan(self.first_day, self.last_day, tuple(one.offer() for one in offers), self.apply, sharp)

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
