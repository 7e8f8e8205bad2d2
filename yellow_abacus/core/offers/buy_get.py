"""Buy x get y: units in one scope earn units in another, free or cheaper. docs/sums.md, "Buy x get y"."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np

from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.problem import Problem, amount_between
from yellow_abacus.core.ground.shape import CLOSED, OneOfKinds
from yellow_abacus.core.offers.amount_off import AmountOffEach, UnitPrice
from yellow_abacus.core.offers.percent_off import PercentOff
from yellow_abacus.core.offers.picked import pick
from yellow_abacus.core.offers.turn import Taken, Turn

MOST_UNITS = 1_000_000

Price = Annotated[PercentOff | AmountOffEach | UnitPrice, OneOfKinds()]


@dataclass(frozen=True)
class BuyGet:
    """`buy` units of the goods `of` earn `get` units of the goods the offer is on, at `price` (100 % off is free).

    buy: 0 where the conditions alone earn it. units_from: whether the cheapest or the dearest units are given.
    """

    buy: int
    get: int
    price: Price
    of: Scope = EVERYTHING
    units_from: Literal["cheapest", "dearest"] = "cheapest"
    kind: Literal["buy_get"] = "buy_get"

    __pydantic_config__ = CLOSED

    def take(self, turn: Turn) -> Taken:
        """k = min(t, (x0+o)/x, (y0+o)/y, (x0+y0+o)/(x+y)); reward units first, then earning ones dearest first."""
        batch = turn.batch
        gets = turn.lines_to_take_from(turn.on)
        buys = turn.lines_in(self.of) if self.buy else np.zeros_like(gets)
        at = np.flatnonzero(gets | buys)
        axes, gets, buys = batch.axes.of(at), gets[at], buys[at]
        free = batch.quantity_by_line[at] - turn.used_by_line[at]
        both = gets & buys
        in_both = axes.sum_by_cart(free * both)
        could_buy = axes.sum_by_cart(free * buys)
        could_get = axes.sum_by_cart(free * gets)
        times = np.minimum(turn.times_by_cart, could_get // self.get)
        if self.buy:
            times = np.minimum(times, could_buy // self.buy)
            times = np.minimum(times, (could_buy + could_get - in_both) // (self.buy + self.get))
        bought = times * self.buy
        # Of the units that could both earn and be given, so many must be left to earn.
        may_give = in_both - np.maximum(bought - (could_buy - in_both), 0)
        givable = np.where(both, pick(axes, free * both, may_give, self.units_from), free * gets)
        given = pick(axes, givable, times * self.get, self.units_from)
        picked = turn.picked(axes, at, given)
        off = self.price.off_by_line(picked)
        earning = pick(axes, (free - given) * buys, bought, "dearest")
        return Taken(
            axes=axes,
            at=at,
            off_by_line=off,
            used_by_line=given + earning,
            times_by_cart=times,
            picked_by_cart=np.zeros_like(times),
            units_by_line=given,
        )

    def problems(self) -> Iterator[Problem]:
        yield from amount_between("buy", "The units to buy", self.buy, least=0, most=MOST_UNITS)
        yield from amount_between("get", "The units to get", self.get, least=1, most=MOST_UNITS)
        yield from (problem.inside("price") for problem in self.price.problems())
