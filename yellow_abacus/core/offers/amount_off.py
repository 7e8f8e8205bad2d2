"""An amount off the goods picked: once or for each time earned, or off each unit, or down to a price for each."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.ground.money import LARGEST_CART, Ints
from yellow_abacus.core.ground.problem import Problem, amount_between
from yellow_abacus.core.ground.shape import CLOSED
from yellow_abacus.core.offers.kinds import WorksOnPicked
from yellow_abacus.core.offers.picked import Picked


@dataclass(frozen=True)
class AmountOff(WorksOnPicked):
    """`amount` minor units off the order, for each time earned."""

    amount: int
    kind: Literal["amount_off"] = "amount_off"

    __pydantic_config__ = CLOSED

    def off_by_line(self, picked: Picked) -> Ints:
        """min(a * t, B)."""
        return picked.pooled(self.amount * np.minimum(picked.times, LARGEST_CART))

    def off_sets(self, base_by_set: Ints) -> Ints:
        """min(a, B), set by set."""
        return np.minimum(self.amount, base_by_set)

    def problems(self) -> Iterator[Problem]:
        return amount_between("amount", "The amount off", self.amount, least=1)


@dataclass(frozen=True)
class AmountOffEach(WorksOnPicked):
    """`amount` minor units off each unit picked."""

    amount: int
    kind: Literal["amount_off_each"] = "amount_off_each"

    __pydantic_config__ = CLOSED

    def off_by_line(self, picked: Picked) -> Ints:
        """Line by line min(a * k, b)."""
        return picked.line_by_line(np.minimum(self.amount * picked.units, picked.base))

    def problems(self) -> Iterator[Problem]:
        return amount_between("amount", "The amount off each", self.amount, least=1)


@dataclass(frozen=True)
class UnitPrice(WorksOnPicked):
    """Each unit picked costs `amount` minor units, if it does not cost less already."""

    amount: int
    kind: Literal["unit_price"] = "unit_price"

    __pydantic_config__ = CLOSED

    def off_by_line(self, picked: Picked) -> Ints:
        """Line by line max(0, b - a * k)."""
        return picked.line_by_line(np.maximum(picked.base - self.amount * picked.units, 0))

    def problems(self) -> Iterator[Problem]:
        return amount_between("amount", "The price of each", self.amount, least=0)
