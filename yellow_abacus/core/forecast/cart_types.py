"""Cart types in their simplest form: ways to sort a batch's carts into a few types.

Each way is one function from a batch to `CartTypes`; a new way is one function and one line in WAYS.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.blocks import each_block
from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.ground.money import Floats, Ints
from yellow_abacus.core.shop.shop import Shop


@dataclass(frozen=True, eq=False)
class CartTypes:
    """labels: one a type, in the order they are shown. type_by_cart: index into them."""

    labels: tuple[str, ...]
    type_by_cart: Ints


CELLS_AT_ONCE = 150_000
"""So many carts times categories are added up at a time, which the processor's cache holds."""

MOST_TYPES = 12
OTHERS, NO_CATEGORY = "All others", "No category"


def largest(found: CartTypes) -> CartTypes:
    """The types with the most carts, the others together as one at the end; all where there are few enough."""
    counts = np.bincount(found.type_by_cart, minlength=len(found.labels))
    if (counts > 0).sum() <= MOST_TYPES:
        return found
    kept = np.sort(np.argsort(-counts, kind="stable")[: MOST_TYPES - 1])
    number = np.full(len(counts), len(kept), dtype=np.int64)
    number[kept] = np.arange(len(kept))
    return CartTypes((*(found.labels[at] for at in kept), OTHERS), number[found.type_by_cart])


def by_main_category(shop: Shop, batch: CartBatch) -> CartTypes:
    """The category with the greatest value in the cart, before offers; ties to the first in order of name.

    Goods in several categories count for each. Carts of goods without a category come last.
    """
    names = batch.goods.categories
    found = each_block(batch, lambda _carts, block: _main_category(block))
    return CartTypes((*(f"Mostly {name}" for name in names), NO_CATEGORY), np.concatenate(found))


def _main_category(batch: CartBatch) -> Ints:
    """Of each cart the number of the category with the greatest value, one more than there are for none."""
    many = len(batch.goods.categories)
    if not many:
        return np.zeros(batch.axes.carts, dtype=np.int64)
    cell, worth, first_cell = _cells(batch)
    found = np.empty(batch.axes.carts, dtype=np.int64)
    at_once = max(CELLS_AT_ONCE // many, 1)
    for start in range(0, batch.axes.carts, at_once):
        carts = slice(start, min(start + at_once, batch.axes.carts))
        mine = slice(first_cell[carts.start], first_cell[carts.stop])
        size = (carts.stop - carts.start) * many
        table = np.bincount(cell[mine] - start * many, worth[mine], size).reshape(-1, many)
        dearest = table.argmax(axis=1)  # ties in order of name
        found[carts] = np.where(table[np.arange(len(table)), dearest] > 0, dearest, many)
    return found


def _cells(batch: CartBatch) -> tuple[Ints, Floats, Ints]:
    """Every category of every line: the cell of cart and category it is in, what the line is worth, and where each
    cart's begin."""
    many, (first, category) = len(batch.goods.categories), batch.goods.categories_by_sku
    cart, worth, first_line = batch.axes.cart_by_line, batch.worth_by_line, batch.axes.first_line_by_cart
    if np.array_equal(first, np.arange(len(first))):  # each SKU is in one
        return cart * many + category[batch.sku_by_line], worth.astype(np.float64), first_line
    counts = np.diff(first)[batch.sku_by_line]
    ends = np.cumsum(counts)
    in_category = np.repeat(first[batch.sku_by_line] - (ends - counts), counts) + np.arange(int(counts.sum()))
    cell = np.repeat(cart, counts) * many + category[in_category]
    return cell, np.repeat(worth, counts).astype(np.float64), np.concatenate(([0], ends))[first_line]


def by_zone(shop: Shop, batch: CartBatch) -> CartTypes:
    return CartTypes(tuple(zone.name for zone in shop.zones), batch.zone_by_cart)


BY_TYPE = "type"
"""The way to sort by types that are known, found in the history or sketched, where there are any."""

WAYS: dict[str, Callable[[Shop, CartBatch], CartTypes]] = {"category": by_main_category, "zone": by_zone}
