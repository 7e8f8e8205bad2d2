"""The value of one response figure at which the plan keeps what today keeps, the others held.

All figures are tried at once, each value a draw of one course. Between the values tried the impact is a line; where
limits may end sooner or later it is nearly one, and the stretch that crosses 0 is tried again, more finely.
docs/sums.md, "Break-even".

>>> on_a_line(-100.0, 100.0, top=1.0)
BreakEven(verdict='at_least', value=0.5)
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from yellow_abacus.core.clauses.response import MOST, Ranging
from yellow_abacus.core.forecast.chances import Drawn
from yellow_abacus.core.ground.money import WHOLE_BP, Floats
from yellow_abacus.core.offers import Offer

LARGEST_EXTRA = 5.0
"""Extra orders are looked for up to 500 % of the orders reached."""
NO_MATTER = 1e-6
"""Minor units: what moves the impact by less does not matter."""
FINE, FINER, ROUNDS = 9, 25, 2
"""Where the impact is not a line: so many values of the bounds, then of the stretch that crosses 0, so often. What a
course costs is its days, not its values."""

Figure = tuple[tuple[int, Ranging], ...]
"""What is moved together: numbers of offers, and figures of them."""


@dataclass(frozen=True)
class BreakEven:
    """verdict `at_least` or `at_most` comes with the `value` (a share, 1.0 = 100 %); the others without."""

    verdict: Literal["at_least", "at_most", "never", "always", "no_matter"]
    value: float | None = None


def on_a_line(impact_at_zero: float, impact_at_top: float, top: float) -> BreakEven:
    """Break-even of a figure in which the impact is linear over [0, top]; impacts in minor units."""
    return along(np.array([0.0, top]), np.array([impact_at_zero, impact_at_top]), 0.0)


def along(values: Floats, impacts: Floats, likely: float) -> BreakEven:
    """Break-even over rising values, the impact a line between each two: the root nearest the likely value."""
    if np.ptp(impacts) < NO_MATTER:
        return BreakEven("no_matter")
    if impacts.min() > -NO_MATTER or impacts.max() < NO_MATTER:  # it may touch 0, and never crosses it
        return BreakEven("always" if impacts.min() > -NO_MATTER else "never")
    found = _crossing(values, impacts, likely)
    if found is None:
        return BreakEven("always" if impacts[0] > 0 else "never")
    at, root = found
    return BreakEven("at_least" if impacts[at + 1] > impacts[at] else "at_most", root)


def _crossing(values: Floats, impacts: Floats, likely: float) -> tuple[int, float] | None:
    """The stretch in which the impact crosses 0 nearest the likely value, and where."""
    low, high = impacts[:-1], impacts[1:]
    crosses = (np.minimum(low, high) <= 0) & (np.maximum(low, high) >= 0) & (low != high)
    at = np.flatnonzero(crosses)
    if not len(at):
        return None
    roots = values[at] - low[at] * (values[at + 1] - values[at]) / (high[at] - low[at])
    nearest = int(np.argmin(np.abs(roots - likely)))
    return int(at[nearest]), float(roots[nearest])


def figures_of(offers: Sequence[Offer]) -> dict[Figure, Ranging]:
    """Everything that can be moved, with its name: extra orders of what runs not yet, the rest where said."""
    found: dict[Figure, Ranging] = {}
    for at, offer in enumerate(offers):
        told = offer.response
        for figure in MOST if not offer.runs else ():
            if figure == "uptake_bp" and offer.given.key is not None:
                found[_of_code(offers, offer.given.key)] = figure
            elif figure == "extra_bp" or (figure != "uptake_bp" and told.likely(figure) is not None):
                found[(at, figure),] = figure
    return found


def _of_code(offers: Sequence[Offer], key: str) -> Figure:
    """Who has a code: one figure of the offers that share it, of first orders too where one says nothing else."""
    same = [(at, one.response) for at, one in enumerate(offers) if one.asks_code == key]
    firsts: list[tuple[int, Ranging]] = [(at, "uptake_first_bp") for at, told in same if told.uptake_first_bp is None]
    return (*((at, "uptake_bp") for at, _ in same), *firsts)


@dataclass(frozen=True, eq=False)
class Tried:
    """One figure's values, rising, with the impact of each; and what it is likely to be."""

    values: Floats
    impacts: Floats
    likely: float

    @property
    def even(self) -> BreakEven:
        return along(self.values, self.impacts, self.likely)


def try_all(
    drawn: Drawn, figures: Sequence[Figure], impacts: Callable[[Drawn], Floats], curved: bool
) -> dict[Figure, Tried]:
    """Every figure over its bounds, the others held. drawn: of one value each. curved: whether limits may end."""
    likely = {figure: _likely(drawn, figure) for figure in figures}
    values = {figure: _values(drawn, figure, likely[figure], curved) for figure in figures}
    found = {figure: Tried(values[figure], one, likely[figure]) for figure, one in _impacts(drawn, values, impacts)}
    for _ in range(ROUNDS if curved else 0):
        between = {}
        for figure, one in found.items():
            crossing = _crossing(one.values, one.impacts, one.likely)
            if crossing is not None and np.ptp(one.impacts) >= NO_MATTER:
                at = crossing[0]
                between[figure] = np.linspace(one.values[at], one.values[at + 1], FINER)[1:-1]
        if not between:
            break
        for figure, more in _impacts(drawn, between, impacts):
            one = found[figure]
            all_values = np.concatenate((one.values, between[figure]))
            order = np.argsort(all_values, kind="stable")
            found[figure] = replace(one, values=all_values[order], impacts=np.concatenate((one.impacts, more))[order])
    return found


def _impacts(
    drawn: Drawn, values: dict[Figure, Floats], impacts: Callable[[Drawn], Floats]
) -> list[tuple[Figure, Floats]]:
    """All the values of all the figures in one course."""
    ends = np.cumsum([len(one) for one in values.values()])
    many = replace(drawn, draws=int(ends[-1]) if len(ends) else 0)
    if not many.draws:
        return []
    for (figure, of_figure), end in zip(values.items(), ends, strict=True):
        for at, name in figure:
            held = many.of(at, name)
            told = np.full(many.draws, _unsaid(name)) if held is None else held.copy()
            told[end - len(of_figure) : end] = of_figure
            if held is not None or name not in ("uptake_first_bp", "extra_first_bp"):
                many = many.otherwise(at, name, told)
    found = impacts(many)
    return [(figure, found[end - len(one) : end]) for (figure, one), end in zip(values.items(), ends, strict=True)]


def _unsaid(name: Ranging) -> float:
    return 1.0 if name == "uptake_bp" else 0.0


def _likely(drawn: Drawn, figure: Figure) -> float:
    told = drawn.of(*figure[0])
    return _unsaid(figure[0][1]) if told is None else float(told[0])


def _values(drawn: Drawn, figure: Figure, likely: float, curved: bool) -> Floats:
    """What to try: the bounds, what is likely, where the line may bend."""
    name = figure[0][1]
    top = LARGEST_EXTRA if name in ("extra_bp", "extra_first_bp") else MOST[name] / WHOLE_BP
    bends = [0.0, likely, top]
    if name == "take_up_bp":
        others = (drawn.of(at, name) for at in range(len(drawn.plan.offers)))
        bends += [float(one[0]) for one in others if one is not None]
    if name == "top_up_bp" and (times := drawn.follows(figure[0][0], "top_up_bp")) > 1:
        bends.append(1 / times)
    if curved:
        bends += np.linspace(0.0, top, FINE).tolist()
    return np.unique(np.clip(bends, 0.0, top))
