"""The spread of cart values: how many carts lie in each band of value.

>>> round_width(37), spread_of_values(np.array([100, 140, 900]))[0][:2]
(50, [(0, 50, 0), (50, 100, 0)])
"""

import numpy as np

from yellow_abacus.core.ground.money import Ints

MOST_BANDS = 40
SHOWN_SHARE = 0.98
"""The dearest few carts are counted together, or they would squeeze all others into one band."""

ROUND_AMOUNTS = 60


def round_amount(usual: float) -> int:
    """The round amount, minor units, that new figures are so many of and thresholds move by, in a shop in which an
    order usually comes to this: 60 of it are that much or somewhat more.

    >>> round_amount(46_00), round_amount(4_600), round_amount(17_500_00)
    (100, 100, 50000)
    """
    return round_width(usual / ROUND_AMOUNTS)


def spread_of_values(worth_by_cart: Ints) -> tuple[list[tuple[int, int, int]], int]:
    """Bands as (from, up to, carts), all equally wide and a round amount, and the carts above the last one."""
    if not len(worth_by_cart):
        return [], 0
    top = max(1, int(np.quantile(worth_by_cart, SHOWN_SHARE)))
    width = round_width(top / MOST_BANDS)
    count = top // width + 1
    band = worth_by_cart // width
    carts = np.bincount(np.minimum(band, count), minlength=count + 1)
    return [(at * width, (at + 1) * width, int(carts[at])) for at in range(count)], int(carts[count])


def round_width(least: float) -> int:
    """The smallest of 1, 2, 5, 10, 20, 50 … that is at least this."""
    width = 1
    for step in (10 ** (at // 3) * (1, 2, 5)[at % 3] for at in range(36)):
        width = step
        if step >= least:
            break
    return width
