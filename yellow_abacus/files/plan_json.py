"""Plans as JSON: the shape the API takes, the shop file keeps, and the command line reads and writes.

An offer's terms are the core's own dataclasses, so no shape is written twice. docs/files.md, "Plans".
"""

from collections.abc import Sequence
from dataclasses import fields, replace
from datetime import date
from typing import Annotated, Any
from uuid import uuid4

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.carts.guise import Guise
from yellow_abacus.core.clauses.response import MOST
from yellow_abacus.core.forecast.check import check_plan
from yellow_abacus.core.forecast.moving import moved
from yellow_abacus.core.forecast.plan import Dropped, Plan
from yellow_abacus.core.forecast.sharp import Sharp
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import LARGEST_CART, WHOLE_BP
from yellow_abacus.core.ground.naming import all_folded
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.offers import Offer, Response, Terms, named
from yellow_abacus.core.pricing.pricing import Apply
from yellow_abacus.core.shop.shop import Shop
from yellow_abacus.files.cart_json import CartDoc

Name = Annotated[str, Field(min_length=1, max_length=80)]
Note = Annotated[str, Field(max_length=4000)]
MOST_OFFERS = 40
MOST_PLANS = 1_000
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


class DroppedDoc(BaseModel):
    """An offer that runs already, by its id, and not under the plan.

    extra_bp: orders it brings, as a share of those it reaches that would come without it; extra_first_bp: of first
    orders, null for the same.
    Null counts as none.
    """

    model_config = ConfigDict(extra="forbid")

    offer: Annotated[str, Field(min_length=1, max_length=40)]
    extra_bp: Annotated[int, Field(ge=0, le=MOST["extra_bp"])] | None = None
    extra_first_bp: Annotated[int, Field(ge=0, le=MOST["extra_bp"])] | None = None

    def dropped(self, offer: Offer) -> Dropped:
        first = self.extra_first_bp
        return Dropped(offer, (self.extra_bp or 0) / WHOLE_BP, None if first is None else first / WHOLE_BP)


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

    An offer with the id of one that runs already stands in its place. dropped: of those that run already, what does
    not run under the plan.

    cases: carts held against what they are to come to. set_aside: snags that are let be. sharp: the cart some
    shoppers build. lost_if_sold_out_bp: of the orders that miss something sold out, those not placed at all; null
    where orders go on as if there were enough.
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
    dropped: Annotated[list[DroppedDoc], Field(max_length=MOST_OFFERS)] = []
    sharp: SharpDoc | None = None
    lost_if_sold_out_bp: Annotated[int, Field(ge=0, le=WHOLE_BP)] | None = None
    _running: tuple[OfferDoc, ...] = ()

    def beside(self, running: Sequence[OfferDoc]) -> "PlanDoc":
        """The plan in a shop in which these offers run already."""
        found = self.model_copy()
        found._running = tuple(running)
        return found

    def moved(self, first_day: date, last_day: date) -> "PlanDoc":
        """The plan over other days, its offers' own days moved along."""
        before, after = (self.first_day, self.last_day), (first_day, last_day)
        if before == after:
            return self
        offers = [
            one.model_copy(update={"terms": replace(one.terms, when=moved(one.terms.when, before, after))})
            for one in self.offers
        ]
        return self.model_copy(update={"first_day": first_day, "last_day": last_day, "offers": offers})

    @property
    def names(self) -> dict[str, str]:
        """Of the offers by id, slid-out ones included; those without a name by their number on the rod."""
        running = names_of_running(self._running)
        return running | {one.id: one.name or f"offer {number}" for number, one in enumerate(self.offers, start=1)}

    @property
    def in_force(self) -> list[OfferDoc]:
        """What runs under the plan, in order: offers that run already and are kept, then its own."""
        own = [one for one in self.offers if one.in_plan]
        return [*self._kept(own), *own]

    def _kept(self, own: Sequence[OfferDoc]) -> list[OfferDoc]:
        gone = {one.offer for one in self.dropped} | {one.id for one in own}
        return [one for one in self._running if one.id not in gone]

    def plan(self) -> Plan:
        """The plan as the core takes it: offers that are slid out are not part of it."""
        return self._plan([one for one in self.offers if one.in_plan])

    def _plan(self, own: Sequence[OfferDoc]) -> Plan:
        running = {one.id: replace(one.offer(), runs=True, response=Response()) for one in self._running}
        put_in_place = {one.id for one in own}
        return Plan(
            self.first_day,
            self.last_day,
            (*(running[one.id] for one in self._kept(own)), *(one.offer() for one in own)),
            self.apply,
            None if self.sharp is None else self.sharp.sharp(),
            tuple(running.values()),
            tuple(
                one.dropped(running[one.offer])
                for one in self.dropped
                if one.offer in running and one.offer not in put_in_place
            ),
            self.lost_if_sold_out_bp,
        )

    def problems(self, shop: Shop, goods: Goods) -> list[Problem]:
        """What makes no sense, slid-out offers included, with paths into this document."""
        kept = len(self._kept(self.offers))
        return [_in_document(problem, kept) for problem in check_plan(self._plan(self.offers), shop, goods)]


def names_of_running(running: Sequence[OfferDoc]) -> dict[str, str]:
    """Of offers that run already, by id; those without a name by their number."""
    return {one.id: one.name or f"running offer {number}" for number, one in enumerate(running, start=1)}


class PlansFile(BaseModel):
    """A file of plans. currency: what their amounts are in; empty where it does not say."""

    model_config = ConfigDict(extra="forbid")

    currency: Annotated[str, Field(max_length=3)] = ""
    plans: Annotated[list[PlanDoc], Field(max_length=MOST_PLANS)]


def plans_schema() -> dict[str, Any]:
    """The JSON Schema of a file of plans."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **PlansFile.model_json_schema()}


def _in_document(problem: Problem, kept: int) -> Problem:
    """kept: how many offers that run already stand before the plan's own."""
    match problem.path:
        case ("offers", int(number), *rest) if number < kept:
            return Problem(("running", number, *rest), problem.message, problem.mend)
        case ("offers", int(number), "id"):
            return Problem(("offers", number - kept, "id"), problem.message, problem.mend)
        case ("offers", int(number), *rest) if rest:
            return Problem(("offers", number - kept, "terms", *rest), problem.message, problem.mend)
    return problem
