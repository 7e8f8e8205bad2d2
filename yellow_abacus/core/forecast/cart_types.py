"""Cart types in their simplest form: ways to sort a batch's carts into a few types.

Each way is one function from a batch to `CartTypes`; a new way is one function and one line in WAYS.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.blocks import each_block
from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.ground.money import Ints
from yellow_abacus.core.shop.shop import Shop


@dataclass(frozen=True, eq=False)
class CartTypes:
    """labels: one a type, in the order they are shown. type_by_cart: index into them."""

    labels: tuple[str, ...]
    type_by_cart: Ints


MOST_TYPES = 12
OTHERS = "All others"


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
    return CartTypes((*(f"Mostly {name}" for name in names), "No category"), np.concatenate(found))


def _main_category(batch: CartBatch) -> Ints:
    """Of each cart the number of the category with the greatest value, one more than there are for none."""
    many = len(batch.goods.categories)
    if not many:
        return np.zeros(batch.axes.carts, dtype=np.int64)
    first, category = batch.goods.categories_by_sku
    counts = np.diff(first)[batch.sku_by_line]
    line = np.repeat(np.arange(batch.axes.lines), counts)
    nth = np.arange(len(line)) - np.repeat(np.cumsum(counts) - counts, counts)
    cell = batch.axes.cart_by_line[line] * many + category[first[batch.sku_by_line[line]] + nth]
    order = np.argsort(cell, kind="stable")
    cells = cell[order]
    starts = np.flatnonzero(np.diff(cells, prepend=-1))
    worth = np.add.reduceat(batch.worth_by_line[line][order], starts) if len(starts) else cells[:0]
    cart, number = np.divmod(cells[starts], many)
    best = np.lexsort((number, -worth, cart))  # of each cart the dearest first, ties in order of name
    leads = best[np.diff(cart[best], prepend=-1) != 0]
    found = np.full(batch.axes.carts, many)
    found[cart[leads]] = np.where(worth[leads] > 0, number[leads], many)
    return found


def by_zone(shop: Shop, batch: CartBatch) -> CartTypes:
    return CartTypes(tuple(zone.name for zone in shop.zones), batch.zone_by_cart)


WAYS: dict[str, Callable[[Shop, CartBatch], CartTypes]] = {"category": by_main_category, "zone": by_zone}
