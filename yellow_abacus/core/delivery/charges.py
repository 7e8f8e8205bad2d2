"""What a delivery option asks the shopper for. docs/sums.md, "Delivery".

Each kind says what is `asked` of each cart by the value of its goods (minor units), their weight (whole milligrams),
and what the carrier asks of the shop (minor units).
"""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Literal

import numpy as np

from yellow_abacus.core.delivery.parcels import HEAVIEST, MILLIGRAMS_A_KILOGRAM
from yellow_abacus.core.ground.money import LARGEST_CART, LARGEST_CHARGE, MILLIGRAMS, WHOLE_BP, Floats, Ints, rhu
from yellow_abacus.core.ground.problem import Problem, amount_between
from yellow_abacus.core.ground.shape import CLOSED, OneOfKinds

FINE = 10_000
"""Parts of a minor unit to which a carrier's cost is taken before a markup."""


@dataclass(frozen=True)
class FlatCharge:
    """`amount` minor units, whatever is in the cart."""

    amount: int = 0
    kind: Literal["flat"] = "flat"

    __pydantic_config__ = CLOSED

    @property
    def most(self) -> int | None:
        """The most it ever asks, minor units; None where that has no bound."""
        return self.amount

    def asked(self, value: Ints, weight: Ints, cost: Floats) -> Ints:
        return np.full_like(value, self.amount)

    def problems(self) -> Iterator[Problem]:
        return amount_between("amount", "The charge", self.amount, 0, LARGEST_CHARGE)


NO_CHARGE = FlatCharge()


@dataclass(frozen=True)
class ValueStep:
    """From goods worth `value` minor units on, `amount`."""

    value: int
    amount: int

    __pydantic_config__ = CLOSED


@dataclass(frozen=True)
class ChargeByValue:
    """Stepped by the value of goods: `amount`, and from each step's value on that step's amount."""

    amount: int
    steps: tuple[ValueStep, ...] = ()
    kind: Literal["by_value"] = "by_value"

    __pydantic_config__ = CLOSED

    @property
    def most(self) -> int | None:
        return max(self.amount, *(step.amount for step in self.steps)) if self.steps else self.amount

    def asked(self, value: Ints, weight: Ints, cost: Floats) -> Ints:
        charge = np.full_like(value, self.amount)
        for step in self.steps:
            charge[value >= step.value] = step.amount
        return charge

    def problems(self) -> Iterator[Problem]:
        yield from amount_between("amount", "The charge", self.amount, 0, LARGEST_CHARGE)
        for at, step in enumerate(self.steps):
            for found in (
                amount_between("value", "The value", step.value, 1, LARGEST_CART),
                amount_between("amount", "The charge", step.amount, 0, LARGEST_CHARGE),
            ):
                yield from (problem.inside("steps", at) for problem in found)
        for at, (one, other) in enumerate(pairwise(self.steps), start=1):
            if other.value <= one.value:
                yield Problem(("steps", at, "value"), "The value is not above the step before.", "Raise it.")


@dataclass(frozen=True)
class ChargeStep:
    """Up to and including `upto` grams of goods, `amount` minor units."""

    upto: int
    amount: int

    __pydantic_config__ = CLOSED


@dataclass(frozen=True)
class ChargeByWeight:
    """Stepped by the weight of goods, then `per_kilogram` for each started kilogram beyond the last step."""

    steps: tuple[ChargeStep, ...]
    per_kilogram: int = 0
    kind: Literal["by_weight"] = "by_weight"

    __pydantic_config__ = CLOSED

    @property
    def most(self) -> int | None:
        return None if self.per_kilogram else max((step.amount for step in self.steps), default=0)

    def asked(self, value: Ints, weight: Ints, cost: Floats) -> Ints:
        last = self.steps[-1] if self.steps else ChargeStep(0, 0)
        beyond = np.maximum(-((last.upto * MILLIGRAMS - weight) // MILLIGRAMS_A_KILOGRAM), 0)
        charge: Ints = np.minimum(last.amount + beyond * self.per_kilogram, LARGEST_CHARGE)
        for step in reversed(self.steps):
            charge = np.where(weight <= step.upto * MILLIGRAMS, step.amount, charge)
        return charge

    def problems(self) -> Iterator[Problem]:
        if not self.steps:
            yield Problem(("steps",), "There is no step of weight.", "Add one.")
        for at, step in enumerate(self.steps):
            for found in (
                amount_between("upto", "The weight", step.upto, 1, HEAVIEST),
                amount_between("amount", "The charge", step.amount, 0, LARGEST_CHARGE),
            ):
                yield from (problem.inside("steps", at) for problem in found)
        for at, (one, other) in enumerate(pairwise(self.steps), start=1):
            if other.upto <= one.upto:
                yield Problem(("steps", at, "upto"), "The weight is not above the step before.", "Raise it.")
        yield from amount_between("per_kilogram", "The price of a kilogram", self.per_kilogram, 0, LARGEST_CHARGE)


@dataclass(frozen=True)
class CostPlus:
    """What the carrier asks of the shop, `markup_bp` and `amount` minor units on top."""

    markup_bp: int = 0
    amount: int = 0
    kind: Literal["cost_plus"] = "cost_plus"

    __pydantic_config__ = CLOSED

    @property
    def most(self) -> int | None:
        return None

    def asked(self, value: Ints, weight: Ints, cost: Floats) -> Ints:
        fine: Ints = np.floor(np.minimum(cost, LARGEST_CHARGE) * FINE + 0.5).astype(np.int64)
        charge = rhu(fine * (WHOLE_BP + self.markup_bp), WHOLE_BP * FINE)
        return np.minimum(charge + self.amount, LARGEST_CHARGE)

    def problems(self) -> Iterator[Problem]:
        if not 0 <= self.markup_bp <= 100_000:
            yield Problem(("markup_bp",), "The markup is out of bounds.", "Choose 0 to 1,000 %.")
        yield from amount_between("amount", "The amount on top", self.amount, 0, LARGEST_CHARGE)


Charge = Annotated[FlatCharge | ChargeByValue | ChargeByWeight | CostPlus, OneOfKinds()]
"""Every way to charge; a new one joins this union."""
