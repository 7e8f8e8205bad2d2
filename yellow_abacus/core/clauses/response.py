"""How shoppers respond to an offer, as the merchant says it; nothing is made up where nothing was said.

Each figure has a likely value, and may have a low and a high one beside it (`ranges`): of a hundred outcomes five lie
below the low and five above the high. docs/sums.md, "Response".

>>> Response(extra_bp=1_500).extra
(0.15, 0.15)
>>> Response(uptake_bp=3_000, uptake_first_bp=500).uptake
(0.05, 0.3)
"""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np

from yellow_abacus.core.clauses.whose import Whose
from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.money import LARGEST_CART, WHOLE_BP, Floats
from yellow_abacus.core.ground.problem import Path, Problem, amount_between, rate_between
from yellow_abacus.core.ground.shape import CLOSED

MOST_EXTRA_BP = 50_000
MOST_SENT, MOST_SEND_DAYS = 10_000_000, 60
MOST_TWICE = 2.0
"""Where an offer gives more than when its figures were set, they rise to so many times what was set."""

Ranging = Literal[
    "uptake_bp",
    "uptake_first_bp",
    "take_up_bp",
    "top_up_bp",
    "extra_bp",
    "extra_first_bp",
    "borrowed_bp",
    "send_response_bp",
    "shift_bp",
    "switched_bp",
]
"""Figures that may have a range."""

MOST: dict[Ranging, int] = {
    "uptake_bp": WHOLE_BP,
    "uptake_first_bp": WHOLE_BP,
    "take_up_bp": WHOLE_BP,
    "top_up_bp": WHOLE_BP,
    "extra_bp": MOST_EXTRA_BP,
    "extra_first_bp": MOST_EXTRA_BP,
    "borrowed_bp": WHOLE_BP,
    "send_response_bp": WHOLE_BP,
    "shift_bp": WHOLE_BP,
    "switched_bp": WHOLE_BP,
}
"""The bounds of each, from 0."""

Following = Literal["top_up_bp", "extra_bp", "extra_first_bp"]
"""Figures that follow what the offer gives."""
MOST_ALSO = 2
"""Besides the depth it was said at, a figure may be said at so many more."""

NAMES: dict[Ranging, str] = {
    "uptake_bp": "The share of shoppers",
    "uptake_first_bp": "The share of first-time shoppers",
    "take_up_bp": "The share who take it",
    "top_up_bp": "The share who top up",
    "extra_bp": "The share of extra orders",
    "extra_first_bp": "The share of extra first orders",
    "borrowed_bp": "The share that only came sooner",
    "send_response_bp": "The share who answer",
    "shift_bp": "The share who go by another option",
    "switched_bp": "The share bought in place of other goods",
}


@dataclass(frozen=True)
class Ranged:
    """The 5 and 95 % points of a figure."""

    of: Ranging
    low: int
    high: int

    __pydantic_config__ = CLOSED


@dataclass(frozen=True)
class AlsoAt:
    """What a figure is where the offer gives away another share of goods than when it was said."""

    of: Following
    depth_bp: int
    value_bp: int

    __pydantic_config__ = CLOSED

    def problems(self) -> Iterator[Problem]:
        yield from rate_between("depth_bp", "What it gives away", self.depth_bp, 1, WHOLE_BP)
        yield from rate_between("value_bp", NAMES[self.of], self.value_bp, 0, MOST[self.of])


@dataclass(frozen=True)
class Sends:
    """A message with the code to `size` shoppers, of whom `response_bp` order, evenly over the `days` from then on.

    anyway_bp: of those who order, who would have come all the same. to: first-time shoppers, returning ones, or any.
    among: of those, some alone, whose carts are what it brings; None for all. cost: minor units a message. daily: so
    many are sent on each day the offer is open, not on the first alone.

    >>> Sends(size=100, response_bp=500, days=2, daily=True).coming(3).tolist()
    [0.5, 1.0, 1.5]
    """

    size: int
    response_bp: int
    anyway_bp: int = 0
    cost: int = 0
    days: int = 3
    to: Literal["any", "first", "returning"] = "returning"
    daily: bool = False
    among: Whose | None = None

    __pydantic_config__ = CLOSED

    def sent(self, days: int) -> int:
        """How many messages, of an offer that is open for so many days."""
        return self.size * (days if self.daily else 1)

    def paid(self, days: int) -> int:
        """What all the messages cost, minor units."""
        return self.sent(days) * self.cost

    def coming(self, days: int) -> Floats:
        """On each of the days it is open, how many of those who answer come, in times those of one day's messages.

        All of them come while it is open.
        """
        return _coming(self.days, days, days if self.daily else 1)

    def problems(self) -> Iterator[Problem]:
        yield from amount_between("size", "The number of messages", self.size, least=1, most=MOST_SENT)
        yield from rate_between("response_bp", NAMES["send_response_bp"], self.response_bp, 0, WHOLE_BP)
        yield from rate_between("anyway_bp", "The share who come anyway", self.anyway_bp, 0, WHOLE_BP)
        yield from amount_between("cost", "What a message costs", self.cost, least=0)
        yield from amount_between("days", "The days over which they come", self.days, least=1, most=MOST_SEND_DAYS)
        if self.among is not None:
            yield from (problem.inside("among") for problem in self.among.problems())


@lru_cache(maxsize=64)
def _coming(over: int, days: int, sendings: int) -> Floats:
    """As `Sends.coming`. over: days over which those come who answer; sendings: on so many of the first days."""
    found = np.zeros(days)
    for day in range(sendings):
        here = min(over, days - day)
        found[day : day + here] += 1 / here
    return found


@dataclass(frozen=True)
class Response:
    """How shoppers are expected to respond, in basis points; None where the merchant has not said.

    uptake_bp: share of shoppers who hold the code; everybody while it is not said. take_up_bp: share who take a
    reward they have to add themselves; while it is not said, whoever holds it has it. top_up_bp: share of orders that
    are short by little, at most `top_up_reach` of what is asked for, and add what is missing, falling to none at the
    reach or alike up to it; `top_up_skus` is what they add, empty for the best sellers. extra_bp: extra orders, as a
    share of the orders the offer reaches; none while it is not said. borrowed_bp: of those, the share that only came
    sooner. The `_first_` ones are of first orders, where they differ.

    shift_bp: of shoppers who would have it delivered by an option that still asks something, the share who go by one
    whose charge the offer lowers to nothing; none while it is not said. switched_bp: of the goods in scope that extra
    orders hold, the share bought in place of others: those of `switched_of` that are not in scope; none while it is
    not said.

    extra_cost: minor units to win an extra order. partner_bp: of goods, net of tax, to whoever brought an order that
    used the code. fixed_cost: minor units, once. later: minor units that a first-time shopper won keeps later; told
    apart. depth_bp: what the offer gave away, as a share of goods, when top-ups and extra orders were said: they
    follow it from then on; None where they stay. also_at: what they are at other depths, joined by lines. shown: who
    is told of the code, unless it is sent (`sends`); it tells codes alike from others where history is asked.
    """

    uptake_bp: int | None = None
    uptake_first_bp: int | None = None
    take_up_bp: int | None = None
    top_up_bp: int | None = None
    top_up_reach: int = 0
    top_up_falls: bool = True
    top_up_skus: tuple[str, ...] = ()
    extra_bp: int | None = None
    extra_first_bp: int | None = None
    borrowed_bp: int | None = None
    extra_cost: int = 0
    partner_bp: int = 0
    fixed_cost: int = 0
    later: int = 0
    sends: Sends | None = None
    depth_bp: int | None = None
    shift_bp: int | None = None
    switched_bp: int | None = None
    switched_of: Scope = EVERYTHING
    ranges: tuple[Ranged, ...] = ()
    also_at: tuple[AlsoAt, ...] = ()
    shown: Literal["", "to_few", "to_all"] = ""

    __pydantic_config__ = CLOSED

    def times_at(self, figure: Following, depth: float) -> float:
        """How many times what was said a figure is where the offer gives away such a share of goods.

        In proportion, to twice what was said at most; or along the lines that join what was said at several depths,
        from none where nothing is given, and as at the last one beyond it.

        >>> Response(extra_bp=1_000, depth_bp=1_000).times_at("extra_bp", 0.05)
        0.5
        >>> also = (AlsoAt("extra_bp", 2_000, 1_200),)
        >>> Response(extra_bp=1_000, depth_bp=1_000, also_at=also).times_at("extra_bp", 0.15)
        1.1
        """
        said, at = self.likely(figure), depth * WHOLE_BP
        if not self.depth_bp:
            return 1.0
        also = [(one.depth_bp, one.value_bp) for one in self.also_at if one.of == figure]
        if not also or not said:
            return min(at / self.depth_bp, MOST_TWICE)
        depths, values = zip(*sorted([(0, 0), (self.depth_bp, said), *also]), strict=True)
        return float(np.interp(at, depths, values)) / said

    @property
    def uptake(self) -> tuple[float, float]:
        """Of first orders, and of others, 1.0 for all."""
        return _by_cohort(self.uptake_bp, self.uptake_first_bp, 1.0)

    @property
    def extra(self) -> tuple[float, float]:
        """Of first orders, and of others."""
        return _by_cohort(self.extra_bp, self.extra_first_bp, 0.0)

    def paid(self, days: int) -> int:
        """What the offer costs however many use it, minor units: once, and for messages. days: it is open for."""
        return self.fixed_cost + (0 if self.sends is None else self.sends.paid(days))

    def likely(self, figure: Ranging) -> int | None:
        """The likely value of a figure."""
        if figure == "send_response_bp":
            return None if self.sends is None else self.sends.response_bp
        told: int | None = getattr(self, figure)
        return told

    def range_of(self, figure: Ranging) -> tuple[int, int] | None:
        """The low and the high value of a figure, None where it has but one."""
        found = next((one for one in self.ranges if one.of == figure), None)
        return None if found is None or self.likely(figure) is None else (found.low, found.high)

    def problems(self) -> Iterator[Problem]:
        for figure, most in MOST.items():
            told = self.likely(figure)
            if told is not None and figure != "send_response_bp":
                yield from rate_between(figure, NAMES[figure], told, 0, most)
        yield from amount_between("top_up_reach", "How far they top up from", self.top_up_reach, least=0)
        if self.top_up_bp is not None and not self.top_up_reach:
            mend = "Say from how far, at most, they add what is missing."
            yield Problem(("top_up_reach",), "Nobody is near enough to top up.", mend)
        for name, what in (
            ("extra_cost", "What an extra order costs to win"),
            ("fixed_cost", "What it costs once"),
            ("later", "What a new shopper keeps later"),
        ):
            yield from amount_between(name, what, getattr(self, name), least=0, most=LARGEST_CART)
        yield from rate_between("partner_bp", "The partner's share", self.partner_bp, 0, WHOLE_BP)
        if self.depth_bp is not None:
            yield from rate_between("depth_bp", "The depth they were said at", self.depth_bp, 0, WHOLE_BP)
        if self.sends is not None:
            yield from (problem.inside("sends") for problem in self.sends.problems())
        yield from self._of_ranges()
        yield from self._of_depths()

    def _of_depths(self) -> Iterator[Problem]:
        for number, one in enumerate(self.also_at):
            path: Path = ("also_at", number)
            yield from (problem.inside(*path) for problem in one.problems())
            before = [other.depth_bp for other in self.also_at[:number] if other.of == one.of]
            if not self.likely(one.of) or not self.depth_bp:
                mend = "Say it first, at what the offer gives away now."
                yield Problem(path, f"{NAMES[one.of]} is not said at any other depth.", mend)
            elif one.depth_bp in (self.depth_bp, *before):
                message = f"{NAMES[one.of]} is said twice of an offer that gives away as much."
                yield Problem(path, message, "Keep one.")
            elif len(before) >= MOST_ALSO:
                yield Problem(path, f"{NAMES[one.of]} is said at too many depths.", f"Keep {MOST_ALSO + 1} at most.")

    def _of_ranges(self) -> Iterator[Problem]:
        seen: set[str] = set()
        for number, one in enumerate(self.ranges):
            path: Path = ("ranges", number)
            if one.of in seen:
                yield Problem(path, f"{NAMES[one.of]} has two ranges.", "Keep one.")
            seen.add(one.of)
            likely = self.likely(one.of)
            if likely is not None and not 0 <= one.low <= likely <= one.high <= MOST[one.of]:
                message = f"{NAMES[one.of]} is not between its low and its high."
                yield Problem(path, message, "Let low, likely and high rise, within its bounds.")


def _by_cohort(told: int | None, first: int | None, unsaid: float) -> tuple[float, float]:
    others = unsaid if told is None else told / WHOLE_BP
    return (others if first is None else first / WHOLE_BP, others)
