"""Which other offers an offer does not go with. docs/sums.md, "Together"."""

from dataclasses import dataclass
from typing import Literal

from yellow_abacus.core.ground.shape import CLOSED

Others = Literal["named", "all"]


@dataclass(frozen=True)
class Alongside:
    """Other offers by id, or all others.

    never_with: not on one order with them. yields_to: only where none of them took effect.
    """

    never: Others = "named"
    never_with: tuple[str, ...] = ()
    yields: Others = "named"
    yields_to: tuple[str, ...] = ()

    __pydantic_config__ = CLOSED

    def never_goes_with(self, other: str) -> bool:
        return self.never == "all" or other in self.never_with

    @property
    def yields_at_all(self) -> bool:
        """Whether it waits for what others do, whichever of them are there."""
        return self.yields == "all" or bool(self.yields_to)

    def yields_before(self, other: str) -> bool:
        return self.yields == "all" or other in self.yields_to
