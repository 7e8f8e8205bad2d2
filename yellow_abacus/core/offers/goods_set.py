"""A set of goods together for a price, an amount off or a percentage off. docs/sums.md, "Sets".

Sets form one after another. Because the n-th set takes the n-th few free units of each part, every cart's sets are
laid out at once, as pairs of a line and a set.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np

from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.axes import Axes
from yellow_abacus.core.ground.money import Bools, Ints, rhu
from yellow_abacus.core.ground.problem import Problem, amount_between
from yellow_abacus.core.ground.shape import CLOSED, OneOfKinds
from yellow_abacus.core.offers.amount_off import AmountOff
from yellow_abacus.core.offers.percent_off import PercentOff
from yellow_abacus.core.offers.picked import within
from yellow_abacus.core.offers.turn import Taken, Turn

MOST_PARTS = 12
MOST_UNITS = 1000


@dataclass(frozen=True)
class SetPrice:
    """The whole set costs `amount` minor units, if it does not cost less already."""

    amount: int
    kind: Literal["set_price"] = "set_price"

    __pydantic_config__ = CLOSED

    def off_sets(self, base_by_set: Ints) -> Ints:
        """max(0, B - a), set by set."""
        return np.maximum(base_by_set - self.amount, 0)

    def problems(self) -> Iterator[Problem]:
        return amount_between("amount", "The price of a set", self.amount, least=0)


@dataclass(frozen=True)
class Part:
    """`count` units of the goods `of`."""

    count: int
    of: Scope

    __pydantic_config__ = CLOSED


@dataclass(frozen=True)
class GoodsSet:
    """Each complete set of the parts, whose scopes share no SKU, at `price`. units_from: which units join first."""

    parts: tuple[Part, ...]
    price: Annotated[SetPrice | AmountOff | PercentOff, OneOfKinds()]
    units_from: Literal["cheapest", "dearest"] = "dearest"
    kind: Literal["goods_set"] = "goods_set"

    __pydantic_config__ = CLOSED

    def take(self, turn: Turn) -> Taken:
        batch = turn.batch
        inside = [turn.lines_to_take_from(part.of) for part in self.parts]
        at = np.flatnonzero(np.logical_or.reduce(inside))
        axes = batch.axes.of(at)
        free = batch.quantity_by_line[at] - turn.used_by_line[at]
        lines_of_part = [lines[at] for lines in inside]
        sets = turn.times_by_cart
        for part, lines in zip(self.parts, lines_of_part, strict=True):
            sets = np.minimum(sets, axes.sum_by_cart(free * lines) // part.count)
        line, number, units = self._laid_out(axes, free, lines_of_part, sets)
        return self._priced(turn, axes, at, sets, line, number, units)

    def _laid_out(self, axes: Axes, free: Ints, lines_of_part: list[Bools], sets: Ints) -> tuple[Ints, Ints, Ints]:
        """Pairs of a line and a set it has units in: line, number of the set within its cart, units."""
        found = []
        for part, lines in zip(self.parts, lines_of_part, strict=True):
            mine = free * lines
            upto = axes.running_total(mine)
            if self.units_from == "cheapest":
                upto = axes.spread(axes.sum_by_cart(mine)) - upto + mine
            wanted = axes.spread(sets) * part.count
            before, upto = np.minimum(upto - mine, wanted), np.minimum(upto, wanted)
            first, last = before // part.count, -(-upto // part.count)
            many = np.where(upto > before, last - first, 0)
            line = np.repeat(np.arange(len(mine)), many)
            number = first[line] + np.arange(len(line)) - np.repeat(np.cumsum(many) - many, many)
            units = np.minimum(upto[line], (number + 1) * part.count) - np.maximum(before[line], number * part.count)
            found.append((line, number, units))
        line, number, units = (np.concatenate(parts) for parts in zip(*found, strict=True))
        order = np.lexsort((line, number, axes.cart_by_line[line]))
        return line[order], number[order], units[order]

    def _priced(self, turn: Turn, axes: Axes, at: Ints, sets: Ints, line: Ints, number: Ints, units: Ints) -> Taken:
        """What comes off, set by set, until one would save nothing."""
        first_set = np.concatenate(([0], np.cumsum(sets)))
        set_of_pair = first_set[axes.cart_by_line[line]] + number
        pairs = Axes(np.searchsorted(set_of_pair, np.arange(int(first_set[-1]) + 1)))
        base = self._bases(turn, at, line, number, units)
        if isinstance(self.price, PercentOff) and turn.percent_from == "standing":
            standing = turn.batch.standing_by_line[at][line] * units
            off = np.minimum(base, pairs.share(self.price.off_sets(pairs.sum_by_cart(standing)), standing))
        else:
            off = pairs.share(self.price.off_sets(pairs.sum_by_cart(base)), base)
        saves = pairs.sum_by_cart(off) > 0
        sets_axes = Axes(first_set)
        forms = sets_axes.running_total((~saves).astype(np.int64)) == 0
        formed = forms[set_of_pair]
        off_by_line = _sum_onto(line, off * formed, axes.lines)
        in_sets = _sum_onto(line, units * formed, axes.lines)
        return Taken(
            axes=axes,
            at=at,
            off_by_line=within(axes, off_by_line, turn.room_by_cart),
            used_by_line=in_sets,
            times_by_cart=sets_axes.sum_by_cart(forms.astype(np.int64)),
            picked_by_cart=np.zeros_like(sets),
            units_by_line=in_sets,
        )

    def _bases(self, turn: Turn, at: Ints, line: Ints, number: Ints, units: Ints) -> Ints:
        """What the units of each pair carry: a line's sets take its net by running total, none of it twice."""
        by_line = np.lexsort((number, line))
        lines = Axes(np.searchsorted(line[by_line], np.arange(len(at) + 1)))
        upto = np.empty_like(units)
        upto[by_line] = lines.running_total(units[by_line])
        net, quantity = turn.net_by_line[at][line], turn.batch.quantity_by_line[at][line]
        base: Ints = rhu(net * upto, quantity) - rhu(net * (upto - units), quantity)
        return base

    def problems(self) -> Iterator[Problem]:
        if not 1 <= len(self.parts) <= MOST_PARTS:
            yield Problem(("parts",), f"The set has {len(self.parts)} parts.", f"Give it 1 to {MOST_PARTS}.")
        for number, part in enumerate(self.parts):
            for problem in amount_between("count", "The units of a part", part.count, least=1, most=MOST_UNITS):
                yield problem.inside("parts", number)
        if sum(part.count for part in self.parts) < 2:
            yield Problem(("parts",), "A set of one unit is no set.", "Raise a count.")
        yield from (problem.inside("price") for problem in self.price.problems())


def _sum_onto(at: Ints, amount: Ints, size: int) -> Ints:
    result = np.zeros(size, dtype=np.int64)
    np.add.at(result, at, amount)
    return result
