"""Plans held against each other over the same time, on the same draws.

What any two keep is compared draw by draw: a figure that both have is drawn alike, and so are the orders that come
and the luck in them. docs/sums.md, "Side by side".
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from yellow_abacus.core.clauses.response import Ranging
from yellow_abacus.core.forecast.answer import MoneyFigure, Part, Words
from yellow_abacus.core.forecast.chances import Drawn
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.ranges import Impacts
from yellow_abacus.core.ground.money import Floats


@dataclass(frozen=True, eq=False)
class Beside:
    """impacts: of each column against today. beats: [one, other], the chance that the one keeps more, the chance of
    both keeping alike shared between them."""

    impacts: tuple[Impacts, ...]
    beats: Floats


def beside(found: Sequence[Impacts]) -> Beside:
    """Which column beats which. found: of each, over the same days."""
    return Beside(tuple(found), np.array([[one.beats_other(other) for other in found] for one in found]))


def keeps_most(names: Sequence[str], impacts: Sequence[float], days: int) -> tuple[Part, ...]:
    """The answer: which column keeps most. impacts: against today, minor units, as they are shown."""
    best, *others = sorted(range(len(impacts)), key=lambda at: -impacts[at])
    most, span = impacts[best], "On this one day" if days == 1 else f"Over these {days} days"
    opening = "" if most >= 0 else " nothing here keeps more than today:"
    told: list[Part] = [
        Words(f"{span}{opening} “{names[best]}” keeps "),
        MoneyFigure(abs(most), " more" if most >= 0 else " less", "impact", lost=most < 0),
        Words(" than today"),
    ]
    if others:
        apart, second = most - impacts[others[0]], f"“{names[others[0]]}”"
        told += (
            [Words(", and "), MoneyFigure(apart, " more", "impact", lost=False), Words(f" than {second}, the next")]
            if apart
            else [Words(f", and {second} just as much")]
        )
    return (*told, Words("."))


@dataclass(frozen=True)
class Asked:
    """A figure of the response of an offer, by its id, and values of it, as shares."""

    offer: str
    figure: Ranging
    values: tuple[float, ...]


def over_two(forecaster: Forecaster, plan: Plan, across: Asked, up: Asked) -> Floats:
    """What a plan keeps more than today, minor units: one row a value of `up`, one column a value of `across`. A
    figure of an offer that it does not have makes no difference to it."""
    rows, columns = len(up.values), len(across.values)
    drawn = replace(forecaster.drawn(plan), draws=rows * columns)
    drawn = _with(drawn, up, np.repeat(up.values, columns))
    drawn = _with(drawn, across, np.tile(across.values, rows))
    return forecaster.impacts(plan, drawn).reshape(rows, columns)


def _with(drawn: Drawn, asked: Asked, values: Floats) -> Drawn:
    """The same with the figure asked at these values, one a draw, where the plan has the offer."""
    at = next((at for at, offer in enumerate(drawn.plan.offers) if offer.id == asked.offer), None)
    return drawn if at is None else drawn.otherwise(at, asked.figure, values)
