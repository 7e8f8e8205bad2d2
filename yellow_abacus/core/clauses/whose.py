"""Whose orders are meant: some shoppers, or some kind of cart, as the merchant names them.

Which carts of a history those are is for `forecast.segments`.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.ground.shape import CLOSED

Of = Literal["first", "returning", "zone", "channel", "category", "type", "away"]
NAMED: tuple[Of, ...] = ("zone", "channel", "category", "type")


@dataclass(frozen=True, kw_only=True)
class Whose:
    """of: first or returning shoppers; those of a zone, a channel, a type or mostly of a category (`name`); or those
    whose last order is at least `days` ago."""

    of: Of
    name: str = ""
    days: int | None = None

    __pydantic_config__ = CLOSED

    def problems(self) -> Iterator[Problem]:
        if self.of in NAMED and not self.name:
            yield Problem(("name",), f"It does not say which {self.of}.", "Choose one.")
        if self.of == "away" and (self.days is None or self.days < 1):
            yield Problem(("days",), "It does not say how long ago.", "Choose 1 day or more.")
