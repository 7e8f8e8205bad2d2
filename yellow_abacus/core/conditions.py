"""What earns an offer: conditions that measure something over a scope, and how many times it is earned.

docs/sums.md, "Conditions".
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, Literal, Protocol

import numpy as np

from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.money import LARGEST_CART, Bools, Floats, Ints
from yellow_abacus.core.problem import Problem, amount_between
from yellow_abacus.core.scope import EVERYTHING, Scope
from yellow_abacus.core.shape import CLOSED, OneOfKinds

Bound = Literal["at_least", "over", "at_most"]

UNBOUNDED = LARGEST_CART
"""Stands for a times-earned that nothing limits."""


@dataclass(frozen=True)
class Spend:
    """The goods in scope come to `n` minor units, after what earlier offers took off."""

    n: int
    bound: Bound = "at_least"
    of: Scope = EVERYTHING
    kind: Literal["spend"] = "spend"

    __pydantic_config__ = CLOSED

    def measure_by_cart(self, batch: CartBatch, net_by_line: Ints) -> Ints:
        return batch.axes.sum_by_cart(net_by_line * batch.lines_in(self.of))

    def problems(self) -> Iterator[Problem]:
        return amount_between("n", "The spend needed", self.n, least=1)


@dataclass(frozen=True)
class Units:
    """There are `n` units of the goods in scope, whether or not other offers used them."""

    n: int
    bound: Bound = "at_least"
    of: Scope = EVERYTHING
    kind: Literal["units"] = "units"

    __pydantic_config__ = CLOSED

    def measure_by_cart(self, batch: CartBatch, net_by_line: Ints) -> Ints:
        return batch.axes.sum_by_cart(batch.quantity_by_line * batch.lines_in(self.of))

    def problems(self) -> Iterator[Problem]:
        return amount_between("n", "The number of units", self.n, least=1, most=1_000_000)


@dataclass(frozen=True)
class Weight:
    """The goods in scope weigh `n` grams."""

    n: int
    bound: Bound = "at_least"
    of: Scope = EVERYTHING
    kind: Literal["weight"] = "weight"

    __pydantic_config__ = CLOSED

    def measure_by_cart(self, batch: CartBatch, net_by_line: Ints) -> Floats:
        return batch.axes.sum_floats_by_cart(batch.weight_by_line * batch.lines_in(self.of))

    def problems(self) -> Iterator[Problem]:
        return amount_between("n", "The weight", self.n, least=1, most=1_000_000_000)


@dataclass(frozen=True)
class Products:
    """There are `n` different products, by name, of the goods in scope."""

    n: int
    bound: Bound = "at_least"
    of: Scope = EVERYTHING
    kind: Literal["products"] = "products"

    __pydantic_config__ = CLOSED

    def measure_by_cart(self, batch: CartBatch, net_by_line: Ints) -> Ints:
        return batch.axes.count_different(batch.product_by_line, batch.lines_in(self.of))

    def problems(self) -> Iterator[Problem]:
        return amount_between("n", "The number of products", self.n, least=1, most=10_000)


Condition = Annotated[Spend | Units | Weight | Products, OneOfKinds()]
"""Every kind of condition; a new kind joins this union."""


class Measures(Protocol):
    """What `Earned` asks of a condition, whatever its kind."""

    @property
    def n(self) -> int: ...
    @property
    def bound(self) -> Bound: ...
    def measure_by_cart(self, batch: CartBatch, net_by_line: Ints) -> Ints | Floats: ...


@dataclass(frozen=True)
class Earned:
    """All of `conditions` must hold, or any of them; none at all always holds.

    repeat: *once*, or *each_time* the threshold is reached again.
    """

    conditions: tuple[Condition, ...] = ()
    repeat: Literal["once", "each_time"] = "once"
    need: Literal["all", "any"] = "all"

    __pydantic_config__ = CLOSED

    def times_by_cart(self, batch: CartBatch, net_by_line: Ints) -> Ints:
        """Times earned `t`, one entry a cart: the least over the conditions, or with *any* the greatest.

        A held *at most* has nothing to count: it is left out of the least and is 1 in the greatest.
        """
        carts = batch.axes.carts
        if not self.conditions:
            return np.ones(carts, dtype=np.int64)
        counted = [self._times(one, batch, net_by_line) for one in self.conditions]
        if self.need == "any":
            greatest: Ints = np.max([np.where(times == UNBOUNDED, 1, times) for times in counted], axis=0)
            return greatest
        least = np.min(counted, axis=0)
        result: Ints = np.where(least == UNBOUNDED, 1, least)
        return result

    def _times(self, condition: Measures, batch: CartBatch, net_by_line: Ints) -> Ints:
        measure = condition.measure_by_cart(batch, net_by_line)
        holds: Bools = {
            "at_least": measure >= condition.n,
            "over": measure > condition.n,
            "at_most": measure <= condition.n,
        }[condition.bound]
        if condition.bound == "at_most":
            return np.where(holds, UNBOUNDED, 0)
        times = (measure // condition.n).astype(np.int64) if self.repeat == "each_time" else holds.astype(np.int64)
        return np.where(holds, times, 0)


NOTHING_NEEDED = Earned()
