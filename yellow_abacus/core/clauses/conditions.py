"""What earns an offer: conditions that measure something over a scope, and how many times it is earned.

docs/sums.md, "Conditions".
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Annotated, ClassVar, Literal, Self

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.money import LARGEST_CART, MILLIGRAMS, Bools, Ints
from yellow_abacus.core.ground.problem import Problem, amount_between
from yellow_abacus.core.ground.shape import CLOSED, OneOfKinds

Bound = Literal["at_least", "over", "at_most"]
Counted = Literal["pooled", "by_product", "by_sku"]

UNBOUNDED = LARGEST_CART
"""Stands for a times-earned that nothing limits."""


FINEST = 8
"""Thresholds next to each other are taken together, in so many steps to each doubling, where the lowest will do."""


def coarse(n: int) -> int:
    """The next lower of FINEST numbers to each doubling, `n` itself where it is one of them.

    >>> [coarse(n) for n in (7, 100, 6_500)]
    [7, 96, 6144]
    """
    step = _step(n)
    return n // step * step


def _step(n: int) -> int:
    """From one of those numbers to the next."""
    return 1 << max(n.bit_length() - FINEST.bit_length(), 0)


@dataclass(frozen=True)
class Measured:
    """What every kind of condition shares: it reaches `n`, passes it, or stays within it, over the goods `of`.

    what: how the figure is called. most: the largest that makes sense. per: how much of the measure one of `n` is.
    """

    n: int
    bound: Bound = "at_least"
    of: Scope = EVERYTHING

    what: ClassVar[str]
    most: ClassVar[int]
    per: ClassVar[int] = 1
    __pydantic_config__ = CLOSED

    @property
    def coarser(self) -> Self:
        """A condition that holds wherever this one does, and is the same for those with `n` near it."""
        return self if self.bound == "at_most" else replace(self, n=coarse(self.n))

    @property
    def too_strict(self) -> Self:
        """A condition that holds nowhere this one does not, whichever of the `n` near it this one has."""
        return self if self.bound == "at_most" else replace(self, n=coarse(self.n) + _step(self.n))

    def measure_by_cart(self, batch: CartBatch, net_by_line: Ints, among: Bools | None) -> Ints:
        """The measure of each cart. among: lines to which units are held, None for all of the cart's."""
        raise NotImplementedError

    def reached(self, measure: Ints, n: int) -> Bools:
        """Whether each measure reaches `n` as this condition bounds it."""
        n = n * self.per
        return {"at_least": measure >= n, "over": measure > n, "at_most": measure <= n}[self.bound]

    def missing(self, measure: Ints) -> Ints:
        """How many more of what `n` counts would reach it, 1 or more."""
        short = self.n * self.per - measure
        missing = short // self.per + 1 if self.bound == "over" else -(-short // self.per)
        result: Ints = np.maximum(missing, 1)
        return result

    def problems(self) -> Iterator[Problem]:
        return amount_between("n", self.what, self.n, least=1, most=self.most)


@dataclass(frozen=True)
class Spend(Measured):
    """The goods in scope come to `n` minor units: net, after what earlier offers took off, or at standing prices,
    whatever offers take off."""

    at: Literal["net", "standing"] = "net"
    kind: Literal["spend"] = "spend"

    what = "The spend needed"
    most = LARGEST_CART
    __pydantic_config__ = CLOSED

    def measure_by_cart(self, batch: CartBatch, net_by_line: Ints, among: Bools | None) -> Ints:
        by_line = net_by_line if self.at == "net" else batch.worth_by_line
        return batch.axes.sum_by_cart(by_line if self.of == EVERYTHING else by_line * batch.lines_in(self.of))


@dataclass(frozen=True)
class Units(Measured):
    """There are `n` units of the goods in scope, whether or not other offers used them."""

    kind: Literal["units"] = "units"

    what = "The number of units"
    most = 1_000_000
    __pydantic_config__ = CLOSED

    def measure_by_cart(self, batch: CartBatch, net_by_line: Ints, among: Bools | None) -> Ints:
        inside = batch.lines_in(self.of) if among is None else batch.lines_in(self.of) & among
        return batch.axes.sum_by_cart(batch.quantity_by_line * inside)


@dataclass(frozen=True)
class Weight(Measured):
    """The goods in scope weigh `n` grams; weights are summed in whole milligrams."""

    kind: Literal["weight"] = "weight"

    what = "The weight"
    most = 1_000_000_000
    per = MILLIGRAMS
    __pydantic_config__ = CLOSED

    def measure_by_cart(self, batch: CartBatch, net_by_line: Ints, among: Bools | None) -> Ints:
        return batch.axes.sum_by_cart(batch.weight_by_line * batch.lines_in(self.of))


@dataclass(frozen=True)
class Products(Measured):
    """There are `n` different products, by name, of the goods in scope."""

    kind: Literal["products"] = "products"

    what = "The number of products"
    most = 10_000
    __pydantic_config__ = CLOSED

    def measure_by_cart(self, batch: CartBatch, net_by_line: Ints, among: Bools | None) -> Ints:
        return batch.axes.count_different(batch.product_by_line, batch.lines_in(self.of))


@dataclass(frozen=True)
class Only:
    """Nothing but goods `of` is in the cart. Like an *at most*, it has nothing to count."""

    of: Scope = EVERYTHING
    kind: Literal["only"] = "only"

    bound: ClassVar[Bound] = "at_most"
    n: ClassVar[int] = 0
    per: ClassVar[int] = 1
    __pydantic_config__ = CLOSED

    @property
    def coarser(self) -> Self:
        return self

    too_strict = coarser

    def measure_by_cart(self, batch: CartBatch, net_by_line: Ints, among: Bools | None) -> Ints:
        return batch.axes.sum_by_cart(batch.quantity_by_line * ~batch.lines_in(self.of))

    def reached(self, measure: Ints, n: int) -> Bools:
        result: Bools = measure <= n
        return result

    def problems(self) -> Iterator[Problem]:
        if self.of == EVERYTHING:
            yield Problem(("of",), "Everything is always the only thing in a cart.", "Name the goods.")


Condition = Annotated[Spend | Units | Weight | Products | Only, OneOfKinds()]
"""Every kind of condition; a new kind joins this union."""


@dataclass(frozen=True)
class Earned:
    """All of `conditions` must hold, or any of them; none at all always holds.

    repeat: *once*, or *each_time* the threshold is reached again. counted: units are counted over the cart, or
    each product or SKU by itself; then the offer works on that one's lines alone, one after another.
    """

    conditions: tuple[Condition, ...] = ()
    repeat: Literal["once", "each_time"] = "once"
    need: Literal["all", "any"] = "all"
    counted: Counted = "pooled"

    __pydantic_config__ = CLOSED

    @property
    def coarser(self) -> "Earned":
        """Earned wherever and at least as often as this, and the same for thresholds near each other."""
        return replace(self, conditions=tuple(one.coarser for one in self.conditions))

    @property
    def too_strict(self) -> "Earned":
        """Earned at most as often as this, whatever thresholds near its own it has."""
        return replace(self, conditions=tuple(one.too_strict for one in self.conditions))

    def times_by_cart(self, batch: CartBatch, net_by_line: Ints, among: Bools | None = None) -> Ints:
        """Times earned `t`, one entry a cart: the least over the conditions, or with *any* the greatest.

        A held *at most* has nothing to count: it is left out of the least and is 1 in the greatest.
        """
        carts = batch.axes.carts
        if not self.conditions:
            return np.full(carts, UNBOUNDED if self.repeat == "each_time" else 1, dtype=np.int64)
        counted = [self._times(one, batch, net_by_line, among) for one in self.conditions]
        if self.need == "any":
            greatest: Ints = np.max([np.where(times == UNBOUNDED, 1, times) for times in counted], axis=0)
            return greatest
        least = np.min(counted, axis=0)
        result: Ints = np.where(least == UNBOUNDED, 1, least)
        return result

    def _times(self, condition: Measured | Only, batch: CartBatch, net_by_line: Ints, among: Bools | None) -> Ints:
        measure = condition.measure_by_cart(batch, net_by_line, among)
        holds = condition.reached(measure, condition.n)
        if condition.bound == "at_most":
            return np.where(holds, UNBOUNDED, 0)
        per_time = condition.n * condition.per
        times = measure // per_time if self.repeat == "each_time" else holds.astype(np.int64)
        return np.where(holds, times, 0)


NOTHING_NEEDED = Earned()
