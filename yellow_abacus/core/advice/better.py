"""A better plan: of all plans that figures which may move can make, those that keep most for what they give away.

The search goes over whole forecasts, on a sample of the carts where there are many; what it shows is priced on all of
them, holds what must hold, and is better than the plan it is held against. docs/sums.md, "A better plan".
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import product
from math import ceil, inf, prod
from typing import Literal

import numpy as np

from yellow_abacus.core.advice.asking import POINTS_EACH, Asking
from yellow_abacus.core.costing.ledger import INDEX
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.ranges import DRAWS as ALL_DRAWS
from yellow_abacus.core.forecast.ranges import Impacts, impacts_of
from yellow_abacus.core.forecast.takings import Takings, depth_of, takings_of
from yellow_abacus.core.ground.money import WHOLE_BP, Ints
from yellow_abacus.core.ground.stopping import go_on
from yellow_abacus.core.offers.gifts import TooMuchPutInError

Best = Literal["likely", "low", "beats"]
"""What is best: the likely profit, the profit at the low end of the range, or the chance to keep more than today."""

SAMPLE = 3_000
"""Carts that stand for all of them while the search goes on."""
FEW_POINTS = 240
"""A grid of no more points is gone through as a whole."""
ROUNDS = 22
DRAWS = 500
"""Draws that tell how sure a plan is while the search goes on."""
FINALISTS = 24
"""Plans priced on all carts in the end."""
MOST_SHOWN = 8
SEARCHING = 0.8
"""The share of the work that goes by on the sample."""
BROKEN = 1e15
LEAST_MORE = 1e-9
SALES = [INDEX[row] for row in ("goods", "delivery_charged", "surcharges")]

At = tuple[int, ...]
"""A point of the grid: which value each figure has."""


@dataclass(frozen=True)
class Must:
    """What must hold. given_most: minor units given away; margin_least: kept of what shoppers pay net of tax, 1.0 for
    all; offers_most: how many there are; lasts: whether all that is put in must last. None for anything."""

    given_most: float | None = None
    margin_least: float | None = None
    offers_most: int | None = None
    lasts: bool = False


@dataclass(frozen=True, eq=False)
class Judged:
    """A plan and what it comes to: kept today and under it, and given away, minor units; kept of sales; by how much
    it breaks what must hold (0 where it does not); and the impact draw by draw, None where nobody asked."""

    at: At
    plan: Plan
    today: float
    planned: float
    given: float
    margin: float
    broken: float
    impacts: Impacts | None

    @property
    def impact(self) -> float:
        return self.planned - self.today

    def measure(self, best: Best) -> float:
        """What is best, and of plans alike in it the likely impact."""
        if best == "likely" or self.impacts is None:
            return self.impact
        return self.impacts.points[0] if best == "low" else self.impacts.beats + 1e-12 * self.impact

    @property
    def holds(self) -> bool:
        return self.broken <= 0


@dataclass(frozen=True)
class Searched:
    """How far the search is: the share of it, plans tried, and the most any of them keeps more than today so far."""

    share: float
    tried: int
    best: float | None


@dataclass(frozen=True)
class Better:
    """base: the plan they are held against. plans: those that beat it and are not beaten for what they give away,
    what is best first. tried: how many the search looked at."""

    base: Judged
    plans: tuple[Judged, ...]
    tried: int


def depths_said(forecaster: Forecaster, plan: Plan) -> tuple[int | None, ...]:
    """By offer, the depth in basis points at which its response counts as said, where nobody said one.

    A search that left shoppers' response alone would find that it is best to give nothing.
    """
    drawn = forecaster.drawn(plan)
    takings = takings_of(forecaster.course(plan, drawn), drawn)
    return tuple(
        _depth(takings, at) if offer.response.depth_bp is None else offer.response.depth_bp
        for at, offer in enumerate(plan.offers)
    )


def _depth(takings: Takings, at: int) -> int | None:
    return round(depth_of(takings, at) * WHOLE_BP) or None


@dataclass(frozen=True, eq=False)
class _Over:
    """The carts plans are judged on. today: what they keep as things stand, whatever the plan. draws: how many tell
    how sure a plan is; 0 for none."""

    forecaster: Forecaster
    today: float
    draws: int


class Search:
    """A search for better plans. base: the plan they are held against. plan_at: the plan of a point of the grid, its
    response following what it gives, None where it makes no sense. sizes: of the grid, one an axis. first: the point
    at which nothing has moved."""

    def __init__(
        self,
        forecaster: Forecaster,
        base: Plan,
        plan_at: Callable[[At], Plan | None],
        sizes: Sequence[int],
        first: At,
        must: Must,
        best: Best,
    ) -> None:
        self.forecaster, self.base, self.plan_at = forecaster, base, plan_at
        self.sizes, self.first, self.must, self.best = tuple(sizes), first, must, best
        self._tried: dict[At, Judged | None] = {}

    def go(self) -> Iterator[Searched | Better]:
        """How far it is, and last what it found."""
        draws = 0 if self.best == "likely" else DRAWS
        sample = self._over(sampled(self.forecaster), draws)
        whole = prod(self.sizes) <= FEW_POINTS
        rounds = ceil(prod(self.sizes) / POINTS_EACH) if whole else ROUNDS
        for number, points in enumerate(self._whole() if whole else self._narrowing(), start=1):
            for at in points:
                if at not in self._tried:
                    go_on()
                    self._tried[at] = self.judged(sample, at)
            yield Searched(SEARCHING * number / rounds, len(self._tried), self._best_so_far())
        finalists, found = self._finalists(), list[Judged]()
        everything = self._over(self.forecaster, ALL_DRAWS if draws else 0)
        base = self._of_plan(everything, self.base, self.first)
        for number, at in enumerate(finalists, start=1):
            go_on()
            one = self.judged(everything, at)
            found += [] if one is None else [one]
            share = SEARCHING + (1 - SEARCHING) * number / len(finalists)
            yield Searched(share, len(self._tried), self._best_so_far())
        plans = [self._with_draws(one) for one in self._shown(base, found)]
        yield Better(self._with_draws(base), tuple(plans), len(self._tried))

    def _with_draws(self, one: Judged) -> Judged:
        """A plan that is shown, and so judged draw by draw."""
        return one if one.impacts is not None else replace(one, impacts=impacts_of(self.forecaster, one.plan))

    def _over(self, forecaster: Forecaster, draws: int) -> _Over:
        return _Over(forecaster, forecaster.today(self.base), draws)

    def judged(self, over: _Over, at: At) -> Judged | None:
        """What the plan of a point comes to; None where it makes no sense."""
        plan = self.plan_at(at)
        try:
            return None if plan is None else self._of_plan(over, plan, at)
        except TooMuchPutInError:
            return None

    def _of_plan(self, over: _Over, plan: Plan, at: At) -> Judged:
        forecaster = over.forecaster
        drawn = forecaster.drawn(plan)
        course = forecaster.course(plan, drawn)
        takings = takings_of(course, drawn)
        impacts = impacts_of(forecaster, plan, over.draws) if over.draws else None
        profit, given = float(takings.profit[0]), float(takings.given[0].sum())
        sales = float(takings.ledger[0, SALES].sum())
        margin = profit / sales if sales else 0.0
        ends = [limit for limit, day in zip(course.limits, course.ends, strict=True) if not np.isnan(day[0])]
        broken = self._broken(plan, given, margin, any(limit.put_in for limit in ends))
        return Judged(at, plan, over.today, profit, given, margin, broken, impacts)

    def _broken(self, plan: Plan, given: float, margin: float, ends: bool) -> float:
        """By how much what must hold does not, in parts of what it may be."""
        must, found = self.must, 0.0
        if must.given_most is not None:
            found += max(given - must.given_most, 0.0) / max(must.given_most, 1.0)
        if must.margin_least is not None:
            found += max(must.margin_least - margin, 0.0)
        if must.offers_most is not None:
            found += max(len(plan.offers) - must.offers_most, 0)
        return found + (must.lasts and ends)

    def _whole(self) -> Iterator[list[At]]:
        """All of the grid, some points at a time."""
        points = list(product(*(range(size) for size in self.sizes)))
        for start in range(0, len(points), POINTS_EACH):
            yield points[start : start + POINTS_EACH]

    def _narrowing(self) -> Iterator[list[At]]:
        """Points ever nearer to the best; those of one round are to be tried before the next."""
        asking = Asking(self.sizes, self.first, ROUNDS)
        for points in asking:
            asked = [tuple(row) for row in points.tolist()]
            yield asked
            asking.tell(np.array([self._value(at) for at in asked]))

    def _value(self, at: At) -> float:
        """What is to be least: plans that break what must hold come after all others, those least that break it
        least."""
        one = self._tried[at]
        if one is None:
            return BROKEN * 2
        return BROKEN * (1 + min(one.broken, 0.9)) if not one.holds else -one.measure(self.best)

    def _best_so_far(self) -> float | None:
        impacts = [one.impact for one in self._tried.values() if one is not None and one.holds]
        return max(impacts, default=None)

    def _finalists(self) -> list[At]:
        """Those not beaten for what they give away, and the best of the rest."""
        good = [one for one in self._tried.values() if one is not None and one.holds]
        frontier = not_beaten(good, self.best)
        by_measure = sorted(good, key=lambda one: -one.measure(self.best))
        some = [*spread_over(frontier, FINALISTS // 2), *by_measure[:FINALISTS]]
        return list(dict.fromkeys(one.at for one in some if one.at != self.first))[:FINALISTS]

    def _shown(self, base: Judged, found: list[Judged]) -> tuple[Judged, ...]:
        bar = base.measure(self.best)
        beat = [one for one in found if one.holds and one.measure(self.best) > bar + LEAST_MORE]
        frontier = spread_over(not_beaten(beat, self.best), MOST_SHOWN)
        return tuple(sorted(frontier, key=lambda one: -one.measure(self.best)))


def sampled(forecaster: Forecaster) -> Forecaster:
    """The same over a sample of the carts, every so manieth as they came; itself where there are few."""
    expected = forecaster.expected
    counted: Ints = np.flatnonzero(expected.weight_by_cart > 0)
    if len(counted) <= SAMPLE:
        return forecaster
    carts = counted[np.linspace(0, len(counted) - 1, SAMPLE).astype(np.int64)]
    return Forecaster(expected.sample(carts))


def not_beaten(plans: Sequence[Judged], best: Best) -> list[Judged]:
    """Those that no other keeps up with while it gives away less, by rising given away."""
    found: list[Judged] = []
    most = -inf
    for one in sorted(plans, key=lambda one: (one.given, -one.measure(best))):
        if one.measure(best) > most:
            found.append(one)
            most = one.measure(best)
    return found


def spread_over(plans: Sequence[Judged], most: int) -> list[Judged]:
    """At most so many of them, evenly, the first and the last among them."""
    if len(plans) <= most:
        return list(plans)
    return [plans[at] for at in dict.fromkeys(np.linspace(0, len(plans) - 1, most).round().astype(int).tolist())]
