"""Surcharges: what the shop asks for beside goods and delivery, always or by the shopper's choice.

docs/sums.md, "Surcharges".
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.clauses.conditions import NOTHING_NEEDED, Earned
from yellow_abacus.core.delivery.parcels import MILLIGRAMS_A_KILOGRAM
from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.money import LARGEST_CHARGE, WHOLE_BP, Bools, Ints, percent_of
from yellow_abacus.core.ground.problem import Problem, amount_between, rate_between
from yellow_abacus.core.ground.shape import CLOSED, OneOfKinds
from yellow_abacus.core.offers import ANYBODY, ANYWHERE, Where, Who

Counted = Literal["order", "parcel", "unit", "kilogram", "line"]


@dataclass(frozen=True)
class AmountFor:
    """`amount` minor units for each order, parcel, unit, started kilogram or goods line."""

    amount: int
    counted: Counted = "order"
    kind: Literal["amount"] = "amount"

    __pydantic_config__ = CLOSED

    def asked(self, batch: CartBatch, net_by_line: Ints, lines: Bools | None) -> Ints:
        count = self._count(batch, lines)
        result: Ints = np.minimum(count, LARGEST_CHARGE) * self.amount
        return result

    def _count(self, batch: CartBatch, lines: Bools | None) -> Ints:
        axes = batch.axes
        here = np.ones(axes.lines, dtype=np.bool_) if lines is None else lines
        match self.counted:
            case "unit":
                return axes.sum_by_cart(batch.quantity_by_line * here)
            case "kilogram":
                return -(-axes.sum_by_cart(batch.weight_by_line * here) // MILLIGRAMS_A_KILOGRAM)
            case "line":
                return axes.sum_by_cart(here.astype(np.int64))
        return (axes.sum_by_cart(here.astype(np.int64)) > 0).astype(np.int64)

    def problems(self) -> Iterator[Problem]:
        return amount_between("amount", "The surcharge", self.amount, 0, LARGEST_CHARGE)


@dataclass(frozen=True)
class PartOfGoods:
    """`rate_bp` of what the goods come to after offers."""

    rate_bp: int
    kind: Literal["part_of_goods"] = "part_of_goods"

    __pydantic_config__ = CLOSED

    def asked(self, batch: CartBatch, net_by_line: Ints, lines: Bools | None) -> Ints:
        return percent_of(batch.axes.sum_by_cart(net_by_line if lines is None else net_by_line * lines), self.rate_bp)

    def problems(self) -> Iterator[Problem]:
        return rate_between("rate_bp", "The surcharge", self.rate_bp, least=0)


@dataclass(frozen=True)
class Surcharge:
    """name: what for. of: the goods it counts. chosen_bp: share of shoppers who take it; None if it is asked always.

    tax_class: None to follow the goods of the cart.
    """

    name: str
    asks: Annotated[AmountFor | PartOfGoods, OneOfKinds()]
    of: Scope = EVERYTHING
    chosen_bp: int | None = None
    earned: Earned = NOTHING_NEEDED
    who: Who = ANYBODY
    where: Where = ANYWHERE
    tax_class: str | None = None

    __pydantic_config__ = CLOSED

    @property
    def by_parcel(self) -> bool:
        return isinstance(self.asks, AmountFor) and self.asks.counted == "parcel"

    @property
    def follows_net(self) -> bool:
        """Whether what is asked can change with what offers take off."""
        return isinstance(self.asks, PartOfGoods) or bool(self.earned.conditions)

    def asked(self, batch: CartBatch, zones: tuple[str, ...], net_by_line: Ints) -> Ints:
        """What each cart is asked for, minor units: times earned, where it is earned, and nothing elsewhere.

        Where it is `by_parcel`, that is for each parcel.
        """
        lines = None if self.of == EVERYTHING else batch.lines_in(self.of)
        times = self.earned.times_by_cart(batch, net_by_line) * self.passes(batch, zones)
        amount = self.asks.asked(batch, net_by_line, lines)
        result: Ints = np.minimum(np.minimum(times, LARGEST_CHARGE) * amount, LARGEST_CHARGE)
        result[batch.axes.lines_by_cart == 0] = 0
        return result

    def passes(self, batch: CartBatch, zones: tuple[str, ...]) -> Bools:
        """Whether each cart's shopper is meant, and where it goes, came from and how it is paid."""
        return self.who.passes(batch.facts) & self.where.passes(zones, batch.zone_by_cart, batch.facts)

    def problems(self) -> Iterator[Problem]:
        yield from (problem.inside("asks") for problem in self.asks.problems())
        if self.chosen_bp is not None:
            yield from rate_between("chosen_bp", "The share who take it", self.chosen_bp, least=0, most=WHOLE_BP)
        for at, condition in enumerate(self.earned.conditions):
            yield from (problem.inside("earned", "conditions", at) for problem in condition.problems())
        if self.earned.repeat == "each_time" and not self.earned.conditions:
            yield Problem(("earned", "repeat"), "It counts each time, and nothing is counted.", "Say what is needed.")
        yield from (problem.inside("who") for problem in self.who.problems())
