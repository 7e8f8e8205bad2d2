"""What an offer earned on a batch, and what its limits per order leave it. docs/sums.md, "Conditions", "Offers"."""

from collections.abc import Sequence

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.ground.money import LARGEST_CART, Bools, Ints
from yellow_abacus.core.offers import Limits, Offer


class Allowance:
    """What an offer's limits per order allow it yet, as its turn goes on."""

    def __init__(self, offer: Offer, carts: int) -> None:
        self.limits = offer.limits
        self._times = np.full(carts, LARGEST_CART if self.limits.times is None else self.limits.times)
        self._unlimited = np.full(carts, LARGEST_CART)
        self._units: dict[tuple[int, int], Ints] = {}
        self._carts = carts

    def allowed(self, times: Ints) -> Ints:
        allowed: Ints = np.minimum(times, self._times)
        return allowed

    def times_done(self, times: Ints) -> None:
        self._times = self._times - times

    def room(self, taken_off: Ints) -> Ints:
        return self._unlimited if self.limits.amount is None else room_left(self.limits, taken_off)

    def units(self, reward: tuple[int, int]) -> Ints | None:
        if self.limits.units is None:
            return None
        return self._units.setdefault(reward, np.full(self._carts, self.limits.units))

    def units_picked(self, reward: tuple[int, int], units: Ints) -> None:
        if self.limits.units is not None:
            self._units[reward] = self._units[reward] - units


def room_left(limits: Limits, taken_off: Ints) -> Ints:
    """The most an offer may still take off each cart, minor units."""
    most = LARGEST_CART if limits.amount is None else limits.amount
    room: Ints = most - taken_off
    return room


def earned(offer: Offer, batch: CartBatch, net: Ints, among: Bools | None) -> tuple[Ints, Ints]:
    """Times earned of each cart, and the step reached (0 for the first threshold)."""
    times = offer.earned.times_by_cart(batch, net, among)
    if among is not None:  # a cart with fewer products or SKUs than others has nothing at this turn
        times = np.where(batch.axes.sum_by_cart(among.astype(np.int64)) > 0, times, 0)
    step = np.zeros_like(times)
    if offer.steps:
        first = offer.earned.conditions[0]
        measure = first.measure_by_cart(batch, net, among)
        for one in offer.steps:
            step = step + first.reached(measure, one.n)
    return times, step


def portions(offer: Offer, batch: CartBatch) -> Sequence[Bools | None]:
    """The lines an offer takes one after another: all at once, or each product's or SKU's by itself in line order."""
    counted = offer.earned.counted
    if counted == "pooled":
        return [None]
    rank = batch.rank_by_line("product" if counted == "by_product" else "sku")
    return [rank == number for number in range(int(rank.max(initial=0)) + 1)]
