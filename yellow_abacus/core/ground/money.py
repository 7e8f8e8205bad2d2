"""Money is whole minor units (cents) in 64-bit integers; rates are whole basis points (1 % = 100 bp).

What a shopper sees is exact, so every division says how it rounds: half away from zero. What things cost the
merchant is an expectation and is kept in double precision; it is rounded only when it is shown, by running
total, so that the shown parts still add up to the shown sum. docs/sums.md, "Money".

>>> from yellow_abacus.core.ground.money import foot, percent_of
>>> percent_of(np.array([1999, 1]), 1250).tolist()
[250, 0]
>>> foot([0.4, 0.4, 0.4])
[0, 1, 0]
"""

from collections.abc import Sequence
from itertools import accumulate
from math import copysign, floor

import numpy as np
from numpy.typing import NDArray

Ints = NDArray[np.int64]
Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]

WHOLE_BP = 10_000
"""100 % in basis points."""

LARGEST_CART = 2_000_000_000
"""Largest value of a cart before offers, in minor units."""

LARGEST_CHARGE = 1_000_000_000
"""Largest delivery charge of a cart, in minor units."""


MILLIGRAMS = 1000
"""In a gram. Weights are summed in whole milligrams, so that they meet their bounds, told in grams, exactly."""

EXACT = 2**52
"""Whole numbers below it divide as doubles to a quotient whose floor is that of the exact one: a quotient that is not
whole lies at least 1 / divisor below the next whole number, further than a double is wrong by."""

FEW = 1_000
"""So few whole numbers are divided as such sooner than it is found out whether doubles will do."""


def rhu(numerator: Ints, denominator: Ints | int) -> Ints:
    """`numerator / denominator` rounded half away from zero.

    Both are integers, the denominator above 0. Products that make up the numerator must stay below 4.1e18, which the
    limits on carts and rates see to.
    """
    if numerator.min(initial=0) < 0:
        negative: Ints = np.sign(numerator) * rhu(np.abs(numerator), denominator)
        return negative
    doubled: Ints = 2 * numerator
    doubled = np.add(doubled, denominator, out=doubled if np.ndim(denominator) <= doubled.ndim else None)
    divisor = 2 * denominator
    if doubled.size < FEW or doubled.max(initial=0) >= EXACT or np.max(divisor, initial=0) >= EXACT:
        return doubled // divisor
    doubled[...] = doubled / divisor  # cut off, which is the floor of what is not below 0
    return doubled


def percent_of(amount: Ints, rate_bp: int) -> Ints:
    """`rate_bp` basis points of each amount, in whole minor units."""
    return rhu(amount * rate_bp, WHOLE_BP)


def foot(values: Sequence[float]) -> list[int]:
    """Whole numbers for display that add up to their rounded sum: rounded by running total."""
    rounded = [int(copysign(floor(abs(upto) + 0.5), upto)) for upto in accumulate(values)]
    return [upto - before for before, upto in zip([0, *rounded], rounded, strict=False)]


UNCHANGED = 1e-6
"""Minor units: sums of doubles that differ by less were added in another order, and are the same."""


def foot_beside(values: Sequence[float], before: Sequence[float], shown_before: Sequence[int]) -> list[int]:
    """As `foot`, held against figures shown before: a part that is what it was shows what it showed.

    Each part that changed brings what is shown up to it back to the rounded sum up to it, the last one the whole.
    """
    changed = [abs(value - was) > UNCHANGED for value, was in zip(values, before, strict=True)]
    last = max((at for at, moves in enumerate(changed) if moves), default=-1)
    behind = sum(told for at, told in enumerate(shown_before) if at > last)
    upto, result, whole = 0.0, list[int](), foot([sum(values)])[0]
    for at, (value, told, moves) in enumerate(zip(values, shown_before, changed, strict=True)):
        upto += value
        so_far = whole - behind if at == last else foot([upto])[0]
        result.append(so_far - sum(result) if moves else told)
    return result


def shown(value: float) -> int:
    """One figure by itself as it is shown: rounded half away from zero."""
    return foot([value])[0]
