"""The value of goods from which orders got something: told from those that got it and those that did not."""

import numpy as np

from yellow_abacus.core.ground.money import Bools, Floats

CLEAR, MOST_BELOW = 0.9, 0.2
"""Of the orders from the value on so many got it at least, and of those below so many at most."""
NEARLY = 0.002
"""A value that puts so small a part more of the orders on the wrong side does nearly as well."""


def from_value(worth: Floats, got: Bools) -> int | None:
    """Minor units; None where orders do not tell one apart clearly. The roundest of those that do nearly as well as
    any. worth, got: one entry an order."""
    if not got.any() or got.all():
        return None
    order = np.argsort(worth, kind="stable")
    worth, got = worth[order], got[order]
    wrong = np.concatenate(([0], np.cumsum(got))) + np.concatenate((np.cumsum(~got[::-1])[::-1], [0]))
    well = np.flatnonzero(wrong <= wrong.min() + NEARLY * len(wrong))
    at = int(well[-1])
    below, above = got[:at], got[at:]
    if not len(below) or not len(above) or above.mean() < CLEAR or below.mean() > MOST_BELOW:
        return None
    return roundest(float(worth[max(well[0] - 1, 0)]), float(worth[min(at, len(worth) - 1)]))


def roundest(above: float, most: float) -> int:
    """The roundest whole number above one and not above the other.

    >>> roundest(38.2, 63.0), roundest(4_980, 5_020)
    (50, 5000)
    """
    step = 10 ** len(str(int(max(most, 1))))
    while step > 1:
        for part in (step, step // 2, step // 5):
            found = int(most // part * part) if part else 0
            if found > above:
                return found
        step //= 10
    return int(most)
