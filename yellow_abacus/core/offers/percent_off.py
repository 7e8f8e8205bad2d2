"""A percentage off the goods in scope."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import ClassVar, Literal

from yellow_abacus.core.money import Ints, percent_of
from yellow_abacus.core.problem import Problem, rate_between
from yellow_abacus.core.shape import CLOSED


@dataclass(frozen=True)
class PercentOff:
    percent_bp: int
    kind: Literal["percent_off"] = "percent_off"

    scales: ClassVar[bool] = True
    __pydantic_config__ = CLOSED

    def amount_by_cart(self, base_by_cart: Ints, times_by_cart: Ints) -> Ints:
        """rhu(B * p), whatever the times earned."""
        return percent_of(base_by_cart, self.percent_bp)

    def problems(self) -> Iterator[Problem]:
        return rate_between("percent_bp", "The percentage off", self.percent_bp, least=1)
