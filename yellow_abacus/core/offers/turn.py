"""An offer at its turn: the carts it was earned on, the lines it may work on, and what its reward takes.

Every goods reward is given a `Turn` and answers with `Taken`. What is common to all kinds is here: which lines
are open, and how units are picked under the offer's limits. docs/sums.md, "Offers".
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.axes import Axes
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.offers.picked import Picked, carried, pick

PercentFrom = Literal["net", "standing"]


@dataclass(frozen=True, eq=False)
class Taken:
    """What a reward took. at: the lines of the batch it worked on; off_by_line, used_by_line: one entry each of them.

    used_by_line: units that earned or received, for rewards that use units up. times_by_cart: how often it came
    about. Both count only on carts where something came off. picked_by_cart, base_by_cart: units it picked, and what
    a percentage was taken of. units_by_line: those of each line that it is given on.
    """

    axes: Axes
    at: Ints
    off_by_line: Ints
    used_by_line: Ints | None
    times_by_cart: Ints
    picked_by_cart: Ints
    units_by_line: Ints
    base_by_cart: Ints | None = None


@dataclass(frozen=True, eq=False)
class Turn:
    """on: the goods the offer is given on. net_by_line, used_by_line: as earlier offers left them.

    among: lines the turn is held to, None for all. times_by_cart: times earned. room_by_cart: the most it may still
    take off; units_by_cart: the most units it may still pick, None for no limit.
    """

    batch: CartBatch
    on: Scope
    percent_from: PercentFrom
    units_from: Literal["cheapest", "dearest"]
    net_by_line: Ints
    used_by_line: Ints
    among: Bools | None
    times_by_cart: Ints
    room_by_cart: Ints
    units_by_cart: Ints | None

    def lines_in(self, scope: Scope) -> Bools:
        """Lines in scope of carts on which the offer was earned."""
        inside = self.batch.lines_in(scope)
        if self.among is not None:
            inside = inside & self.among
        earned = self.times_by_cart > 0
        return inside if earned.all() else inside & self.batch.axes.spread(earned)

    def lines_to_take_from(self, scope: Scope) -> Bools:
        """Lines in scope that still cost something, and of which something may come off."""
        inside = self.lines_in(scope) & (self.net_by_line > 0)
        may = self.batch.may_be_discounted_by_line
        return inside if may is None else inside & may

    def pick(self) -> Picked:
        """All units in `on` of lines that still cost something, or as many of them as the limit allows."""
        at = np.flatnonzero(self.lines_to_take_from(self.on))
        axes = self.batch.axes.of(at)
        units = quantity = self.batch.quantity_by_line[at]
        if self.units_by_cart is not None:
            units = pick(axes, quantity, self.units_by_cart, self.units_from)
        return self.picked(axes, at, units)

    def picked(self, axes: Axes, at: Ints, units: Ints) -> Picked:
        """These units of these lines, with what they carry."""
        net = self.net_by_line[at]
        return Picked(
            axes=axes,
            at=at,
            net=net,
            units=units,
            base=carried(net, units, self.batch.quantity_by_line[at]),
            standing_price=self.batch.standing_by_line[at],
            times=self.times_by_cart,
            room=self.room_by_cart,
            percent_from=self.percent_from,
        )
