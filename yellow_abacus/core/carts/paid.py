"""What orders paid beside what Goods asks: forecasts go by the prices of Goods, and say so where nobody paid them.

Held against each other on the lines whose price is told and whose goods have one: what one unit is asked, list price
or reduced price in date, without quantity and group prices. docs/sums.md, "Prices paid".
"""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.goods.goods import NO_PRICE
from yellow_abacus.core.ground.money import Floats, Ints
from yellow_abacus.core.ground.once import cached_property


@dataclass(frozen=True, eq=False)
class PricesPaid:
    """One entry a line that tells: its cart, its SKU, and what all its units were asked and paid, minor units."""

    cart: Ints
    sku: Ints
    asked_by_line: Ints
    paid_by_line: Ints

    @cached_property
    def asked(self) -> int:
        return int(self.asked_by_line.sum())

    @cached_property
    def paid(self) -> int:
        return int(self.paid_by_line.sum())

    @property
    def less(self) -> float:
        """How much less was paid, as a share of what was asked; below zero where more was."""
        return 1 - self.paid / self.asked if self.asked else 0.0

    def summed(self, number_by_line: Ints, size: int) -> tuple[Floats, Floats]:
        """Asked and paid by some number of each line, such as its SKU."""
        asked, paid = (
            np.bincount(number_by_line, weights=figures, minlength=size).astype(np.float64)
            for figures in (self.asked_by_line, self.paid_by_line)
        )
        return asked, paid

    def reaching(self, threshold: int, carts: int) -> tuple[int, int]:
        """How many carts reach a threshold at what was asked, and at what was paid."""
        asked, paid = self.summed(self.cart, carts)
        return int((asked >= threshold).sum()), int((paid >= threshold).sum())


def prices_paid(batch: CartBatch, paid_by_line: Ints) -> PricesPaid:
    """batch: of orders as they came, not a part of them. paid_by_line: for all units of each of its raw lines, after
    discounts, minor units; below 0 where that was not said."""
    raw, goods = batch.raw, batch.goods
    assert raw is not None, "a part of a batch does not tell what was paid"
    listed, reduced = goods.list_price, goods.reduced_price
    asked = np.where((reduced != NO_PRICE) & (listed != NO_PRICE), np.minimum(listed, reduced), listed)
    tells = (paid_by_line >= 0) & (asked != NO_PRICE)[raw.sku] & ~raw.is_put_in
    sku, quantity = raw.sku[tells], raw.quantity[tells]
    return PricesPaid(raw.cart[tells], sku, asked[sku] * quantity, paid_by_line[tells])
