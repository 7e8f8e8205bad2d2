"""The units a goods reward works on, and the two ways an amount comes off them.

Every goods reward picks units, then takes an amount off. What is common to all kinds is here: which units, what
they carry, sharing, the cap. A kind only says how much. docs/sums.md, "Offers".
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.ground.axes import Axes
from yellow_abacus.core.ground.money import Ints, percent_of, rhu
from yellow_abacus.core.ground.once import cached_property


@dataclass(frozen=True, eq=False)
class Picked:
    """units, base, standing_price: one entry a line of `at`: units picked, what they carry of its net, price of one.

    times: one entry a cart, times earned. room: one entry a cart, the most the reward may still take off.
    """

    axes: Axes
    at: Ints
    net: Ints
    units: Ints
    base: Ints
    standing_price: Ints
    times: Ints
    room: Ints
    percent_from: Literal["net", "standing"]

    @cached_property
    def standing(self) -> Ints:
        """What the units picked come to at standing price."""
        return self.standing_price * self.units

    @cached_property
    def base_by_cart(self) -> Ints:
        return self.axes.sum_by_cart(self.base)

    @cached_property
    def percentage_base(self) -> Ints:
        """What a percentage is taken of, per cart."""
        return self.base_by_cart if self.percent_from == "net" else self.axes.sum_by_cart(self.standing)

    def pooled(self, amount_by_cart: Ints) -> Ints:
        """One amount a cart, at most the base and the room, shared over the base by running total."""
        return self.axes.share(np.minimum(amount_by_cart, np.minimum(self.base_by_cart, self.room)), self.base)

    def line_by_line(self, off_by_line: Ints) -> Ints:
        """An amount a line; where the cart's sum is above the room, the room shared over those amounts."""
        return within(self.axes, off_by_line, self.room)

    def percentage(self, rate_bp: int) -> Ints:
        """A percentage of what the units carry, or of their standing price where the shop's setting says so."""
        amount = percent_of(self.percentage_base, rate_bp)
        if self.percent_from == "net":
            return self.pooled(amount)
        return self.line_by_line(np.minimum(self.net, self.axes.share(amount, self.standing)))


def within(axes: Axes, off_by_line: Ints, room_by_cart: Ints) -> Ints:
    """Amounts by line; where a cart's sum is above its room, the room shared over those amounts."""
    total = axes.sum_by_cart(off_by_line)
    over = total > room_by_cart
    if not over.any():
        return off_by_line
    shared = axes.share(np.minimum(total, room_by_cart), off_by_line)
    capped: Ints = np.where(axes.spread(over), shared, off_by_line)
    return capped


def carried(net: Ints, units: Ints, quantity: Ints) -> Ints:
    """What so many units of each line carry of its net: each unit of a line carries net / quantity."""
    part = np.flatnonzero((units != quantity) & (units != 0))
    all_or_nothing: Ints = net * (units == quantity)
    all_or_nothing[part] = rhu(net[part] * units[part], quantity[part])
    return all_or_nothing


def pick(axes: Axes, open_units: Ints, most_by_cart: Ints, first: Literal["cheapest", "dearest"]) -> Ints:
    """Units taken of each line, at most so many a cart: in line order for *dearest* first, else backwards."""
    upto = axes.running_total(open_units)
    before = upto - open_units
    if first == "cheapest":
        before = axes.spread(axes.sum_by_cart(open_units)) - upto
    units: Ints = np.clip(axes.spread(most_by_cart) - before, 0, open_units)
    return units
