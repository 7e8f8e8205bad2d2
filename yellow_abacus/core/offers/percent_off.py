"""A percentage off the goods picked."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.ground.money import Ints, percent_of
from yellow_abacus.core.ground.problem import Problem, rate_between
from yellow_abacus.core.ground.shape import CLOSED
from yellow_abacus.core.offers.kinds import WorksOnPicked
from yellow_abacus.core.offers.picked import Picked


@dataclass(frozen=True)
class PercentOff(WorksOnPicked):
    """`percent_bp` off the units picked. with_delivery: off the delivery charge too, on carts with such units."""

    percent_bp: int
    with_delivery: bool = False
    kind: Literal["percent_off"] = "percent_off"

    __pydantic_config__ = CLOSED

    def off_by_line(self, picked: Picked) -> Ints:
        """rhu(B * p), whatever the times earned."""
        return picked.percentage(self.percent_bp)

    def kept_base(self, picked: Picked) -> Ints | None:
        return picked.percentage_base if self.with_delivery else None

    def off_charge(self, charge: Ints, base: Ints) -> Ints:
        """The charge's part: rhu((B + charge) * p) - rhu(B * p), where the base `B` is above 0."""
        off = percent_of(base + charge, self.percent_bp) - percent_of(base, self.percent_bp)
        result: Ints = np.where(base > 0, off, 0)
        return result

    def off_sets(self, base_by_set: Ints) -> Ints:
        """rhu(B * p), set by set."""
        return percent_of(base_by_set, self.percent_bp)

    def problems(self) -> Iterator[Problem]:
        return rate_between("percent_bp", "The percentage off", self.percent_bp, least=1)
