"""Carts made line by line, and priced by the way they most likely go, for tests that look at single ones."""

from collections.abc import Sequence
from dataclasses import fields

import numpy as np

from tests.worlds import World
from yellow_abacus.core.carts.carts import CartBatch, make_batch
from yellow_abacus.core.carts.facts import Facts
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.priced import ByLine, Priced
from yellow_abacus.core.pricing.pricing import Apply, price
from yellow_abacus.core.pricing.rows import Rows, likeliest_rows
from yellow_abacus.core.shop.shop import Shop

Lines = Sequence[tuple[str, int]]
"""SKUs with units; the cart goes to the shop's first zone."""


def carts_of(goods: Goods, *carts: Lines, facts: Facts | None = None) -> CartBatch:
    told = [(at, goods.skus.index(sku), units) for at, lines in enumerate(carts) for sku, units in lines]
    cart, sku, units = np.array(told, dtype=np.int64).reshape(-1, 3).T
    return make_batch(goods, np.zeros(len(carts), dtype=np.int64), cart, sku, units, np.zeros_like(sku), facts)


def one_cart(goods: Goods, *lines: tuple[str, int]) -> CartBatch:
    return carts_of(goods, lines)


def likeliest(
    shop: Shop,
    batch: CartBatch,
    offers: tuple[Offer, ...],
    apply: Apply = "best",
    available: np.ndarray | None = None,
) -> tuple[Rows, Priced]:
    """One row a cart, and what becomes of each line."""
    rows = likeliest_rows(shop, batch, offers)
    return rows, price(shop, rows, offers, apply, available, traced=True)


def priced_once(world: World, apply: Apply = "best") -> Priced:
    return likeliest(world.shop, world.batch, world.offers, apply)[1]


def costed_once(world: World, apply: Apply = "best") -> np.ndarray:
    rows, priced = likeliest(world.shop, world.batch, world.offers, apply)
    return cost(world.shop, rows, priced)


def assert_alike(one: Priced, other: Priced) -> None:
    """Every figure of every row; those of lines where both have them."""
    for field in fields(Priced):
        if field.name not in ("gifts", "lines"):
            assert np.array_equal(getattr(one, field.name), getattr(other, field.name)), field.name
    if one.lines is not None and other.lines is not None:
        for field in fields(ByLine):
            assert np.array_equal(getattr(one.lines, field.name), getattr(other.lines, field.name)), field.name
