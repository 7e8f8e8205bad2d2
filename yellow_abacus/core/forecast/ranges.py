"""How sure an answer is: the impact over many draws of every figure that has a range, with luck on top.

A figure's low and high are its 5 and 95 % points: the ends of a PERT of shape 4 with the likely value as its mode are
solved for. Draws are evenly spread over each figure's probabilities and shuffled by a seed of the figure's own, so
that a figure left alone is drawn alike whatever else changes. docs/sums.md, "Range".

>>> low, high = pert_ends(10.0, 20.0, 40.0)
>>> bool(low < 10 and high > 40)
True
"""

from dataclasses import dataclass, replace
from functools import lru_cache
from hashlib import blake2b

import numpy as np
from scipy.special import betaincinv, ndtri

from yellow_abacus.core.clauses.response import MOST, Ranging
from yellow_abacus.core.forecast.break_even import NO_MATTER
from yellow_abacus.core.forecast.chances import Drawn
from yellow_abacus.core.forecast.course import Course, parts_of
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.forecast.takings import profit_of
from yellow_abacus.core.ground.money import WHOLE_BP, Floats, Ints

DRAWS = 10_000
EVEN = (np.arange(DRAWS) + 0.5) / DRAWS
"""Probabilities, evenly spread: one a draw."""
SHAPE = 4.0
LOW, HIGH = 0.05, 0.95
ORDERS = "orders"
"""The name of how many orders come, which has a range too."""


@dataclass(frozen=True)
class Swing:
    """What the impact would be, minor units, at the low and at the high of one figure, the others likely.

    offer: its number in the plan, None for how many orders come. low, high: shares, or times the likely orders.
    """

    offer: int | None
    figure: Ranging | None
    low: float
    high: float
    impact_at_low: float
    impact_at_high: float

    @property
    def size(self) -> float:
        return abs(self.impact_at_high - self.impact_at_low)


@dataclass(frozen=True)
class Range:
    """Of the impact, minor units: its 5, 50 and 95 % points; beats: the chance that the plan keeps more than today.

    likely_at: the share of draws below the likely impact. luck, sampled: standard deviations, of chance alone and of
    the history being a sample. swings: the largest first.
    """

    low: float
    middle: float
    high: float
    likely: float
    likely_at: float
    beats: float
    luck: float
    sampled: float
    swings: tuple[Swing, ...]


@lru_cache(maxsize=4096)
def pert_ends(low: float, likely: float, high: float) -> tuple[float, float]:
    """The ends of the PERT with this mode of which `low` and `high` are the 5 and 95 % points. low < high."""
    from scipy.optimize import least_squares  # takes longer to load than an answer that tells no range

    width = high - low

    def off(told: Floats) -> Floats:
        below, above = np.exp(told)
        whole = below + above
        points = betaincinv(1 + SHAPE * below / whole, 1 + SHAPE * above / whole, np.array([LOW, HIGH]))
        result: Floats = (likely - below + whole * points - np.array([low, high])) / width
        return result

    start = np.log([max(likely - low, 0.02 * width) * 1.6, max(high - likely, 0.02 * width) * 1.6])
    below, above = np.exp(least_squares(off, start, xtol=1e-12, ftol=1e-12).x)
    return float(likely - below), float(likely + above)


@lru_cache(maxsize=256)
def _spread(low: float, likely: float, high: float) -> Floats:
    """Draws of a figure, rising."""
    start, end = pert_ends(low, likely, high)
    below, whole = likely - start, end - start
    found: Floats = start + whole * betaincinv(1 + SHAPE * below / whole, 1 + SHAPE * (whole - below) / whole, EVEN)
    return found


@lru_cache(maxsize=256)
def shuffled(name: str) -> Ints:
    seed = int.from_bytes(blake2b(name.encode(), digest_size=8).digest(), "big")
    return np.random.default_rng(seed).permutation(DRAWS)


def draws_of(name: str, low: float, likely: float, high: float, most: float) -> Floats:
    """One entry a draw. name: what the figure is known by, the same in every plan. most: its upper bound, 0 its lower
    one."""
    if low == high:
        return np.full(DRAWS, likely)
    return np.clip(_spread(low, likely, high)[shuffled(name)], 0.0, most)


@dataclass(frozen=True, eq=False)
class Impacts:
    """Of a plan, minor units: its likely impact, the impact of each draw with chance on top, and the standard
    deviations of chance, as `Range` has them."""

    likely: float
    by_draw: Floats
    luck: float
    sampled: float

    @property
    def beats(self) -> float:
        """The chance that the plan keeps more than today."""
        return float((self.by_draw > 0).mean())

    def beats_other(self, other: "Impacts") -> float:
        """The chance that the plan keeps more than another over the same days; draws in which both keep alike count
        half."""
        return float(((self.by_draw > other.by_draw).mean() + (self.by_draw >= other.by_draw).mean()) / 2)

    @property
    def points(self) -> tuple[float, float, float]:
        """The 5, 50 and 95 % points."""
        low, middle, high = np.quantile(self.by_draw, [LOW, 0.5, HIGH])
        return float(low), float(middle), float(high)


def impacts_of(forecaster: Forecaster, plan: Plan, draws: int = DRAWS) -> Impacts:
    """Draws are of a figure's name: plans over the same time meet the same luck and the same shoppers in each.

    draws: only the first so many, to be quick.
    """
    likely = forecaster.drawn(plan)
    course = forecaster.course(plan, likely)
    impact = float(profit_of(course, likely)[0]) - forecaster.today(plan)
    luck, sampled = float(np.sqrt(max(_luck(course, likely), 0.0))), _sampled(course)
    by_chance = ndtri(EVEN)[shuffled("luck")[:draws]] * np.hypot(luck, sampled)
    whole = forecaster.impacts(plan, many_draws(forecaster, plan, likely, draws)) + by_chance
    whole[np.abs(whole) < NO_MATTER] = 0.0
    return Impacts(impact, whole, luck, sampled)


def range_of(forecaster: Forecaster, plan: Plan) -> Range:
    """The range of the plan's impact."""
    found = impacts_of(forecaster, plan)
    low, middle, high = found.points
    return Range(
        low,
        middle,
        high,
        found.likely,
        float((found.by_draw < found.likely).mean()),
        found.beats,
        found.luck,
        found.sampled,
        _swings(forecaster, plan),
    )


def many_draws(forecaster: Forecaster, plan: Plan, likely: Drawn, draws: int = DRAWS) -> Drawn:
    """Every figure that has a range, drawn; the others as they are likely."""
    orders = forecaster.expected.orders_between
    return replace(
        likely,
        draws=draws,
        told={
            (at, figure): draws_of(f"{plan.offers[at].id} {figure}", *values, MOST[figure] / WHOLE_BP)[:draws]
            for (at, figure), values in plan.ranged.items()
        },
        orders=None if orders is None else draws_of(ORDERS, orders[0], 1.0, orders[1], np.inf)[:draws],
    )


def _swings(forecaster: Forecaster, plan: Plan) -> tuple[Swing, ...]:
    """Every figure at its low and at its high, all in one course."""
    told, orders, likely = plan.ranged, forecaster.expected.orders_between, forecaster.drawn(plan)
    size = 2 * len(told) + (2 if orders else 0)
    if not size:
        return ()
    many = replace(likely, draws=size)
    for number, ((at, figure), (low, middle, high)) in enumerate(told.items()):
        values = np.full(size, middle)
        values[2 * number : 2 * number + 2] = low, high
        many = many.otherwise(at, figure, values)
    if orders:
        volume = np.ones(size)
        volume[-2:] = orders
        many = replace(many, orders=volume)
    impacts = forecaster.impacts(plan, many)
    found = [
        Swing(at, figure, low, high, float(impacts[2 * number]), float(impacts[2 * number + 1]))
        for number, ((at, figure), (low, _, high)) in enumerate(told.items())
    ]
    if orders:
        found.append(Swing(None, None, *orders, float(impacts[-2]), float(impacts[-1])))
    return tuple(sorted(found, key=lambda one: -one.size))


def _luck(course: Course, drawn: Drawn) -> float:
    """The variance of the impact that chance alone makes: orders come or do not, each for itself."""
    found = 0.0
    for flow in course.flows:
        for sums, share, _ in parts_of(flow.state, drawn):
            orders = flow.orders[0] * share[0]
            if not flow.wins:
                found += float(orders @ sums.total[:, AT["kept_squared"]])
                continue
            found += float(orders @ sums.total[:, AT["change_squared"]])
            for here, at in enumerate(flow.state.numbers):
                extra = orders * drawn.extra_by_cell(at)[0]
                borrowed = drawn.of(at, "borrowed_bp")
                sooner = 0.0 if borrowed is None else float(borrowed[0])
                reached = sums.reached[:, here]
                found += (1 - sooner) * float(extra @ reached[:, AT["kept_squared"]])
                found += sooner * float(extra @ reached[:, AT["change_squared"]])
    return found


def _sampled(course: Course) -> float:
    """The standard deviation of the impact that comes of the history being a sample.

    What a cart comes to more in one state it may in others too: deviations add up, which is never too little.
    """
    found = 0.0
    for flow in course.flows:
        state = flow.state
        if not flow.wins or state.span.source.come is not None or state.available.sharp:
            continue
        groups = state.by_group.groups
        spread = state.span.source.spreading(groups)
        cells = flow.orders[0].reshape(len(spread), -1)
        weight = (cells[:, groups.cohort] * spread).sum(axis=0)
        found += float(np.sqrt((weight**2) @ state.by_group.sampled))
    return found
