"""Something off the delivery charge: a percentage, an amount, or the charge lowered to an amount."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.delivery.zones import Delivery
from yellow_abacus.core.ground.money import LARGEST_CHARGE, MILLIGRAMS, Bools, Ints, percent_of
from yellow_abacus.core.ground.problem import Problem, amount_between, rate_between
from yellow_abacus.core.ground.shape import CLOSED

HEAVIEST = 1_000_000_000


class OnDelivery:
    """A reward on the charge in `zones` and by `options` (any if empty), of carts below `below_weight` grams."""

    zones: tuple[str, ...]
    below_weight: int | None
    options: tuple[str, ...]

    def lowered(self, charge_by_row: Ints) -> Ints:
        """What each charge becomes."""
        raise NotImplementedError

    def serves(self, delivery: Delivery, zone_by_row: Ints, option_by_row: Ints) -> Bools:
        """Whether each row's zone and option are meant."""
        into = [not self.zones or zone.name in self.zones for zone in delivery.zones]
        by = [not self.options or option.name in self.options for _, option in delivery.options]
        zones, options = (np.array(known, dtype=np.bool_) for known in (into, [*by, not self.options]))
        result: Bools = zones[zone_by_row] & options[option_by_row]
        return result

    def light_enough(self, weight_by_row: Ints) -> Bools:
        """weight_by_row: milligrams."""
        if self.below_weight is None:
            return np.ones(len(weight_by_row), dtype=np.bool_)
        result: Bools = weight_by_row < self.below_weight * MILLIGRAMS
        return result

    def weight_problems(self) -> Iterator[Problem]:
        if self.below_weight is not None:
            yield from amount_between("below_weight", "The weight", self.below_weight, least=1, most=HEAVIEST)


@dataclass(frozen=True)
class DeliveryPercentOff(OnDelivery):
    """`percent_bp` off the charge."""

    percent_bp: int
    zones: tuple[str, ...] = ()
    below_weight: int | None = None
    options: tuple[str, ...] = ()
    kind: Literal["delivery_percent_off"] = "delivery_percent_off"

    __pydantic_config__ = CLOSED

    def lowered(self, charge_by_row: Ints) -> Ints:
        return charge_by_row - percent_of(charge_by_row, self.percent_bp)

    def problems(self) -> Iterator[Problem]:
        yield from rate_between("percent_bp", "The percentage off delivery", self.percent_bp, least=1)
        yield from self.weight_problems()


@dataclass(frozen=True)
class DeliveryAmountOff(OnDelivery):
    """`amount` minor units off the charge, never below 0."""

    amount: int
    zones: tuple[str, ...] = ()
    below_weight: int | None = None
    options: tuple[str, ...] = ()
    kind: Literal["delivery_amount_off"] = "delivery_amount_off"

    __pydantic_config__ = CLOSED

    def lowered(self, charge_by_row: Ints) -> Ints:
        return np.maximum(charge_by_row - self.amount, 0)

    def problems(self) -> Iterator[Problem]:
        yield from amount_between("amount", "The amount off delivery", self.amount, 1, LARGEST_CHARGE)
        yield from self.weight_problems()


@dataclass(frozen=True)
class DeliveryLoweredTo(OnDelivery):
    """The charge is lowered to `amount` minor units; 0 is free delivery."""

    amount: int
    zones: tuple[str, ...] = ()
    below_weight: int | None = None
    options: tuple[str, ...] = ()
    kind: Literal["delivery_lowered_to"] = "delivery_lowered_to"

    __pydantic_config__ = CLOSED

    def lowered(self, charge_by_row: Ints) -> Ints:
        return np.minimum(charge_by_row, self.amount)

    def problems(self) -> Iterator[Problem]:
        yield from amount_between("amount", "The delivery charge", self.amount, 0, LARGEST_CHARGE)
        yield from self.weight_problems()
