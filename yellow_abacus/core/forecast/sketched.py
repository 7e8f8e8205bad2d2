"""Sketched cart types as carts to expect beside those of the history, or in their place.

Their shares displace the history's: it has what they leave. docs/sums.md, "Sketched carts".
"""

from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.carts.sketch import Drawn, Sketch
from yellow_abacus.core.forecast.cart_types import CartTypes
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.ground.money import WHOLE_BP, Floats
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.pricing.by_time import Times
from yellow_abacus.core.shop.shop import Shop

SKETCHED = "sketched"


def is_sketched(key: tuple[object, ...]) -> bool:
    """Whether the key of a mix is one of sketched carts."""
    return key[:1] == (SKETCHED,)


@dataclass(frozen=True, eq=False)
class Sketched:
    """The sketches of a mix, as carts. by_minute: the hours at which other orders come, as in `Times`."""

    shop: Shop
    sketches: tuple[Sketch, ...]
    drawn: Drawn
    by_minute: Floats

    @property
    def all(self) -> tuple[int, ...]:
        """Every sketch, by number."""
        return tuple(range(len(self.sketches)))

    @cached_property
    def mix(self) -> Mix:
        """Every sketch as likely as it says, whatever the day."""
        carts = tuple(replace(one, share_bp=0, first_day=None, last_day=None) for one in self.sketches)
        names = tuple(one.name for one in self.sketches)
        mine = CartTypes(names, self.drawn.sketch_by_cart)
        return Mix(self.shop, self.drawn.batch, self.by_cart(self.all), (SKETCHED, carts), typed=lambda _: mine)

    def shares(self, come: tuple[int, ...]) -> Floats:
        """The share of each sketch among those that come, all adding up to 1 where any does."""
        told = np.array([one.share_bp * (at in come) for at, one in enumerate(self.sketches)], dtype=np.float64)
        result: Floats = told / (told.sum() or 1)
        return result

    def share_of_all(self, come: tuple[int, ...]) -> float:
        """Of all orders, those of sketches that come."""
        return min(sum(self.sketches[at].share_bp for at in come) / WHOLE_BP, 1.0)

    def weighed(self, mix: Mix, come: tuple[int, ...], by_weekday: Floats) -> Mix:
        """mix: the sketched carts at the prices of some days."""
        times = Times(by_weekday, self.by_minute)
        key = np.concatenate((self.shares(come), by_weekday)).tobytes()
        return mix.weighed(key, lambda: self.by_cart(come), times)

    def by_cart(self, come: tuple[int, ...]) -> Floats:
        """How likely an order of the sketches that come is each cart."""
        result: Floats = self.shares(come)[self.drawn.sketch_by_cart] * self.drawn.share_by_cart
        return result
