"""Something off the delivery charge: a percentage, an amount, or the charge lowered to an amount."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.money import LARGEST_CHARGE, Ints, percent_of
from yellow_abacus.core.problem import Problem, amount_between, rate_between
from yellow_abacus.core.shape import CLOSED


@dataclass(frozen=True)
class DeliveryPercentOff:
    """`percent_bp` off the charge in `zones` (in every zone if empty)."""

    percent_bp: int
    zones: tuple[str, ...] = ()
    kind: Literal["delivery_percent_off"] = "delivery_percent_off"

    __pydantic_config__ = CLOSED

    def lowered(self, charge_by_cart: Ints) -> Ints:
        return charge_by_cart - percent_of(charge_by_cart, self.percent_bp)

    def problems(self) -> Iterator[Problem]:
        return rate_between("percent_bp", "The percentage off delivery", self.percent_bp, least=1)


@dataclass(frozen=True)
class DeliveryAmountOff:
    """`amount` minor units off the charge in `zones`, never below 0."""

    amount: int
    zones: tuple[str, ...] = ()
    kind: Literal["delivery_amount_off"] = "delivery_amount_off"

    __pydantic_config__ = CLOSED

    def lowered(self, charge_by_cart: Ints) -> Ints:
        return np.maximum(charge_by_cart - self.amount, 0)

    def problems(self) -> Iterator[Problem]:
        return amount_between("amount", "The amount off delivery", self.amount, 1, LARGEST_CHARGE)


@dataclass(frozen=True)
class DeliveryLoweredTo:
    """The charge in `zones` is lowered to `amount` minor units; 0 is free delivery."""

    amount: int
    zones: tuple[str, ...] = ()
    kind: Literal["delivery_lowered_to"] = "delivery_lowered_to"

    __pydantic_config__ = CLOSED

    def lowered(self, charge_by_cart: Ints) -> Ints:
        return np.minimum(charge_by_cart, self.amount)

    def problems(self) -> Iterator[Problem]:
        return amount_between("amount", "The delivery charge", self.amount, 0, LARGEST_CHARGE)
