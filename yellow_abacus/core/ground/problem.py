"""A problem: what is wrong, where, and how to mend it. Kinds of reward and condition tell their own."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from yellow_abacus.core.ground.money import LARGEST_CART, WHOLE_BP

Path = tuple[str | int, ...]


@dataclass(frozen=True)
class Problem:
    """path: where in the plan, as keys and indices. message: what is wrong. mend: what to do."""

    path: Path
    message: str
    mend: str

    def inside(self, *path: str | int) -> "Problem":
        """The same problem, seen from one level further out."""
        return replace(self, path=(*path, *self.path))


def rate_between(field: str, what: str, rate_bp: int, least: int, most: int = WHOLE_BP) -> Iterator[Problem]:
    """A problem unless the rate, in basis points, is between the two."""
    if not least <= rate_bp <= most:
        yield Problem(
            (field,),
            f"{what} is {rate_bp / 100:g} %.",
            f"Choose a figure from {least / 100:g} % to {most / 100:g} %.",
        )


def amount_between(field: str, what: str, amount: int, least: int, most: int = LARGEST_CART) -> Iterator[Problem]:
    """A problem unless the amount, in minor units, is between the two."""
    if amount < least:
        yield Problem((field,), f"{what} is {'below' if least == 0 else 'not above'} 0.", "Choose a larger amount.")
    elif amount > most:
        yield Problem((field,), f"{what} is larger than any cart can be.", "Choose a smaller amount.")
