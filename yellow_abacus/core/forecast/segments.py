"""Which carts of a mix are those of some shoppers, or of some kind.

A segment weighs such carts up or down; a message goes to those who bring them. docs/sums.md, "The carts to expect".
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.clauses.whose import Whose
from yellow_abacus.core.forecast.cart_types import BY_TYPE, by_main_category
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.volume import LARGEST_FACTOR_BP
from yellow_abacus.core.ground.money import Bools
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.problem import Problem


@dataclass(frozen=True, kw_only=True)
class Segment(Whose):
    """Carts that weigh so many times as much as they did (basis points)."""

    times_bp: int

    def problems(self) -> Iterator[Problem]:
        if not 0 <= self.times_bp <= LARGEST_FACTOR_BP:
            yield Problem(("times_bp",), "Nobody comes so often.", "Choose from 0 to 100 times as many.")
        yield from super().problems()


def carts_of(whose: Whose, mix: Mix) -> Bools:
    """Which carts of a mix are meant, whatever the prices of the day and whatever is missing from them."""
    if mix.origin is not None:
        whole, cart = mix.origin
        found = carts_of(whose, whole)
        return found if cart is None else found[cart]
    facts, name = mix.batch.facts, folded(whose.name)
    match whose.of:
        case "first":
            first: Bools = facts.orders_before_by_cart == 0
            return first
        case "returning":
            returning: Bools = facts.orders_before_by_cart > 0
            return returning
        case "zone":
            meant = [folded(one) == name for one in mix.shop.zone_names] or [False]
            there: Bools = np.array(meant, dtype=np.bool_)[mix.batch.zone_by_cart]
            return there
        case "channel":
            return facts.channel.among([whose.name])
        case "category":
            types = by_main_category(mix.shop, mix.batch)
            meant = [folded(label) == folded(f"Mostly {whose.name}") for label in types.labels]
            mostly: Bools = np.array(meant, dtype=np.bool_)[types.type_by_cart]
            return mostly
        case "type":
            known = mix.types.get(BY_TYPE)
            if known is None:
                return np.zeros(mix.batch.axes.carts, dtype=np.bool_)
            named = [folded(label) == name for label in known.labels]
            of_type: Bools = np.array(named, dtype=np.bool_)[known.type_by_cart]
            return of_type
        case "away":
            away: Bools = facts.days_since_by_cart >= (whose.days or 0)
            return away
