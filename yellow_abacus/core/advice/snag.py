"""A snag: something about a plan that loses money, or does not do what it says, told before it happens.

It says what in words, where in the sentence, how much is at stake in the carts to expect, and where there is one, the
offer as it would be mended. Snags never block.
"""

from dataclasses import dataclass

from yellow_abacus.core.forecast.answer import CountFigure, MoneyFigure, Part, ShareFigure, Words
from yellow_abacus.core.ground.problem import Path
from yellow_abacus.core.offers import Offer

Said = tuple[Part, ...]


@dataclass(frozen=True)
class Mend:
    """label: what it does, in words. offer: the offer as it is then."""

    label: Said
    offer: Offer


@dataclass(frozen=True)
class Snag:
    """text: what is the matter. offer: whose it is, by its number in the plan; None for the plan's own.

    path: of the clause it is about, within the offer's terms. stake: minor units over the plan's days; orders: over
    them; None where nothing can be told.
    """

    text: Said
    offer: int | None = None
    path: Path = ()
    stake: float | None = None
    orders: float | None = None
    mend: Mend | None = None


def say(*parts: str | Part) -> Said:
    return tuple(Words(part) if isinstance(part, str) else part for part in parts)


def cash(amount: float) -> MoneyFigure:
    return MoneyFigure(abs(amount), "", "leak", amount < 0)


def many(orders: float) -> CountFigure:
    return CountFigure(orders, "")


def part_of(share: float) -> ShareFigure:
    return ShareFigure(share, "")
