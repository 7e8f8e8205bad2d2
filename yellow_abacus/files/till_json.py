"""A cart at the Till: what the shopper sees beside what the merchant keeps, today and under a plan."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.files.cart_json import CartDoc, OutcomeDoc
from yellow_abacus.files.plan_json import PlanDoc


class TillBody(BaseModel):
    """A cart and the plan it is rung up under."""

    model_config = ConfigDict(extra="forbid")

    plan: PlanDoc
    cart: CartDoc


class TurnDoc(BaseModel):
    """An offer at its turn, on goods and things put in or on the delivery charge."""

    offer: str
    on: Literal["goods", "delivery"]


class SetDoc(BaseModel):
    """Offers that may stand together and were held against other such sets.

    offers: those that took effect. pays: what the shopper would pay in all; put_in: what things put in are worth, at
    standing prices. kept: the set the shopper got.
    """

    offers: list[str]
    pays: int
    put_in: int
    kept: bool


class WayDoc(BaseModel):
    """One way the cart may go, under the plan and today. share: how many such shoppers go that way.

    steps: offers in the order they took effect. sets: the largest that may stand, where there are several, the best
    for the shopper first.
    """

    share: float
    plan: OutcomeDoc
    today: OutcomeDoc
    steps: list[TurnDoc]
    sets: list[SetDoc]


class TillDoc(BaseModel):
    """ways: the likeliest first."""

    currency: str
    minor_digits: int
    ways: list[WayDoc]


class MendedDoc(BaseModel):
    """What makes an offer apply that does not yet, in words, and the cart then."""

    offer: str
    label: str
    cart: CartDoc


class MendsDoc(BaseModel):
    mends: list[MendedDoc]


class DrawBody(BaseModel):
    """Which cart to take from the history: an order by its id, one of a type (`way`, `label`), one that just misses
    an offer (its id), or else any. turn: another number draws another cart."""

    model_config = ConfigDict(extra="forbid")

    plan: PlanDoc
    order: Annotated[int, Field(ge=1, le=2**53)] | None = None
    way: Annotated[str, Field(max_length=40)] = ""
    label: Annotated[str, Field(max_length=200)] = ""
    near: Annotated[str, Field(max_length=40)] = ""
    turn: Annotated[int, Field(ge=0, le=2**31)] = 0


class DrawnDoc(BaseModel):
    """of: which order it was, in words."""

    cart: CartDoc
    of: str


class TrialDoc(BaseModel):
    """A cart made to try an offer. text: why the offer applies or not. Minor units, today and under the plan."""

    offer: str
    label: str
    cart: CartDoc
    applies: bool
    text: str
    pays_today: int
    pays: int
    kept_today: int
    kept: int


class TrialsDoc(BaseModel):
    trials: list[TrialDoc]


class CaseTold(BaseModel):
    """A case as it comes out now. says: what is otherwise, empty where it holds. pays: null where it cannot be rung
    up."""

    name: str
    holds: bool
    says: str
    pays: int | None
    applies: list[str]


class CasesDoc(BaseModel):
    """In the order of the plan's cases."""

    cases: list[CaseTold]
