"""How many top up to reach a threshold, and from how far: orders pile up above it and are missing below.

What would have been there without the threshold is seen on days without it, or where it always ran (and is one
alone), drawn through the orders on either side: counts of bins follow a smooth course (a polynomial of degree 4 in a
Poisson model, with steps for bins that end at round values), left out a window around the threshold whose lower end
is where the orders missing below and the excess above agree. This is the bunching estimator of Kleven and Waseem,
"Using notches to uncover optimization frictions and structural elasticities", Quarterly Journal of Economics 128
(2013). What is missing, as a share of what would be there, then falls to nothing at the reach, or is alike up to it.
All is done again for each of many samples of the orders. docs/sums.md, "What history says".
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.stopping import go_on
from yellow_abacus.learning.estimate import Estimate, between
from yellow_abacus.learning.models import poisson

BINS = 60
"""Bins up to the threshold."""
FROM, TO, WINDOW_TO = 1 / 4, 2.0, 1.25
"""Bins looked at, and the upper end of the window, in times the threshold."""
FARTHEST = 1 / 2
"""Where other days show what would be there: nobody tops up from further below, in times the threshold."""
PILES_UP = 1.1
"""Of several thresholds: up to so many times one, orders that came to it may pile up."""
DEGREE = 4
SAMPLES, FEWER_SAMPLES, SEED = 200, 100, 13
"""Samples of the orders where other days show what would be there, and where a course is fitted in each."""
FEWEST_ORDERS = 200
"""Orders of either kind of day that tell anything."""
FEWEST_ABOVE = 30
"""Orders above the threshold without which no course goes through it."""
REACHES = 40
BLOCK = 5
"""Neighbouring bins that are judged together: a price that fills one and leaves the next empty moves no share."""


class NoCourseError(Exception):
    """No smooth course goes through the orders."""


@dataclass(frozen=True, eq=False)
class Picture:
    """What each bin had, and would have had without the threshold. starts: the lower end of each."""

    starts: Floats
    had: Ints
    would_be: Floats


@dataclass(frozen=True, eq=False)
class TopUps:
    """share: of those just short, who top up. reach: from how far below, in what the threshold counts; None where the
    share may be none. falls: whether the share falls to nothing at the reach. orders, without: orders the sums rest
    on, of its days and of others."""

    share: Estimate
    reach: Estimate | None
    falls: bool
    orders: int
    without: int
    picture: Picture


@dataclass(frozen=True, eq=False)
class Bins:
    """width: in what the threshold counts. first: number of the first bin looked at, `at` of the one that begins at
    the threshold, of several the lowest; further: of those that begin at the others, rising."""

    width: float
    first: int
    at: int
    last: int
    further: tuple[int, ...] = ()

    def counts(self, values: Ints) -> Ints:
        """Values by bin, those outside left out."""
        number = np.floor(values / self.width + 1e-9).astype(np.int64) - self.first
        return np.bincount(number[(number >= 0) & (number < self.size)], minlength=self.size)

    @property
    def size(self) -> int:
        return self.last - self.first

    @property
    def top(self) -> int:
        """Where the window ends."""
        return max(int(np.ceil(self.at * WINDOW_TO)), self.at + 1) - self.first

    @property
    def starts(self) -> Floats:
        starts: Floats = (np.arange(self.first, self.last) * self.width).astype(np.float64)
        return starts

    @cached_property
    def gap(self) -> Floats:
        """How much the middle of each bin is short of the next threshold; below 0 above the last."""
        ends = np.array((self.at, *self.further))
        number = np.arange(self.first, self.last)
        following = ends[np.minimum(np.searchsorted(ends, number, side="right"), len(ends) - 1)]
        gaps: Floats = ((following - number - 0.5) * self.width).astype(np.float64)
        return gaps

    @cached_property
    def short(self) -> Bools:
        """Bins from which shoppers may top up, where other days show what would be there: of several thresholds
        from no further than the middle between two, for others pile up below that."""
        found, before = np.zeros(self.size, dtype=np.bool_), 0
        for end in (self.at, *self.further):
            found[max(int(end * FARTHEST), (before + end) // 2) - self.first : end - self.first] = True
            before = end
        return found

    @cached_property
    def untouched(self) -> Bools:
        """Bins above the threshold that tell how many orders came there; of several those where none pile up, and
        from which none go further."""
        found = np.arange(self.first, self.last) >= self.at
        if self.further:
            found &= ~self.short
            for end in (self.at, *self.further):
                found[end - self.first : max(int(end * PILES_UP), end + 1) - self.first] = False
        return found


def bins_of(threshold: int, whole: bool, further: Sequence[int] = ()) -> Bins:
    """whole: whether what is counted is few and whole, such as units: then each number is a bin of its own. further:
    thresholds above it, rising."""
    width = 1.0 if whole else threshold / BINS
    at, *others = (round(one / width) for one in (threshold, *further))
    last = int((others or [at])[-1] * TO) + (1 if whole else 0)
    return Bins(width, max(int(at * FROM), 1), at, last, tuple(others))


def top_ups(
    threshold: int,
    values: Ints,
    others: Ints,
    *,
    further: Sequence[int] = (),
    whole: bool = False,
    held: Callable[[np.random.Generator, int], Floats] | None = None,
) -> TopUps | None:
    """None where there are too few orders, or no course goes through them, which is so of several thresholds.

    threshold, values, others: in what it counts (minor units, units, …); values of orders while the threshold ran,
    others of those of other days. further: the thresholds above it, rising.

    held: draws of the share of shoppers it ran for, the likely one first; None for all.
    """
    bins = bins_of(threshold, whole, further)
    had, without = bins.counts(values), bins.counts(others)
    apart = int(without.sum()) >= FEWEST_ORDERS
    if int(had.sum()) < FEWEST_ORDERS or ((whole or further) and not apart):
        return None
    if not apart and int(had[bins.at - bins.first :].sum()) < FEWEST_ABOVE:
        return None
    smooth = None if apart else _Smooth(bins)
    dice = np.random.default_rng(SEED)
    try:
        likely = _fitted(bins, had, without, smooth)
        rough = np.zeros(len(had)) if smooth is None else smooth.rough(had, likely)
        samples = [
            _fitted(bins, _sample(dice, had, rough), _sample(dice, without) if apart else without, smooth)
            for _ in range(SAMPLES if apart else FEWER_SAMPLES)
        ]
    except NoCourseError:
        return None
    among = np.ones(len(samples) + 1) if held is None else held(dice, len(samples) + 1)
    share = between([one.share / by for one, by in zip(samples, among[1:], strict=True)], likely.share / among[0])
    reach = between([one.reach for one in samples], likely.reach) if share.low > 0 else None
    picture = Picture(bins.starts, had, likely.would_be)
    return TopUps(share, reach, likely.falls, int(had.sum()), int(without.sum()) if apart else 0, picture)


@dataclass(frozen=True, eq=False)
class _Fit:
    """lower: first bin of the window."""

    share: float
    reach: float
    falls: bool
    would_be: Floats
    lower: int


def _sample(dice: np.random.Generator, counts: Ints, rough: Floats | None = None) -> Ints:
    """Orders drawn again. rough: how much each bin may be off besides, as a standard deviation."""
    total = int(counts.sum())
    drawn = dice.multinomial(total, counts / total)
    if rough is None:
        return drawn
    result: Ints = np.maximum(np.rint(drawn + dice.normal(0, 1, len(drawn)) * rough), 0).astype(np.int64)
    return result


def _fitted(bins: Bins, had: Ints, without: Ints, smooth: "_Smooth | None") -> _Fit:
    """smooth: what draws the course through the counts; None where other days show it."""
    go_on()
    below = bins.at - bins.first
    if smooth is None:
        found, window = _scaled(had, without, bins), bins.short
        lower = int(np.argmax(window))
    else:
        lower, found = _agreeing(had, smooth, below, bins.top)
        window = np.zeros(bins.size, dtype=np.bool_)
        window[lower:below] = True
    missing = (found - had)[window] / np.maximum(found[window], 1e-9)
    share, reach, falls = _shape(bins.gap[window], bins.width, missing, found[window])
    return _Fit(share, reach, falls, found, lower)


def _agreeing(had: Ints, smooth: "_Smooth", below: int, top: int) -> tuple[int, Floats]:
    """The lower end of the window, where what is missing makes up for the excess, and what would be there."""
    widest, narrowest = below // 3, below - 1
    while narrowest - widest > 1:
        middle = (widest + narrowest) // 2
        change = had - smooth(had, slice(middle, top))
        if change[middle:top].sum() > 0:
            narrowest = middle  # not all that piled up is found missing yet
        else:
            widest = middle
    return widest, smooth(had, slice(widest, top))


def _scaled(had: Ints, without: Ints, bins: Bins) -> Floats:
    """Counts of other days, as many below the window as there are. Above the threshold as many as there are too: an
    offer that brings more orders brings them there."""
    below, under = bins.at - bins.first, np.zeros(bins.size, dtype=np.bool_)
    under[: int(np.argmax(bins.short))] = True
    scales = [had[part].sum() / max(int(without[part].sum()), 1) for part in (under, bins.untouched)]
    return np.concatenate((without[:below] * scales[0], without[below:] * scales[1]))


class _Smooth:
    """Counts follow a smooth course outside the window. Raises NoCourseError where none is found."""

    def __init__(self, bins: Bins) -> None:
        place = (np.arange(bins.first, bins.last) + 0.5) / bins.at - 1
        course = [place**power for power in range(DEGREE + 1)]
        self.columns = np.column_stack([*course, *_round(bins)])
        self.top = bins.top
        self.start: Floats | None = None

    def __call__(self, had: Ints, window: slice) -> Floats:
        kept = np.ones(len(had), dtype=np.bool_)
        kept[window] = False
        self.start = self._params(poisson(had[kept], self.columns[kept]))
        return np.exp(np.clip(self.columns @ self.start, -30, 30))

    def _params(self, model: Any) -> Floats:
        """Fitted from where the last one ended, from which it may run away: then afresh."""
        for start in (self.start, None):
            try:
                with np.errstate(all="ignore"):
                    found: Floats = model.fit(start_params=start).params
            except (ValueError, np.linalg.LinAlgError):
                continue
            if np.isfinite(found).all():
                return found
        raise NoCourseError

    def rough(self, had: Ints, fit: _Fit) -> Floats:
        """How far carts are from any smooth course, beyond chance: prices of their own make them pile up anywhere."""
        kept = np.ones(len(had), dtype=np.bool_)
        kept[fit.lower : self.top] = False
        expected = np.maximum(fit.would_be, 1e-9)
        blocks = np.arange(int(kept.sum())) // BLOCK
        off, of = (np.bincount(blocks, weights=one[kept]) for one in (had - expected, expected))
        spread = float((off**2 / of).sum() / max(len(of) - self.columns.shape[1] / BLOCK, 1))
        return np.sqrt(max(spread - 1, 0.0) * expected)


def _round(bins: Bins) -> list[Floats]:
    """Bins that hold the value just below a round one, where prices end: of every 5 and every 10 of the digit that
    some bins fit into."""
    digit = 10 ** int(np.ceil(np.log10(max(bins.width * 3 / 5, 1))))
    found = []
    for step, but in ((5 * digit, 10 * digit), (10 * digit, 0)):
        ends = np.arange(step, bins.last * bins.width + step, step)
        if but:
            ends = ends[ends % but != 0]
        number = np.floor((ends - bins.width * 0.05) / bins.width).astype(np.int64) - bins.first
        column = np.zeros(bins.size)
        column[number[(number >= 0) & (number < bins.size)]] = 1.0
        if column.any():
            found.append(column)
    return found


def _shape(gap: Floats, width: float, missing: Floats, weight: Floats) -> tuple[float, float, bool]:
    """The share missing right below the threshold, the reach, and whether it falls: what fits best, weighted."""
    reaches = np.linspace(2 * width, gap.max() + width / 2, REACHES) if gap.max() > 3 * width else gap + width / 2
    best = (np.inf, 0.0, float(reaches[0]), True)
    for falls in (True, False):
        shape = np.maximum(1 - gap / reaches[:, None], 0) if falls else (gap <= reaches[:, None]).astype(np.float64)
        power = (weight * shape**2).sum(axis=1)
        share = (weight * shape * missing).sum(axis=1) / np.maximum(power, 1e-9)
        left = (weight * (missing - share[:, None] * shape) ** 2).sum(axis=1)
        at = int(np.argmin(left))
        if left[at] < best[0] * (1 if falls else FLAT_BY):
            best = (float(left[at]), float(share[at]), float(reaches[at]), falls)
    return best[1:]


FLAT_BY = 0.8
"""A flat share has to leave so much less unexplained to be told from one that falls."""
