"""A percentage off the goods picked."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from yellow_abacus.core.money import Ints
from yellow_abacus.core.offers.picked import Picked
from yellow_abacus.core.problem import Problem, rate_between
from yellow_abacus.core.shape import CLOSED


@dataclass(frozen=True)
class PercentOff:
    percent_bp: int
    kind: Literal["percent_off"] = "percent_off"

    __pydantic_config__ = CLOSED

    def off_by_line(self, picked: Picked) -> Ints:
        """rhu(B * p), whatever the times earned."""
        return picked.percentage(self.percent_bp)

    def problems(self) -> Iterator[Problem]:
        return rate_between("percent_bp", "The percentage off", self.percent_bp, least=1)
