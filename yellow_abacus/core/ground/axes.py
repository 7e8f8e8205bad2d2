"""The two axes everything runs along, `lines` and `carts`, and the few ways to go between them.

The lines of a cart lie next to each other. Arrays are named by what they are per: `net_by_line`,
`weight_by_cart`. These are the only grouped operations in the core.

Two carts, of two lines and of one; 5 shared over the lines of the first by running total:

>>> axes = Axes(np.array([0, 2, 3]))
>>> axes.sum_by_cart(np.array([200, 100, 50])).tolist()
[300, 50]
>>> axes.share(np.array([5, 0]), np.array([200, 100, 50])).tolist()
[3, 2, 0]
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import prod
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.ground.money import Bools, Floats, Ints, rhu
from yellow_abacus.core.ground.once import cached_property

Number = TypeVar("Number", np.int64, np.float64, np.bool_)


FEW_LINES = 0.75
"""Below this share of lines with a base, the others are left out while sharing."""


def weighed_by(weights: Floats, figures: Floats) -> Floats:
    """Figures added up along their first axis, each so many times. weights: that axis comes last."""
    whole = weights @ figures.reshape(len(figures), prod(figures.shape[1:]))
    result: Floats = np.reshape(whole, (*weights.shape[:-1], *figures.shape[1:]))
    return result


def summed_by(number: Ints, weights: Floats | Ints, size: int) -> Floats:
    """The weights of all entries of each number below `size`."""
    result: Floats = np.bincount(number, weights=weights, minlength=size).astype(np.float64, copy=False)
    return result


@dataclass(frozen=True)
class Axes:
    """Where each cart's lines begin: `first_line_by_cart` has one entry more than there are carts."""

    first_line_by_cart: Ints

    @property
    def carts(self) -> int:
        return len(self.first_line_by_cart) - 1

    @property
    def lines(self) -> int:
        return int(self.first_line_by_cart[-1])

    @cached_property
    def lines_by_cart(self) -> Ints:
        return np.diff(self.first_line_by_cart)

    @cached_property
    def cart_by_line(self) -> Ints:
        return np.repeat(np.arange(self.carts), self.lines_by_cart)

    def lines_of(self, carts: Ints) -> Ints:
        """The lines of some carts, one after another."""
        first = self.first_line_by_cart
        sizes = self.lines_by_cart[carts]
        starts = np.concatenate(([0], np.cumsum(sizes)))
        return np.arange(int(starts[-1])) + np.repeat(first[carts] - starts[:-1], sizes)

    def of(self, lines: Ints) -> "Axes":
        """The axes of some of the lines, rising indices; carts stay as many as they are."""
        if len(lines) == self.lines:
            return self
        first = np.zeros(self.carts + 1, dtype=np.int64)
        np.add.accumulate(np.bincount(self.cart_by_line[lines], minlength=self.carts), out=first[1:])
        return Axes(first)

    def sum_by_cart(self, by_line: Ints) -> Ints:
        """Whole numbers summed per cart; exact."""
        at = _running(by_line)[self.first_line_by_cart]
        total: Ints = at[1:] - at[:-1]
        return total

    def sum_floats_by_cart(self, by_line: Floats) -> Floats:
        """Doubles summed per cart, each cart by itself, so a cart's sum does not depend on its neighbours."""
        total: Floats = np.bincount(self.cart_by_line, weights=by_line, minlength=self.carts).astype(np.float64)
        return total

    def most_by_cart(self, by_line: NDArray[Number]) -> NDArray[Number]:
        """The greatest of each cart's lines, 0 for a cart without lines; nothing is below 0."""
        most = np.zeros(self.carts, dtype=by_line.dtype)
        full = np.flatnonzero(self.lines_by_cart)
        if len(full):
            most[full] = np.maximum.reduceat(by_line, self.first_line_by_cart[full])
        return most

    def spread(self, by_cart: NDArray[Number]) -> NDArray[Number]:
        """Each cart's value on each of its lines."""
        return by_cart.take(self.cart_by_line, mode="clip")  # faster than to repeat each so often

    def running_total(self, by_line: Ints) -> Ints:
        """Running total within each cart, the line itself included."""
        running = _running(by_line)
        result: Ints = running[1:] - self.spread(running[self.first_line_by_cart[:-1]])
        return result

    def count_different(self, number_by_line: Ints, counts: Bools) -> Ints:
        """How many different numbers each cart has among the lines that count."""
        pairs = np.unique(np.stack([self.cart_by_line[counts], number_by_line[counts]]), axis=1)
        return np.bincount(pairs[0], minlength=self.carts).astype(np.int64)

    def share(self, amount_by_cart: Ints, base_by_line: Ints) -> Ints:
        """Running-total sharing of each cart's amount over its lines' bases.

        Line j gets rhu(D(b1+..+bj)/B) - rhu(D(b1+..+b(j-1))/B): the shares add up to D, and with D no more
        than B none exceeds its base. A cart whose bases sum to 0 shares nothing. docs/sums.md, "Sharing".
        """
        live = np.flatnonzero(base_by_line)
        if len(live) < FEW_LINES * len(base_by_line):
            shares = np.zeros_like(base_by_line)
            shares[live] = self.of(live)._share(amount_by_cart, base_by_line[live])
            return shares
        return self._share(amount_by_cart, base_by_line)

    def _share(self, amount_by_cart: Ints, base_by_line: Ints) -> Ints:
        running = _running(base_by_line)
        bounds = running[self.first_line_by_cart]
        before, total = bounds[:-1], np.maximum(bounds[1:] - bounds[:-1], 1)
        so_far = rhu(self.spread(amount_by_cart) * (running[1:] - self.spread(before)), self.spread(total))
        shares = so_far.copy()
        shares[1:] -= so_far[:-1]
        opens_cart = self.first_line_by_cart[:-1][self.lines_by_cart > 0]
        shares[opens_cart] = so_far[opens_cart]
        return shares


def _running(by_line: Ints) -> Ints:
    """Running total over all lines, with a 0 before the first."""
    running = np.empty(len(by_line) + 1, dtype=np.int64)
    running[0] = 0
    np.add.accumulate(by_line, out=running[1:])
    return running


def among(some: Ints | Sequence[int], size: int) -> Bools:
    """Whether each number below `size` is one of some.

    >>> among([2, 0], 4)
    array([ True, False,  True, False])
    """
    found = np.zeros(size, dtype=np.bool_)
    found[np.asarray(some, dtype=np.int64)] = True
    return found


def run_begins(*of: Ints) -> Bools:
    """Whether each entry begins a run of those in which every one of these arrays stays the same.

    >>> run_begins(np.array([1, 1, 2, 2]), np.array([5, 5, 5, 6]))
    array([ True, False,  True,  True])
    """
    begins = np.ones(len(of[0]), dtype=np.bool_)
    begins[1:] = np.logical_or.reduce([one[1:] != one[:-1] for one in of])
    return begins


def spliced(old: NDArray[Number], were: Bools, new: NDArray[Number], here: Bools) -> NDArray[Number]:
    """`old` with other entries in place of some. were: which of the old ones go; here: where the new ones stand.

    >>> were, here = np.array([False, True, False]), np.array([False, True, True, False])
    >>> spliced(np.array([1, 2, 3]), were, np.array([8, 9]), here)
    array([1, 8, 9, 3])
    """
    found = np.empty(len(here), dtype=old.dtype)
    found[here], found[~here] = new, old[~were]
    return found
