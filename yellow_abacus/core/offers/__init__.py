"""An offer: what earns it, what it gives, on which goods, how it is given, and when.

The kinds of reward are listed here and nowhere else. A goods reward says how much (`off_by_line`); which
units, sharing, caps and never going below zero are common code in `picked`. A delivery reward says what the charge
becomes (`lowered`). docs/sums.md, "Offers".
"""

from dataclasses import dataclass
from datetime import date
from typing import Annotated, Literal

from yellow_abacus.core.conditions import NOTHING_NEEDED, Earned
from yellow_abacus.core.offers.amount_off import AmountOff, AmountOffEach, UnitPrice
from yellow_abacus.core.offers.delivery_off import DeliveryAmountOff, DeliveryLoweredTo, DeliveryPercentOff
from yellow_abacus.core.offers.percent_off import PercentOff
from yellow_abacus.core.scope import EVERYTHING, Scope
from yellow_abacus.core.shape import CLOSED, OneOfKinds

__all__ = [
    "AmountOff",
    "AmountOffEach",
    "DeliveryAmountOff",
    "DeliveryLoweredTo",
    "DeliveryPercentOff",
    "DeliveryReward",
    "Given",
    "GoodsReward",
    "Limits",
    "Offer",
    "PercentOff",
    "Response",
    "Reward",
    "UnitPrice",
    "When",
]

GoodsReward = PercentOff | AmountOff | AmountOffEach | UnitPrice
DeliveryReward = DeliveryPercentOff | DeliveryAmountOff | DeliveryLoweredTo
Reward = Annotated[GoodsReward | DeliveryReward, OneOfKinds()]


@dataclass(frozen=True)
class Given:
    """By itself, or to shoppers who hold `code`. Codes are compared without regard to case."""

    by: Literal["itself", "code"] = "itself"
    code: str = ""

    __pydantic_config__ = CLOSED

    @property
    def key(self) -> str | None:
        """What names the code in comparisons; None for an offer given by itself."""
        return self.code.casefold() if self.by == "code" else None


@dataclass(frozen=True)
class When:
    """First and last day the offer is open, both included; None leaves that end to the plan."""

    first_day: date | None = None
    last_day: date | None = None

    __pydantic_config__ = CLOSED

    def open_on(self, day: date) -> bool:
        return (self.first_day is None or self.first_day <= day) and (self.last_day is None or day <= self.last_day)


@dataclass(frozen=True)
class Response:
    """How shoppers are expected to respond, in basis points.

    uptake_bp: share of shoppers who hold the code. extra_bp: extra orders, as a share of the orders the offer
    reaches.
    """

    uptake_bp: int = 10_000
    extra_bp: int = 0

    __pydantic_config__ = CLOSED


@dataclass(frozen=True)
class Limits:
    """How far an offer goes on one order; None for no limit.

    times: the most times it is earned. units: the most units each goods reward picks, `units_from` the cheapest or
    the dearest. amount: the most its goods rewards take off together, minor units.
    """

    times: int | None = None
    units: int | None = None
    units_from: Literal["cheapest", "dearest"] = "cheapest"
    amount: int | None = None

    __pydantic_config__ = CLOSED


@dataclass(frozen=True)
class Offer:
    gives: tuple[Reward, ...]
    earned: Earned = NOTHING_NEEDED
    on: Scope = EVERYTHING
    limits: Limits = Limits()
    given: Given = Given()
    when: When = When()
    response: Response = Response()

    __pydantic_config__ = CLOSED

    @property
    def goods_rewards(self) -> tuple[GoodsReward, ...]:
        return tuple(reward for reward in self.gives if isinstance(reward, GoodsReward))

    @property
    def delivery_rewards(self) -> tuple[DeliveryReward, ...]:
        return tuple(reward for reward in self.gives if isinstance(reward, DeliveryReward))

    @property
    def priced_part(self) -> tuple[object, ...]:
        """All that a price can depend on once the offer is available; two offers alike in it price alike."""
        return (self.gives, self.earned, self.on, self.limits, self.given.key)
