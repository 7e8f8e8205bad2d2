"""Carts of the mix that keep something today and lose money under a plan, by the offers that took effect."""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.pricing.pricing import alike


@dataclass(frozen=True)
class Losing:
    """Carts of the mix that keep something today and lose money under these offers, by number in the plan.

    orders: over the plan's days, and their share; lost: minor units.
    """

    offers: tuple[int, ...]
    orders: float
    share: float
    lost: float


def losing(scene: Scene) -> list[Losing]:
    """By set of offers, those that lose most first."""
    below = np.flatnonzero(scene.turns_to_loss & scene.took_effect.any(axis=0))
    found = []
    for rows, among in alike(scene.took_effect[:, below]):
        weight = scene.likely_by_row[below[rows]]
        lost = -float((weight * scene.kept[below[rows]]).sum())
        orders = float(weight.sum())
        if orders:
            found.append(Losing(tuple(among), orders, orders / scene.orders, lost))
    return sorted(found, key=lambda one: -one.lost)
