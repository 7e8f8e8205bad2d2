"""The units a goods reward works on, and the two ways an amount comes off them.

Every goods reward picks units, then takes an amount off. What is common to all kinds is here: which units, what
they carry, sharing, the cap. A kind only says how much. docs/sums.md, "Offers".
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.axes import Axes
from yellow_abacus.core.money import Ints, percent_of, rhu


@dataclass(frozen=True, eq=False)
class Picked:
    """units, base, standing: one entry a line: units picked, what they carry of its net, their standing price.

    times: one entry a cart, times earned. room: one entry a cart, the most the reward may still take off.
    """

    axes: Axes
    net: Ints
    units: Ints
    base: Ints
    standing: Ints
    times: Ints
    room: Ints
    percent_from: Literal["net", "standing"]

    @property
    def base_by_cart(self) -> Ints:
        return self.axes.sum_by_cart(self.base)

    def pooled(self, amount_by_cart: Ints) -> Ints:
        """One amount a cart, at most the base and the room, shared over the base by running total."""
        return self.axes.share(np.minimum(amount_by_cart, np.minimum(self.base_by_cart, self.room)), self.base)

    def line_by_line(self, off_by_line: Ints) -> Ints:
        """An amount a line; where the cart's sum is above the room, the room shared over those amounts."""
        total = self.axes.sum_by_cart(off_by_line)
        over = self.axes.spread(total > self.room)
        capped: Ints = np.where(over, self.axes.share(np.minimum(total, self.room), off_by_line), off_by_line)
        return capped

    def percentage(self, rate_bp: int) -> Ints:
        """A percentage of what the units carry, or of their standing price where the shop's setting says so."""
        if self.percent_from == "net":
            return self.pooled(percent_of(self.base_by_cart, rate_bp))
        amount = percent_of(self.axes.sum_by_cart(self.standing), rate_bp)
        return self.line_by_line(np.minimum(self.net, self.axes.share(amount, self.standing)))


def pick(
    axes: Axes,
    net: Ints,
    quantity: Ints,
    open_units: Ints,
    most_units: int | None,
    first: Literal["cheapest", "dearest"],
) -> tuple[Ints, Ints]:
    """Units picked of each line and what they carry of its net.

    open_units: units of each line that may be picked. most_units: at most so many a cart, in line order for
    *dearest* first and backwards for *cheapest* first; None for all.
    """
    units = open_units
    if most_units is not None:
        upto = axes.running_total(open_units)
        before = upto - open_units
        if first == "cheapest":
            before = axes.spread(axes.sum_by_cart(open_units)) - upto
        units = np.clip(most_units - before, 0, open_units)
    return units, rhu(net * units, quantity)
