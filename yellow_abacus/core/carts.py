"""A batch of carts: many carts' lines in one set of arrays. A batch of one is a cart.

Lines of one SKU at one standing price are merged, and lie in *line order*: standing unit price high to
low, then SKU. So the way a file splits or orders its lines changes no figure. docs/sums.md, "Carts".
"""

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from yellow_abacus.core.axes import Axes
from yellow_abacus.core.facts import Facts, nothing_known
from yellow_abacus.core.goods import NO_PRICE, Goods
from yellow_abacus.core.money import LARGEST_CART, Bools, Floats, Ints
from yellow_abacus.core.scope import Scope

KEPT_SCOPES = 64
"""How many scopes a batch keeps the lines of."""


class CartTooLargeError(ValueError):
    """A cart is worth more before offers than the sums can carry exactly. `cart` is its index."""

    def __init__(self, cart: int) -> None:
        super().__init__(f"cart {cart} is worth more than {LARGEST_CART} minor units before offers")
        self.cart = cart


@dataclass(frozen=True, eq=False)
class CartBatch:
    """standing_by_line: unit price in minor units. zone_by_cart: index into the shop's zones.

    facts: what is known of each cart besides.
    """

    goods: Goods
    axes: Axes
    sku_by_line: Ints
    quantity_by_line: Ints
    standing_by_line: Ints
    zone_by_cart: Ints
    facts: Facts

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
    def weight_by_cart(self) -> Floats:
        return self.axes.sum_floats_by_cart(self.weight_by_line)

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
        """Whether each line's goods are meant; kept, because offers ask again and again."""
        found = self._inside.get(scope)
        if found is None:
            found = scope.holds(self.goods)[self.sku_by_line]
            if scope.reduced == "out":
                found = found & ~self.reduced_by_line
            if len(self._inside) >= KEPT_SCOPES:
                self._inside.clear()
            self._inside[scope] = found
        return found

    @cached_property
    def may_be_discounted_by_line(self) -> Bools | None:
        """Whether offers may take something off each line; None where that is so for all."""
        if not self.goods.never_discounted:
            return None
        return self.goods.may_be_discounted[self.sku_by_line]

    def rank_by_line(self, of: Literal["product", "sku"]) -> Ints:
        """Which of its cart's products or SKUs each line is of: 0 for the first in line order."""
        number = self.product_by_line if of == "product" else self.sku_by_line
        cart = self.axes.cart_by_line
        together = np.lexsort((number, cart))
        opens = np.ones(len(cart), dtype=np.bool_)
        opens[1:] = (np.diff(cart[together]) != 0) | (np.diff(number[together]) != 0)
        first_line = together[opens]
        in_order = np.argsort(first_line)
        first_group = np.searchsorted(first_line[in_order], self.axes.first_line_by_cart)
        rank_of_group = np.empty(len(first_line), dtype=np.int64)
        rank_of_group[in_order] = np.arange(len(first_line)) - first_group[cart[first_line[in_order]]]
        result = np.empty(len(cart), dtype=np.int64)
        result[together] = rank_of_group[np.cumsum(opens) - 1]
        return result

    @cached_property
    def _inside(self) -> dict[Scope, Bools]:
        return {}

    def blocks(self, lines: int) -> list[tuple[slice, "CartBatch"]]:
        """The batch cut into blocks of some so many lines, which of its carts each one holds; kept."""
        if self.axes.lines <= lines:
            return [(slice(0, self.axes.carts), self)]
        carts = max(1, self.axes.carts * lines // self.axes.lines)
        if carts not in self._blocks:
            self._blocks[carts] = [
                (part, self._block(part))
                for start in range(0, self.axes.carts, carts)
                for part in (slice(start, min(start + carts, self.axes.carts)),)
            ]
        return self._blocks[carts]

    @cached_property
    def _blocks(self) -> dict[int, list[tuple[slice, "CartBatch"]]]:
        return {}

    def _block(self, carts: slice) -> "CartBatch":
        first = self.axes.first_line_by_cart[carts.start : carts.stop + 1]
        lines = slice(int(first[0]), int(first[-1]))
        return CartBatch(
            goods=self.goods,
            axes=Axes(first - first[0]),
            sku_by_line=self.sku_by_line[lines],
            quantity_by_line=self.quantity_by_line[lines],
            standing_by_line=self.standing_by_line[lines],
            zone_by_cart=self.zone_by_cart[carts],
            facts=self.facts.some(carts),
        )

    def some(self, carts: Ints) -> "CartBatch":
        """Some of the carts, by rising index."""
        if len(carts) == self.axes.carts:
            return self
        lines = self.axes.lines_of(carts)
        sizes = self.axes.lines_by_cart[carts]
        return CartBatch(
            goods=self.goods,
            axes=Axes(np.concatenate(([0], np.cumsum(sizes)))),
            sku_by_line=self.sku_by_line[lines],
            quantity_by_line=self.quantity_by_line[lines],
            standing_by_line=self.standing_by_line[lines],
            zone_by_cart=self.zone_by_cart[carts],
            facts=self.facts.some(carts),
        )


def standing_prices(goods: Goods, sku: Ints, paid: Ints) -> Ints:
    """Standing unit price of each line; `paid` serves only where a SKU has no list price."""
    list_price, reduced = goods.list_price[sku], goods.reduced_price[sku]
    standing = np.where(list_price == NO_PRICE, paid, list_price)
    result: Ints = np.where(reduced == NO_PRICE, standing, np.minimum(standing, reduced))
    return result


def make_batch(
    goods: Goods,
    zone_by_cart: Ints,
    cart: Ints,
    sku: Ints,
    quantity: Ints,
    paid: Ints,
    facts: Facts | None = None,
) -> CartBatch:
    """Merge and order raw lines into a batch.

    cart, sku, quantity, paid: one entry a raw line, in any order: index of the cart, index of the SKU, units
    (1 or more), unit price paid in minor units. facts: None where nothing is known. Raises CartTooLargeError.
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
        facts=nothing_known(carts) if facts is None else facts,
    )
    too_large = np.flatnonzero(batch.worth_by_cart > LARGEST_CART)
    if len(too_large):
        raise CartTooLargeError(int(too_large[0]))
    return batch
