"""An offer: what earns it, what it gives, on which goods, how it is given, when, to whom, and beside which others.

A goods reward says which units and how much (`take`); limits, sharing, caps and never going below zero are common
code in `turn` and `picked`. A delivery reward says what the charge becomes (`lowered`). docs/sums.md, "Offers".
"""

from collections.abc import Collection, Iterator
from dataclasses import dataclass, fields, replace
from datetime import date
from typing import Literal

from yellow_abacus.core.clauses.alongside import Alongside
from yellow_abacus.core.clauses.conditions import NOTHING_NEEDED, Earned
from yellow_abacus.core.clauses.funded import BY_NOBODY_ELSE, Funded
from yellow_abacus.core.clauses.given import Given
from yellow_abacus.core.clauses.response import Response
from yellow_abacus.core.clauses.when import When
from yellow_abacus.core.clauses.where import Where
from yellow_abacus.core.clauses.who import Who
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.money import WHOLE_BP
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.shape import CLOSED
from yellow_abacus.core.offers.amount_off import AmountOff, AmountOffEach, UnitPrice
from yellow_abacus.core.offers.buy_get import BuyGet
from yellow_abacus.core.offers.delivery_off import DeliveryAmountOff, DeliveryLoweredTo, DeliveryPercentOff
from yellow_abacus.core.offers.goods_set import GoodsSet, Part, SetPrice
from yellow_abacus.core.offers.kinds import WorksOnPicked
from yellow_abacus.core.offers.percent_off import PercentOff
from yellow_abacus.core.offers.put_in import PutIn
from yellow_abacus.core.offers.rewards import DeliveryReward, GoodsReward, Reward, Step, with_delivery

__all__ = [
    "Alongside",
    "AmountOff",
    "AmountOffEach",
    "BuyGet",
    "DeliveryAmountOff",
    "DeliveryLoweredTo",
    "DeliveryPercentOff",
    "DeliveryReward",
    "Funded",
    "Given",
    "GoodsReward",
    "GoodsSet",
    "Limits",
    "Offer",
    "Part",
    "PercentOff",
    "PutIn",
    "Response",
    "Reward",
    "SetPrice",
    "Step",
    "Terms",
    "UnitPrice",
    "When",
    "Where",
    "Who",
]


@dataclass(frozen=True)
class Limits:
    """How far an offer goes; None for no limit.

    On one order: times, the most times it is earned; units, the most units each goods reward picks, `units_from` the
    cheapest or the dearest; amount, the most its goods rewards take off together, minor units. uses_per_shopper,
    uses and spending (minor units) run over time: they change no price; `forecast.course` says when they end.
    """

    times: int | None = None
    units: int | None = None
    units_from: Literal["cheapest", "dearest"] = "cheapest"
    amount: int | None = None
    uses_per_shopper: int | None = None
    uses: int | None = None
    spending: int | None = None

    __pydantic_config__ = CLOSED


NO_LIMITS = Limits()
BY_ITSELF = Given()
ANY_TIME = When()
ANYBODY = Who()
ANYWHERE = Where()
BESIDE_ALL = Alongside()
AS_BEFORE = Response()


@dataclass(frozen=True)
class Terms:
    """The clauses of an offer. steps: from higher thresholds on, other rewards than `gives`.

    returned_bp: how many times as much comes back of what it takes something off.

    every_step: things put in come with every step reached, not with the highest alone.
    """

    gives: tuple[Reward, ...]
    earned: Earned = NOTHING_NEEDED
    steps: tuple[Step, ...] = ()
    every_step: bool = False
    on: Scope = EVERYTHING
    limits: Limits = NO_LIMITS
    given: Given = BY_ITSELF
    when: When = ANY_TIME
    who: Who = ANYBODY
    where: Where = ANYWHERE
    alongside: Alongside = BESIDE_ALL
    funded: Funded = BY_NOBODY_ELSE
    returned_bp: int = WHOLE_BP
    response: Response = AS_BEFORE

    __pydantic_config__ = CLOSED

    @property
    def gives_by_step(self) -> tuple[tuple[Reward, ...], ...]:
        """The rewards of the first threshold, then of each step."""
        return (self.gives, *(step.gives for step in self.steps))

    def rewards(self) -> Iterator[Reward]:
        """Every reward of every step, in the order written."""
        for gives in self.gives_by_step:
            yield from gives

    @property
    def works_on_goods(self) -> bool:
        """Whether it has its turn among the goods offers: it takes something off goods, or puts something in."""
        return self.takes_off_goods or self.puts_in

    @property
    def takes_off_goods(self) -> bool:
        return any(isinstance(reward, GoodsReward) for reward in self.rewards())

    @property
    def most_uses(self) -> int | None:
        """How often it may be used in all: by its limit, and each code of a list once; None for no limit."""
        bounds = (self.limits.uses, len(self.given.codes) or None)
        return min((one for one in bounds if one is not None), default=None)

    @property
    def puts_in(self) -> bool:
        return any(isinstance(reward, PutIn) for reward in self.rewards())

    @property
    def works_on_delivery(self) -> bool:
        return any(isinstance(reward, DeliveryReward) or with_delivery(reward) for reward in self.rewards())


@dataclass(frozen=True)
class Offer(Terms):
    """Terms with the id by which other offers name them. runs: whether it runs already: orders of the history that
    used its code hold it, and no others."""

    id: str = ""
    runs: bool = False

    @property
    def asks_code(self) -> str | None:
        """The code that shoppers may or may not hold; None where they need none, or it is known who did."""
        return None if self.runs else self.given.key

    def on_day(self, day: date) -> "Offer | None":
        """The offer as it holds on one day; None if it is closed all day."""
        if self.when == ANY_TIME:
            return self
        when = self.when.on_day(day)
        return None if when is None else replace(self, when=when)

    def may_put_in(self, skus: Collection[str], goods: Goods) -> bool:
        """Whether something it puts in may be of these."""
        return any(one.may_be_of(skus, goods) for one in self.rewards() if isinstance(one, PutIn))

    def without(self, sku: str, goods: Goods) -> "Offer | None":
        """The offer once the stock of something it puts in has ended; None where nothing is left to give."""

        def left(gives: tuple[Reward, ...]) -> tuple[Reward, ...]:
            found = (one.without(sku, goods) if isinstance(one, PutIn) else one for one in gives)
            return tuple(one for one in found if one is not None)

        steps = tuple(replace(step, gives=left(step.gives)) for step in self.steps)
        gives = left(self.gives)
        if gives == self.gives and steps == self.steps:
            return self
        return replace(self, gives=gives, steps=steps) if gives or any(one.gives for one in steps) else None

    @cached_property
    def priced_part(self) -> "PricedPart":
        """All that a price can depend on once the offer is available; two offers alike in it price alike."""
        return self._part()

    @cached_property
    def earning_part(self) -> "PricedPart":
        """All that earning the offer can depend on, and what a cart is short of: not how much comes off."""
        steps = tuple(replace(step, gives=()) for step in self.steps)
        asks = (tuple(_asks(one) for one in gives) for gives in self.gives_by_step)
        return replace(self, gives=(), steps=steps)._part(tuple(asks))

    @cached_property
    def reaching_part(self) -> "PricedPart":
        """All that the carts it can reach depend on: neither how much comes off nor exactly how much earns it."""
        return replace(self, earned=self.earned.coarser).earning_part

    def _part(self, *more: object) -> "PricedPart":
        unpriced = ("response", "given")
        codes = self.given.accepted if self.runs else ()
        told = (*(getattr(self, one.name) for one in fields(self) if one.name not in unpriced), self.given.key, codes)
        return _the_one_like(PricedPart((*told, *more), hash((*told, *more))))


def _asks(reward: Reward) -> object:
    """What a reward asks of a cart."""
    return type(reward) if isinstance(reward, WorksOnPicked) else reward


@dataclass(frozen=True, eq=False)
class PricedPart:
    """The clauses of an offer that a price can depend on, hashed once and compared quickly."""

    clauses: tuple[object, ...]
    hashed: int

    def __hash__(self) -> int:
        return self.hashed

    def __eq__(self, other: object) -> bool:
        if self is other:
            return True
        return isinstance(other, PricedPart) and self.hashed == other.hashed and self.clauses == other.clauses


MOST_PARTS_KEPT = 4_000
_kept_parts: dict[PricedPart, PricedPart] = {}


def _the_one_like(part: PricedPart) -> PricedPart:
    """The same object for parts alike, so that they are known by it: plans are read anew with every keystroke."""
    if len(_kept_parts) > MOST_PARTS_KEPT:
        _kept_parts.clear()
    return _kept_parts.setdefault(part, part)


def named(terms: Terms, offer_id: str) -> Offer:
    """The offer with these terms that others know by `offer_id`."""
    return Offer(**{one.name: getattr(terms, one.name) for one in fields(Terms)}, id=offer_id)
