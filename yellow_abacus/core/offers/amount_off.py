"""An amount off the goods in scope, once or for each time earned."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import ClassVar, Literal

import numpy as np

from yellow_abacus.core.money import LARGEST_CART, Ints
from yellow_abacus.core.problem import Problem, amount_between
from yellow_abacus.core.shape import CLOSED


@dataclass(frozen=True)
class AmountOff:
    amount: int
    kind: Literal["amount_off"] = "amount_off"

    scales: ClassVar[bool] = False
    __pydantic_config__ = CLOSED

    def amount_by_cart(self, base_by_cart: Ints, times_by_cart: Ints) -> Ints:
        """min(a * t, B)."""
        times = np.minimum(times_by_cart, LARGEST_CART)
        off: Ints = np.minimum(self.amount * times, base_by_cart)
        return off

    def problems(self) -> Iterator[Problem]:
        return amount_between("amount", "The amount off", self.amount, least=1)
