"""What the kinds of goods reward share."""

from yellow_abacus.core.ground.money import Ints
from yellow_abacus.core.offers.picked import Picked
from yellow_abacus.core.offers.turn import Taken, Turn


class WorksOnPicked:
    """A reward on all the units picked; its kind says how much comes off each line."""

    def off_by_line(self, picked: Picked) -> Ints:
        raise NotImplementedError

    def kept_base(self, picked: Picked) -> Ints | None:
        """What the reward has to know of its base later, per cart; None for nothing."""
        return None

    def take(self, turn: Turn) -> Taken:
        picked = turn.pick()
        return Taken(
            axes=picked.axes,
            at=picked.at,
            off_by_line=self.off_by_line(picked),
            used_by_line=None,
            times_by_cart=turn.times_by_cart,
            picked_by_cart=picked.axes.sum_by_cart(picked.units),
            units_by_line=picked.units,
            base_by_cart=self.kept_base(picked),
        )
