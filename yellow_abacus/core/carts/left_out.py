"""Carts from which some goods may be missing: each as it is, and once for every choice of those left out.

Which goods of a cart may be missing, and which are, is told in bits, one a SKU: a cart that holds the first and the
third of them holds 0b101. A kit holds what it is made of, and is missing where any of that is.
"""

from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch, RawLines, batch_of
from yellow_abacus.core.ground.axes import Axes
from yellow_abacus.core.ground.money import Ints


@dataclass(frozen=True, eq=False)
class LeftOut:
    """batch: the carts as they are, then those from which something is missing and something left. cart: which of
    the carts each of them is. holds, lacks: of each, what that cart holds of the goods in question, and what of it is
    left out.
    """

    batch: CartBatch
    cart: Ints
    holds: Ints
    lacks: Ints


def left_out(batch: CartBatch, skus: Ints) -> LeftOut:
    """skus: the goods in question. What is left is at the prices of what is left."""
    assert batch.raw is not None, "a part of a batch is not made of lines of its own"
    holds = _held(batch, skus)
    cart, lacks = _choices(holds)
    lines, owner = _lines_left(batch.raw, batch.axes.carts, cart, _bits(batch, skus), lacks)
    some = np.unique(owner)
    renumbered = np.searchsorted(some, owner)
    cart, lacks = cart[some], lacks[some]
    own_lines = replace(batch.raw.some(lines), cart=renumbered)
    own = batch_of(batch.goods, batch.zone_by_cart[cart], own_lines, batch.facts.some(cart))
    whole = np.arange(batch.axes.carts)
    every = np.concatenate((whole, cart))
    return LeftOut(_one_after_another(batch, own, every), every, holds[every], np.concatenate((0 * whole, lacks)))


def _bits(batch: CartBatch, skus: Ints) -> Ints:
    """The bit of each SKU of the shop, those of its parts of a kit; 0 for those not in question."""
    bits = np.zeros(len(batch.goods.skus), dtype=np.int64)
    for at, stock in enumerate(skus.tolist()):
        bits[[*batch.goods.taken_from(stock)]] |= 1 << at
    return bits


def _held(batch: CartBatch, skus: Ints) -> Ints:
    held = np.zeros(batch.axes.carts, dtype=np.int64)
    np.bitwise_or.at(held, batch.axes.cart_by_line, _bits(batch, skus)[batch.sku_by_line])
    return held


def _choices(holds: Ints) -> tuple[Ints, Ints]:
    """Every cart that holds some, once for each choice of what it holds: which cart, and what is left out."""
    carts, lacks = [np.zeros(0, dtype=np.int64)], [np.zeros(0, dtype=np.int64)]
    for held in np.unique(holds[holds > 0]).tolist():
        mine, choice = np.flatnonzero(holds == held), held
        while choice:
            carts.append(mine)
            lacks.append(np.full(len(mine), choice))
            choice = (choice - 1) & held
    return np.concatenate(carts), np.concatenate(lacks)


def _lines_left(raw: RawLines, carts: int, cart: Ints, bits: Ints, lacks: Ints) -> tuple[Ints, Ints]:
    """The raw lines that each of some carts is left with, and whose each is; things put in go with what is left."""
    order = np.argsort(raw.cart, kind="stable")
    axes = Axes(np.searchsorted(raw.cart[order], np.arange(carts + 1)))
    lines, owner = order[axes.lines_of(cart)], np.repeat(np.arange(len(cart)), axes.lines_by_cart[cart])
    left = bits[raw.sku[lines]] & lacks[owner] == 0
    return lines[left], owner[left]


def _one_after_another(batch: CartBatch, more: CartBatch, cart: Ints) -> CartBatch:
    """Carts of two batches of the same goods. cart: which of the first's each of all is."""
    return replace(
        batch,
        axes=Axes(
            np.concatenate((batch.axes.first_line_by_cart, more.axes.first_line_by_cart[1:] + batch.axes.lines))
        ),
        sku_by_line=np.concatenate((batch.sku_by_line, more.sku_by_line)),
        quantity_by_line=np.concatenate((batch.quantity_by_line, more.quantity_by_line)),
        standing_by_line=np.concatenate((batch.standing_by_line, more.standing_by_line)),
        reduced_by_line=np.concatenate((batch.reduced_by_line, more.reduced_by_line)),
        zone_by_cart=batch.zone_by_cart[cart],
        facts=batch.facts.some(cart),
        raw=None,
    )
