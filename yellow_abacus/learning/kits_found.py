"""Kits that orders tell of and Goods does not: goods that were paid for, beside which orders have the same others for
nothing, so many with each of them.

docs/sums.md, "What history says". Three orders of a set (SKU 2) at 30.00, with a pot and two bags of soil for nothing
in the rows below:

>>> carts, each = np.repeat(np.arange(3), 3), np.array([1, 1, 2] * 3)
>>> lines = RawLines(carts, np.array([2, 0, 1] * 3), each, 0 * carts)
>>> kits_found(lines, np.array([3000, 0, 0] * 3), np.array([2000, 800, 3000]), np.zeros(3, dtype=np.bool_))
[FoundKit(sku=2, parts=((0, 1), (1, 2)), orders=3)]
"""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.carts import RawLines
from yellow_abacus.core.ground.axes import Axes, among, summed_by
from yellow_abacus.core.ground.money import Bools, Ints

FEWEST_ORDERS = 3
"""A kit is told of by so many orders."""
MOSTLY = 0.9
"""So many of the orders that have it have its parts."""
MOST_LOOKED_AT = 200
"""So many goods, those of most orders, are looked at."""
WORTH = 0.8
"""Parts ask so much of what the kit does, at least: else they are small gifts beside something dear."""


@dataclass(frozen=True)
class FoundKit:
    """sku: index. parts: SKU (index) and units, by rising SKU. orders: that tell of it."""

    sku: int
    parts: tuple[tuple[int, int], ...]
    orders: int


def kits_found(lines: RawLines, paid: Ints, list_price: Ints, is_kit: Bools) -> list[FoundKit]:
    """Those of most orders first.

    lines: without those that tell a kit of Goods once more. paid: by line, for all its units, minor units, below 0
    where that was not said. list_price: by SKU, 0 or below where there is none. is_kit: by SKU, whether Goods has
    parts of it: it is no part of another, nor found again.
    """
    may_be = ~is_kit[lines.sku] & ~lines.is_put_in
    unpaid = (paid <= 0) & may_be
    sold = (paid > 0) & may_be
    may_be_kits = _mostly_beside(lines, sold, unpaid) if unpaid.any() and sold.any() else ()
    if not len(may_be_kits):
        return []
    free = _units(lines, unpaid)
    sold &= among(may_be_kits, len(list_price))[lines.sku]
    bought = _units(lines, sold)
    orders = np.bincount(bought.sku, minlength=len(list_price))
    pairs = _pairs(bought, free)
    with_pairs, first = np.unique(pairs.sku, return_index=True)
    ends = np.append(first[1:], len(pairs.sku))
    left = np.ones(len(free.cart), dtype=np.bool_)
    found: list[FoundKit] = []
    for at in np.argsort(-orders[with_pairs], kind="stable").tolist():
        sku, mine = int(with_pairs[at]), np.arange(first[at], ends[at])
        mine = mine[left[pairs.free[mine]]]
        parts, times = _parts(pairs, mine, free, int(orders[sku]))
        worth = sum(max(int(list_price[part]), 0) * units for part, units in parts)
        unpriced = any(list_price[part] <= 0 for part, _ in parts)
        if sum(units for _, units in parts) > 1 and (unpriced or worth >= WORTH * list_price[sku]):
            found.append(FoundKit(sku, parts, times))
            left[pairs.free[mine]] = False
    return sorted(found, key=lambda one: (-one.orders, one.sku))


def _mostly_beside(lines: RawLines, sold: Bools, unpaid: Bools) -> Ints:
    """The SKUs that were sold often enough, and mostly in carts that hold something unpaid: those of most lines."""
    here = sold & among(lines.cart[unpaid], 1 + int(lines.cart.max()))[lines.cart]
    all_lines, in_those = (np.bincount(lines.sku[some], minlength=1 + int(lines.sku.max())) for some in (sold, here))
    found = np.flatnonzero((all_lines >= FEWEST_ORDERS) & (in_those >= MOSTLY * all_lines))
    return found[np.argsort(-all_lines[found], kind="stable")[:MOST_LOOKED_AT]]


@dataclass(frozen=True, eq=False)
class _Units:
    """By cart and SKU, rising: units of some lines."""

    cart: Ints
    sku: Ints
    units: Ints


def _units(lines: RawLines, some: Bools) -> _Units:
    at = np.flatnonzero(some)
    width = int(lines.sku.max(initial=0)) + 1
    keys, number = np.unique(lines.cart[at] * width + lines.sku[at], return_inverse=True)
    units = summed_by(number, lines.quantity[at], len(keys)).astype(np.int64)
    return _Units(keys // width, keys % width, units)


@dataclass(frozen=True, eq=False)
class _Pairs:
    """What was bought beside what was free in the same cart, so many times as many: the SKU of the one, rising, which
    entry of the free ones the other is, and how many times."""

    sku: Ints
    free: Ints
    times: Ints


def _pairs(bought: _Units, free: _Units) -> _Pairs:
    carts = int(max(bought.cart.max(initial=-1), free.cart.max(initial=-1))) + 1
    axes = Axes(np.searchsorted(free.cart, np.arange(carts + 1)))
    at = axes.lines_of(bought.cart)
    of = np.repeat(np.arange(len(bought.cart)), axes.lines_by_cart[bought.cart])
    times, rest = np.divmod(free.units[at], bought.units[of])
    told = np.flatnonzero((rest == 0) & (free.sku[at] != bought.sku[of]))
    told = told[np.argsort(bought.sku[of[told]], kind="stable")]
    return _Pairs(bought.sku[of[told]], at[told], times[told])


def _parts(pairs: _Pairs, mine: Ints, free: _Units, orders: int) -> tuple[tuple[tuple[int, int], ...], int]:
    """What most orders of one SKU have so many of with each, and how many orders have all of it. mine: its pairs."""
    told = np.stack([free.sku[pairs.free[mine]], pairs.times[mine]])
    kinds, often = np.unique(told, axis=1, return_counts=True)
    mostly = np.flatnonzero((often >= FEWEST_ORDERS) & (often >= MOSTLY * orders))
    parts = tuple((int(kinds[0, at]), int(kinds[1, at])) for at in mostly)
    return parts, int(often[mostly].min(initial=orders))
