"""Ways to pay: what each costs the shop, and how likely it is where an order does not say.

docs/sums.md, "Payment".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN, Labels
from yellow_abacus.core.ground.money import WHOLE_BP, Floats
from yellow_abacus.core.ground.shape import CLOSED


@dataclass(frozen=True)
class PaymentMethod:
    """cost_bp: of the total charged; fixed: minor units, where the total is above 0. share_bp: who pay by it.
    refused_bp: of orders paid so, those cancelled or refused once they were sent."""

    name: str
    cost_bp: int = 0
    fixed: float = 0.0
    share_bp: int = WHOLE_BP
    refused_bp: int = 0

    __pydantic_config__ = CLOSED


def shares(methods: Sequence[PaymentMethod], known: Labels) -> Floats:
    """One row a method, one column a cart: how likely the cart is paid by it; 1 where that is known."""
    wanted = np.array([one.share_bp for one in methods], dtype=np.float64)
    whole = wanted.sum()
    expected = wanted / whole if whole else np.full(len(methods), 1 / max(len(methods), 1))
    found = np.repeat(expected[:, None], len(known.number_by_cart), axis=1)
    for at, one in enumerate(methods):
        by_it = known.among([one.name])
        if by_it.any():
            found[:, by_it] = 0
            found[at, by_it] = 1
    return found


def costs(methods: Sequence[PaymentMethod], known: Labels) -> tuple[Floats, Floats]:
    """The rate (a share) and the fixed cost (minor units) expected of each cart."""
    if not methods:
        nothing = np.zeros(len(known.number_by_cart))
        return nothing, nothing
    likely = shares(methods, known)
    rate = sum(
        (one.cost_bp / WHOLE_BP * share for one, share in zip(methods, likely, strict=True)), start=np.zeros(1)
    )
    fixed = sum((one.fixed * share for one, share in zip(methods, likely, strict=True)), start=np.zeros(1))
    return rate, fixed


def refused(methods: Sequence[PaymentMethod], known: Labels) -> Floats:
    """How likely each cart is cancelled or refused."""
    found = np.zeros(len(known.number_by_cart))
    if any(one.refused_bp for one in methods):
        for one, share in zip(methods, shares(methods, known), strict=True):
            found = found + one.refused_bp / WHOLE_BP * share
    return found


def paid_by(known: Labels, method: str) -> Labels:
    """The labels with `method` where none is known."""
    names = (*known.names, method)
    return Labels(names, np.where(known.number_by_cart == UNKNOWN, len(names) - 1, known.number_by_cart))
