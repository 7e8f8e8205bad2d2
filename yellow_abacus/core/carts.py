"""A batch of carts: many carts' lines in one set of arrays. A batch of one is a cart.

Lines of one SKU at one standing price are merged, and lie in *line order*: standing unit price high to
low, then SKU. So the way a file splits or orders its lines changes no figure. docs/sums.md, "Carts".
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from yellow_abacus.core.axes import Axes
from yellow_abacus.core.goods import NO_PRICE, Goods
from yellow_abacus.core.money import LARGEST_CART, Bools, Floats, Ints
from yellow_abacus.core.scope import Scope


class CartTooLargeError(ValueError):
    """A cart is worth more before offers than the sums can carry exactly. `cart` is its index."""

    def __init__(self, cart: int) -> None:
        super().__init__(f"cart {cart} is worth more than {LARGEST_CART} minor units before offers")
        self.cart = cart


@dataclass(frozen=True, eq=False)
class CartBatch:
    """standing_by_line: unit price in minor units. zone_by_cart: index into the shop's zones."""

    goods: Goods
    axes: Axes
    sku_by_line: Ints
    quantity_by_line: Ints
    standing_by_line: Ints
    zone_by_cart: Ints

    @cached_property
    def worth_by_line(self) -> Ints:
        """What the line costs before offers, in minor units."""
        return self.standing_by_line * self.quantity_by_line

    @cached_property
    def worth_by_cart(self) -> Ints:
        return self.axes.sum_by_cart(self.worth_by_line)

    @cached_property
    def units_by_cart(self) -> Ints:
        return self.axes.sum_by_cart(self.quantity_by_line)

    @cached_property
    def weight_by_line(self) -> Floats:
        """Grams; goods of unknown weight weigh nothing."""
        weight: Floats = np.nan_to_num(self.goods.weight)[self.sku_by_line] * self.quantity_by_line
        return weight

    @cached_property
    def product_by_line(self) -> Ints:
        return self.goods.product_number[self.sku_by_line]

    @cached_property
    def reduced_by_line(self) -> Bools:
        """Whether the line stands at its SKU's reduced price."""
        reduced: Bools = self.goods.reduced_price[self.sku_by_line] == self.standing_by_line
        return reduced

    @cached_property
    def unit_costs_by_cart(self) -> Floats:
        """Minor units; goods of unknown cost cost nothing."""
        cost = np.nan_to_num(self.goods.unit_cost)
        return self.axes.sum_floats_by_cart(cost[self.sku_by_line] * self.quantity_by_line)

    def lines_in(self, scope: Scope) -> Bools:
        inside = scope.holds(self.goods)[self.sku_by_line]
        return inside & ~self.reduced_by_line if scope.reduced == "out" else inside


def standing_prices(goods: Goods, sku: Ints, paid: Ints) -> Ints:
    """Standing unit price of each line; `paid` serves only where a SKU has no list price."""
    list_price, reduced = goods.list_price[sku], goods.reduced_price[sku]
    standing = np.where(list_price == NO_PRICE, paid, list_price)
    result: Ints = np.where(reduced == NO_PRICE, standing, np.minimum(standing, reduced))
    return result


def make_batch(goods: Goods, zone_by_cart: Ints, cart: Ints, sku: Ints, quantity: Ints, paid: Ints) -> CartBatch:
    """Merge and order raw lines into a batch.

    cart, sku, quantity, paid: one entry a raw line, in any order: index of the cart, index of the SKU, units
    (1 or more), unit price paid in minor units. Raises CartTooLargeError.
    """
    standing = standing_prices(goods, sku, paid)
    order = np.lexsort((sku, -standing, cart))
    cart, sku, quantity, standing = cart[order], sku[order], quantity[order], standing[order]
    starts = np.ones(len(cart), dtype=bool)
    starts[1:] = (np.diff(cart) != 0) | (np.diff(sku) != 0) | (np.diff(standing) != 0)
    first = np.flatnonzero(starts)
    merged = np.add.reduceat(quantity, first) if len(first) else quantity[:0]
    carts = len(zone_by_cart)
    first_line = np.searchsorted(cart[first], np.arange(carts + 1))
    batch = CartBatch(
        goods=goods,
        axes=Axes(first_line.astype(np.int64)),
        sku_by_line=sku[first],
        quantity_by_line=merged.astype(np.int64),
        standing_by_line=standing[first],
        zone_by_cart=zone_by_cart,
    )
    too_large = np.flatnonzero(batch.worth_by_cart > LARGEST_CART)
    if len(too_large):
        raise CartTooLargeError(int(too_large[0]))
    return batch
