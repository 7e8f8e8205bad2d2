"""What a carrier asks of the shop for a parcel. docs/sums.md, "Delivery"."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from yellow_abacus.core.delivery.parcels import ANYTHING, HEAVIEST, MILLIGRAMS_A_KILOGRAM, Carries, Load, lighter
from yellow_abacus.core.ground.money import LARGEST_CHARGE, MILLIGRAMS, WHOLE_BP, Bools, Floats
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.problem import Problem, amount_between, rate_between
from yellow_abacus.core.ground.shape import CLOSED

MOST_STEPS = 200
MOST_FUEL_BP = 20_000
CUBIC_MILLIMETRES = 1000
"""In a cubic centimetre, of which a tariff's divisor counts so many to the kilogram."""


@dataclass(frozen=True)
class WeightStep:
    """Up to and including `upto` grams, `amount` minor units; None for any weight."""

    upto: int | None
    amount: float

    __pydantic_config__ = CLOSED


@dataclass(frozen=True)
class Tariff:
    """A carrier's prices for one parcel by its billed weight, without tax that the shop gets back.

    steps: rising, each including its upper bound. per_kilogram: beyond the last step, for each started kilogram,
    None if the carrier takes nothing heavier. divisor: cubic centimetres that are billed as a kilogram, None if size
    is not billed. fuel_bp: on top of steps and kilograms. insurance_bp: of the standing price of insured goods.
    """

    name: str
    carrier: str = ""
    steps: tuple[WeightStep, ...] = ()
    per_kilogram: float | None = None
    divisor: int | None = None
    fuel_bp: int = 0
    insurance_bp: int = 0
    carries: Carries = ANYTHING

    __pydantic_config__ = CLOSED

    @property
    def billed_by_weight(self) -> bool:
        return self.per_kilogram is not None or any(step.upto is not None for step in self.steps)

    @cached_property
    def limits(self) -> Carries:
        """What it can carry: without a price beyond the last step, no parcel is heavier than that."""
        end = self.steps[-1].upto if self.steps and self.per_kilogram is None else None
        return replace(self.carries, heaviest=lighter(self.carries.heaviest, end))

    def billed(self, load: Load, parcels: Floats, packaging: int) -> Floats:
        """Milligrams of one parcel as billed: the greater of what it weighs and what its size stands for."""
        some = np.maximum(parcels, 1)
        actual: Floats = load.weight / some + packaging
        if self.divisor is None:
            return actual
        by_size: Floats = load.volume * (MILLIGRAMS_A_KILOGRAM / CUBIC_MILLIMETRES) / (some * self.divisor)
        return np.maximum(actual, by_size)

    def price_of_parcel(self, billed: Floats) -> Floats:
        """Minor units before fuel surcharge; infinite where it is too heavy for the tariff. billed: milligrams."""
        ends, amounts = self._steps
        price: Floats = amounts[np.searchsorted(ends, billed)]
        if self.per_kilogram is not None and (not len(ends) or ends[-1] < np.inf):
            last, amount = (ends[-1], amounts[-2]) if len(ends) else (0.0, 0.0)
            beyond = amount + np.ceil((billed - last) / MILLIGRAMS_A_KILOGRAM) * self.per_kilogram
            price = np.where(np.isinf(price), beyond, price)
        return price

    def takes(self, load: Load, parcels: Floats, packaging: int) -> Bools:
        """Whether it has a price for the parcels of each row."""
        ends, _ = self._steps
        if self.per_kilogram is not None or (len(ends) and ends[-1] == np.inf):
            return np.ones(len(parcels), dtype=np.bool_)
        heaviest = ends[-1] if len(ends) else -np.inf
        result: Bools = load.nothing | (self.billed(load, parcels, packaging) <= heaviest)
        return result

    @cached_property
    def _steps(self) -> tuple[Floats, Floats]:
        """The rising ends of the steps in milligrams; and what each asks, infinite beyond the last."""
        ends = [np.inf if step.upto is None else step.upto * MILLIGRAMS for step in self.steps]
        return np.array(ends, dtype=np.float64), np.array([*(step.amount for step in self.steps), np.inf])

    def cost(self, load: Load, parcels: Floats, packaging: int) -> Floats:
        """Minor units for all parcels of each cart; infinite where a parcel is too heavy."""
        each = self.price_of_parcel(self.billed(load, parcels, packaging))
        each[load.nothing] = 0.0
        insured = np.where(load.nothing, 0.0, load.insured)
        result: Floats = parcels * each * (1 + self.fuel_bp / WHOLE_BP) + insured * self.insurance_bp / WHOLE_BP
        return result

    def problems(self) -> Iterator[Problem]:
        if not self.steps and self.per_kilogram is None:
            yield Problem(
                ("steps",), "The tariff has no price.", "Add a step of weight, or a price for each kilogram."
            )
        if len(self.steps) > MOST_STEPS:
            yield Problem(("steps",), f"There are {len(self.steps)} steps.", f"Keep {MOST_STEPS} at most.")
        for at, step in enumerate(self.steps):
            if step.upto is not None:
                found = amount_between("upto", "The weight", step.upto, 1, HEAVIEST)
                yield from (problem.inside("steps", at) for problem in found)
            elif at < len(self.steps) - 1:
                message = "A step for any weight comes before others."
                yield Problem(("steps", at, "upto"), message, "Put it last, or give it a weight.")
            yield from cost_between(("steps", at, "amount"), "The price", step.amount)
        for (_, one), (at, other) in pairwise(enumerate(self.steps)):
            if None not in (one.upto, other.upto) and other.upto <= one.upto:  # type: ignore[operator]
                yield Problem(("steps", at, "upto"), "The weight is not above the step before.", "Raise it.")
        if self.per_kilogram is not None:
            yield from cost_between(("per_kilogram",), "The price of a kilogram", self.per_kilogram)
        if self.divisor is not None:
            yield from amount_between("divisor", "The size of a kilogram", self.divisor, 1, 1_000_000)
        if not 0 <= self.fuel_bp <= MOST_FUEL_BP:
            yield Problem(("fuel_bp",), "The fuel surcharge is out of bounds.", "Choose 0 to 200 %.")
        yield from rate_between("insurance_bp", "The insurance", self.insurance_bp, least=0)
        yield from (problem.inside("carries") for problem in self.carries.problems())


def cost_between(path: tuple[str | int, ...], what: str, amount: float) -> Iterator[Problem]:
    if not 0 <= amount <= LARGEST_CHARGE:
        yield Problem(path, f"{what} is out of bounds.", "Choose 0 or more.")
