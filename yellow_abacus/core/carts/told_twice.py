"""Lines of orders that tell a kit once more: its parts beside it, for which nothing was paid or what the kit came to;
or the kit for nothing, beside parts that were paid for. A kit's cost, weight and stock are those of its parts, so
they would count twice. docs/sums.md, "Carts".

A set (SKU 2) of a pot and two bags of soil, paid 30.00, with its parts in the rows below; one bag more was bought:

>>> one, each = np.ones(4, dtype=np.int64), np.array([1, 1, 2, 1])
>>> parts = KitParts(kit=np.array([2]), axes=Axes(np.array([0, 2])), part=np.array([0, 1]), units=np.array([1, 2]))
>>> told_twice(parts, 0 * one, np.array([2, 0, 1, 1]), each, np.array([3000, 0, 0, 500])).tolist()
[False, True, True, False]
"""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.goods.kits import KitParts
from yellow_abacus.core.ground.axes import Axes, summed_by
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property


def told_twice(parts: KitParts, cart: Ints, sku: Ints, quantity: Ints, paid: Ints) -> Bools | None:
    """Which lines tell what another one of their cart tells, never all of a cart; None where none does.

    cart, sku, quantity, paid: one entry a line; paid: for all its units, minor units, UNKNOWN where that was not
    said.
    """
    kits = np.flatnonzero(np.isin(sku, parts.kit))
    if not len(kits):
        return None
    beside = _Beside(parts, cart, sku, quantity, paid, kits)
    found = np.zeros(len(cart), dtype=np.bool_)
    for some in (beside.parts_for_nothing(), beside.parts_for_as_much(), beside.kits_for_nothing()):
        found[some] = True
    return found if found.any() else None


@dataclass(frozen=True, eq=False)
class _Beside:
    """Lines of kits (`kits`, by index), and in the same carts lines of what they are made of.

    What all kits of a cart have of a SKU is *needed*: one entry each, by rising cart and SKU.
    """

    parts: KitParts
    cart: Ints
    sku: Ints
    quantity: Ints
    paid: Ints
    kits: Ints

    @cached_property
    def _width(self) -> int:
        return 1 + int(max(self.sku.max(), self.parts.part.max(initial=0)))

    @cached_property
    def _made_of(self) -> tuple[Ints, Ints, Ints]:
        """One entry a part of each kit's line: which of those lines; cart and SKU; units in one kit."""
        number = np.searchsorted(self.parts.kit, self.sku[self.kits])
        at = self.parts.axes.lines_of(number)
        of = np.repeat(np.arange(len(self.kits)), self.parts.axes.lines_by_cart[number])
        line = self.kits[of]
        return of, self.cart[line] * self._width + self.parts.part[at], self.parts.units[at]

    @cached_property
    def _needed(self) -> tuple[Ints, Floats]:
        """Cart and SKU, and how many units."""
        of, key, each = self._made_of
        keys, at = np.unique(key, return_inverse=True)
        return keys, summed_by(at, each * self.quantity[self.kits[of]], len(keys))

    @cached_property
    def _there(self) -> tuple[Ints, Ints]:
        """Lines of what is needed, and which entry of that each is of."""
        keys, _ = self._needed
        lines = np.flatnonzero(np.isin(self.sku, self.parts.part) & np.isin(self.cart, keys // self._width))
        mine = self.cart[lines] * self._width + self.sku[lines]
        at = np.searchsorted(keys, mine)
        same = np.isin(mine, keys)
        return lines[same], at[same]

    def _with_all_parts(self, some: Bools, wanted: Ints | Floats) -> Bools:
        """Which lines of kits have all that they are made of beside them, as some of the lines of parts tell it.
        wanted: units at least, by entry of `_made_of`."""
        (lines, at), (keys, _) = self._there, self._needed
        units = summed_by(at[some], self.quantity[lines[some]], len(keys))
        of, key, _ = self._made_of
        lacks = np.bincount(of, weights=units[np.searchsorted(keys, key)] < wanted, minlength=len(self.kits))
        result: Bools = (lacks == 0) & (np.bincount(of, minlength=len(self.kits)) > 0)
        return result

    def parts_for_nothing(self) -> Ints:
        """Lines of all parts of a kit for which nothing was paid, as long as they are no more than is needed; files
        may tell those of one kit. Some parts alone may be a gift. Where what the kit came to is told and what they
        did is not, nothing was."""
        (lines, at), (keys, needed) = self._there, self._needed
        priced = self.cart[self.kits[self.paid[self.kits] > 0]]
        free = (self.paid[lines] == 0) | ((self.paid[lines] == UNKNOWN) & np.isin(self.cart[lines], priced))
        of, key, each = self._made_of
        free &= np.isin(keys, key[self._with_all_parts(free, each)[of]])[at]
        order = np.flatnonzero(free)[np.argsort(at[free], kind="stable")]
        of_each = Axes(np.searchsorted(at[order], np.arange(len(keys) + 1)))
        fits = of_each.running_total(self.quantity[lines[order]]) <= needed[at[order]]
        found: Ints = lines[order[fits]]
        return found

    def parts_for_as_much(self) -> Ints:
        """Lines of all that is needed and no more of it, which came to what the kits of their cart did, but for the
        rounding of each."""
        (lines, at), (keys, needed), carts = self._there, self._needed, int(self.cart.max()) + 1
        otherwise = summed_by(at, self.quantity[lines], len(keys)) != needed
        lacks = np.bincount(keys // self._width, weights=otherwise, minlength=carts)
        unpaid = np.bincount(self.cart[lines], weights=self.paid[lines] <= 0, minlength=carts)
        theirs, kits = (summed_by(self.cart[one], self.paid[one], carts) for one in (lines, self.kits))
        rounding = np.bincount(self.cart[lines], minlength=carts)
        alike: Bools = (lacks + unpaid == 0) & (np.abs(theirs - kits) <= rounding)
        return lines[alike[self.cart[lines]]]

    def kits_for_nothing(self) -> Ints:
        """Lines of kits for which nothing was paid, beside all their parts, which were."""
        keys, needed = self._needed
        whole = self._with_all_parts(self.paid[self._there[0]] > 0, needed[np.searchsorted(keys, self._made_of[1])])
        found: Ints = self.kits[(self.paid[self.kits] == 0) & whole]
        return found
