"""The mix to expect, as the merchant says it: which part of the history to go by, and what will be otherwise.

Volume and mix are apart: how many orders come on a day is for `volume`, and the carts of a weekday share them. To
weigh a segment up shifts shares, never volume. docs/sums.md, "The carts to expect".
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from datetime import date
from hashlib import blake2b
from typing import Literal

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.carts.sketch import Sketch, Usual, drawn
from yellow_abacus.core.clauses.when import MINUTES_A_DAY, WEEKDAYS
from yellow_abacus.core.clauses.whose import Whose
from yellow_abacus.core.forecast.groups import Groups
from yellow_abacus.core.forecast.known_types import KnownTypes
from yellow_abacus.core.forecast.mix import Mix, alike
from yellow_abacus.core.forecast.segments import Segment, carts_of
from yellow_abacus.core.forecast.sketched import Sketched
from yellow_abacus.core.forecast.volume import (
    LARGEST_FACTOR_BP,
    MONTHS,
    Counted,
    NamedDays,
    Volume,
    count_days,
    measured,
)
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.keeper import Keeper, size_of
from yellow_abacus.core.ground.money import WHOLE_BP, Bools, Floats, Ints
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.ground.shape import CLOSED
from yellow_abacus.core.pricing.by_time import EVENLY, Times
from yellow_abacus.core.shop.shop import Shop

Part = Literal["all", "last", "range", "year_ago"]
YEAR, AROUND = 52 * 7, 2 * 7
"""Days back to the same weeks a year ago, and how many more on either side are counted."""
MOST_OF_EACH = 40
"""Most days left out, named days or segments one mix may have."""
MOST_PERCENT = 1_000_000
OF_SOME_KEPT, SHARES_KEPT = 10_000_000, 100_000
"""Bytes of weights of some shoppers' carts, and of the shares their orders have."""
MOST_ORDERS_A_DAY = 1_000_000


@dataclass(frozen=True)
class LeftOut:
    """Days, both ends included, that are not counted, and why."""

    first_day: date
    last_day: date
    why: str = ""

    __pydantic_config__ = CLOSED

    def problems(self) -> Iterator[Problem]:
        if self.last_day < self.first_day:
            yield Problem(("last_day",), "The days left out end before they start.", "Choose a later last day.")


@dataclass(frozen=True)
class MixTerms:
    """counted: all of the history; the last `last_days`; from first_day to last_day; or the plan's weeks a year ago.

    weekday_bp, month_bp: what the merchant says days to come will be, in times an average day; empty for what was
    counted. growth_bp: more orders than then; growth_low_bp, growth_high_bp: its 5 and 95 % points, None where it
    has none. orders_a_day: of an average day, in place of what was counted; None for that. sketched: cart types by
    hand; the history has the share they leave.
    """

    counted: Part = "all"
    last_days: int = 90
    first_day: date | None = None
    last_day: date | None = None
    left_out: tuple[LeftOut, ...] = ()
    weekday_bp: tuple[int, ...] = ()
    month_bp: tuple[int, ...] = ()
    named: tuple[NamedDays, ...] = ()
    growth_bp: int = 0
    growth_low_bp: int | None = None
    growth_high_bp: int | None = None
    segments: tuple[Segment, ...] = ()
    orders_a_day: float | None = None
    sketched: tuple[Sketch, ...] = ()

    __pydantic_config__ = CLOSED

    def problems(self) -> Iterator[Problem]:
        if self.counted == "last" and self.last_days < 1:
            yield Problem(("last_days",), "No days are counted.", "Count 1 day or more.")
        if self.counted == "range":
            if self.first_day is None or self.last_day is None:
                yield Problem(("first_day",), "The days to go by have one end only.", "Choose both.")
            elif self.last_day < self.first_day:
                yield Problem(("last_day",), "The days to go by end before they start.", "Choose a later last day.")
        for name, told, size in (("weekday_bp", self.weekday_bp, WEEKDAYS), ("month_bp", self.month_bp, MONTHS)):
            if told and (len(told) != size or min(told) < 0 or max(told) > LARGEST_FACTOR_BP or not any(told)):
                yield Problem(
                    (name,), f"This is not a profile of {size}.", f"Give {size} figures, not all of them 0."
                )
        if not -WHOLE_BP <= self.growth_bp <= MOST_PERCENT:
            yield Problem(("growth_bp",), "No shop grows so.", "Choose from −100 % to 10,000 %.")
        low, high = self.growth_low_bp, self.growth_high_bp
        if low is not None and high is not None and not -WHOLE_BP < low <= self.growth_bp <= high <= MOST_PERCENT:
            message = "The growth is not between its low and its high."
            yield Problem(("growth_low_bp",), message, "Let low, likely and high rise.")
        if self.orders_a_day is not None and not 0 <= self.orders_a_day <= MOST_ORDERS_A_DAY:
            mend = f"Choose from 0 to {MOST_ORDERS_A_DAY:,}."
            yield Problem(("orders_a_day",), "No shop has so many orders a day.", mend)
        yield from self._of_entries()

    def _of_entries(self) -> Iterator[Problem]:
        names = [folded(one.name) for one in self.sketched]
        for number, name in enumerate(names):
            if name in names[:number]:
                message = f"Two cart types are named “{self.sketched[number].name}”."
                yield Problem(("sketched", number, "name"), message, "Give each a name of its own.")
        for field_name in ("left_out", "named", "segments", "sketched"):
            if len(getattr(self, field_name)) > MOST_OF_EACH:
                yield Problem((field_name,), "That is too many to keep apart.", f"Keep {MOST_OF_EACH} at most.")
            for number, one in enumerate(getattr(self, field_name)):
                for problem in one.problems():
                    yield problem.inside(field_name, number)


@dataclass(frozen=True, eq=False)
class History:
    """Carts of the past and the day of each, as an ordinal. currency: the shop's own. known: types of carts, None
    where none were found yet. whole: the history these carts stand for, None where they are all of it."""

    shop: Shop
    batch: CartBatch
    day_by_cart: Ints
    currency: str = ""
    known: KnownTypes | None = None
    whole: "History | None" = None

    def sample(self, carts: Ints) -> "History":
        """Some of the carts, by rising index, to stand for all of them."""
        batch = self.batch.remade(carts, self.batch.goods)
        return replace(self, batch=batch, day_by_cart=self.day_by_cart[carts], whole=self)

    @cached_property
    def mix(self) -> Mix:
        """Every cart as likely as any other."""
        return alike(self.shop, self.batch, None if self.known is None else self.known.sort)

    @cached_property
    def by_minute(self) -> Floats:
        """The minutes of the day at which orders came, as in `Times`; evenly where none are known."""
        minute = self.batch.facts.minute_by_cart
        known = minute[minute != UNKNOWN]
        if not len(known):
            return EVENLY.by_minute
        return np.bincount(known, minlength=MINUTES_A_DAY) / len(known)

    @cached_property
    def usual(self) -> Usual:
        """What orders are like. Where there are none, all are first orders, and go to the shop's first zone."""
        zones, before = max(len(self.shop.zones), 1), self.batch.facts.orders_before_by_cart
        skus, carts = len(self.batch.goods.skus), self.batch.axes.carts
        units: Floats = np.zeros(skus)
        np.add.at(units, self.batch.sku_by_line, self.batch.quantity_by_line)
        if not carts:
            return Usual(units, np.eye(zones)[0], 1.0, self.currency)
        known = before[before != UNKNOWN]
        first = float((known == 0).mean()) if len(known) else None
        to_zone = np.bincount(self.batch.zone_by_cart, minlength=zones) / carts
        return Usual(units, to_zone, first, self.currency)

    def within_uses(self, uses: int, days: int) -> tuple[float, float]:
        """Of the orders of so many days, those that are their shopper's first `uses` in them; of first orders, which
        all are, and of others.

        Wherever the days begin, alike: an order is among the first where they begin after the one so many before it.
        Orders of nobody known are held back by nothing.
        """
        if self.whole is not None:
            return self.whole.within_uses(uses, days)
        key = (uses, days)
        if key not in self._within:
            self._within[key] = self._within_uses(uses, days)
        return 1.0, self._within[key]

    def _within_uses(self, uses: int, days: int) -> float:
        facts = self.batch.facts
        shopper = facts.shopper.number_by_cart
        known = np.flatnonzero(shopper != UNKNOWN)
        order = known[np.lexsort((self.day_by_cart[known], shopper[known]))]
        day, who = self.day_by_cart[order], shopper[order]
        since = np.full(len(order), np.inf)
        since[uses:] = np.where(who[uses:] == who[:-uses], day[uses:] - day[:-uses], np.inf)
        by_cart = np.ones(len(shopper))
        by_cart[order] = np.minimum(since, days) / days
        others = facts.orders_before_by_cart != 0
        return float(by_cart[others].mean()) if others.any() else 1.0

    @cached_property
    def _within(self) -> dict[tuple[int, int], float]:
        return {}

    def sketched(self, sketches: tuple[Sketch, ...]) -> Sketched:
        """Sketches as carts, which have no problems in the shop."""
        found = drawn(sketches, self.batch.goods, self.shop.zone_names, self.usual)
        return Sketched(self.shop, sketches, found, self.by_minute)


@dataclass(frozen=True, eq=False)
class Source:
    """Carts some of the orders are of. come: the sketches they are of, by number; None for the history.

    mix: the carts. share: of all orders.
    """

    expected: "Expected"
    mix: Mix
    share: float
    come: tuple[int, ...] | None

    @cached_property
    def key(self) -> tuple[object, ...]:
        """What tells how days weigh its carts."""
        expected = self.expected
        return (self.come, expected.share_by_weekday.tobytes(), expected.counted.tells_weekdays)

    def only(self, whose: Whose) -> "Source":
        """The same, of the carts of some shoppers alone; how many of the orders are theirs is for `share_of`."""
        return replace(self, expected=self.expected.only(whose))

    def share_of(self, whose: Whose) -> float:
        """Of its orders, the share that is by some shoppers."""
        return float(self.by_cart[carts_of(whose, self.mix)].sum())

    @property
    def by_cart(self) -> Floats:
        """How likely an order is each of the carts, whatever the day."""
        if self.come is None or self.expected.sketched is None:
            return self.expected.share_by_cart
        return self.expected.sketched.by_cart(self.come)

    def grouped(self, mix: Mix) -> Mix:
        """The source's carts as likely as they are whatever the day; how days weigh them is for `spreading`.

        mix: as in `weighed`.
        """
        if self.come is None or self.expected.sketched is None:
            return self.expected.grouped(mix)
        return self.expected.sketched.weighed(mix, self.come, EVERY_DAY)

    def spreading(self, groups: Groups) -> Floats:
        """How the orders of each weekday fall on groups of the source's carts: as in `Groups.spreading`."""
        if self.come is None or self.expected.sketched is None:
            return groups.spreading(self.expected.share_by_weekday, self.expected.counted.tells_weekdays)
        return groups.spreading(np.zeros(WEEKDAYS), told_apart=False)

    def weighed(self, mix: Mix, by_weekday: Floats) -> tuple[float, Mix]:
        """How many orders there are, of so many a weekday, and what one of them is like.

        mix: the source's carts, at the prices of those days.
        """
        orders = float(by_weekday.sum())
        shares = np.round(by_weekday / orders, SAME_TO) if orders else np.full(WEEKDAYS, 1 / WEEKDAYS)
        if self.come is None or self.expected.sketched is None:
            return orders, self.expected.weighed(mix, shares)
        return orders, self.expected.sketched.weighed(mix, self.come, shares)


@dataclass(frozen=True, eq=False)
class Expected:
    """What a mix's terms come to over a history.

    weight_by_cart: 0 for carts that are not counted. counted: the days gone by. sketched: None where nothing is.
    """

    history: History
    volume: Volume
    weight_by_cart: Floats
    counted: Counted
    terms: MixTerms
    sketched: Sketched | None = None

    def sample(self, carts: Ints) -> "Expected":
        """As many orders on as many days, of some of the history's carts alone."""
        return replace(self, history=self.history.sample(carts), weight_by_cart=self.weight_by_cart[carts])

    @property
    def orders(self) -> int:
        """Orders of the history gone by."""
        return int(self.counted.orders.sum())

    @property
    def has_carts(self) -> bool:
        """Whether any cart is left to go by."""
        return self.has_history or self.sketched is not None

    @property
    def orders_between(self) -> tuple[float, float] | None:
        """The 5 and 95 % points of how many orders come, in times the likely; None where that has no range."""
        low, high, likely = self.terms.growth_low_bp, self.terms.growth_high_bp, WHOLE_BP + self.terms.growth_bp
        if low is None or high is None or low == high or not likely:
            return None
        return (WHOLE_BP + low) / likely, (WHOLE_BP + high) / likely

    @cached_property
    def has_history(self) -> bool:
        return bool(self.weight_by_cart.any())

    def sources(self, day: date) -> tuple[Source, ...]:
        """What the orders of a day are of: the history, sketches, or both."""
        come = tuple(at for at, one in enumerate(self.terms.sketched) if one.share_bp and one.comes_on(day))
        found = self._sources.get(come)
        if found is None:
            found = self._sources[come] = tuple(self._of(come))
        return found

    @cached_property
    def _sources(self) -> dict[tuple[int, ...], tuple[Source, ...]]:
        return {}

    def let_go(self) -> None:
        """Forget its sources, which name it in turn."""
        self._sources.clear()

    def _of(self, come: tuple[int, ...]) -> Iterator[Source]:
        by_hand = 0.0
        if self.sketched is not None and come:
            by_hand = self.sketched.share_of_all(come) if self.has_history else 1.0
            yield Source(self, self.sketched.mix, by_hand, come)
        if self.has_history and by_hand < 1:
            yield Source(self, self.history.mix, 1 - by_hand, None)

    def only(self, whose: Whose) -> "Expected":
        """The same, of the carts of some shoppers alone. How many orders there are is not told any more."""

        def make() -> Expected:
            return replace(self, weight_by_cart=self.weight_by_cart * carts_of(whose, self.history.mix))

        return self._of_some.get(whose, make)

    @cached_property
    def _of_some(self) -> Keeper:
        return Keeper(OF_SOME_KEPT, weigh=lambda one: size_of(one.weight_by_cart))

    def shares_of(self, whose: Whose, day: date) -> dict[tuple[int, ...] | None, float]:
        """Of a day's orders by some shoppers, the share that is of each source, told by the sketches it is of; 0 for
        all where no order is theirs."""
        sources = self.sources(day)

        def find() -> dict[tuple[int, ...] | None, float]:
            theirs = [one.share * one.share_of(whose) for one in sources]
            return {one.come: each / (sum(theirs) or 1.0) for one, each in zip(sources, theirs, strict=True)}

        return self._shares_kept.get((whose, sources), find)

    @cached_property
    def _shares_kept(self) -> Keeper:
        return Keeper(SHARES_KEPT)

    def has_any(self, whose: Whose, days: Iterable[date]) -> bool:
        """Whether any order of some days is by such shoppers."""
        return any(any(self.shares_of(whose, day).values()) for day in days)

    def over_days(self, day: date, days: int) -> list[tuple[Mix, Floats]]:
        """The carts orders of a day are of, at the prices of no day, and how many of each come in so many average
        days."""
        counted = self.orders / max(len(self.counted.days), 1)
        a_day = counted if self.terms.orders_a_day is None else self.terms.orders_a_day
        orders = a_day * (1 + self.volume.growth) * days
        found = []
        for source in self.sources(day):
            found.append((source.mix, orders * source.share * source.by_cart))
        return found

    def grouped(self, mix: Mix) -> Mix:
        """mix: the history's carts at the prices of some days."""
        times = Times(EVERY_DAY, self.history.by_minute)
        return mix.weighed(b"whole" + self._weights, lambda: self.share_by_cart, times)

    @property
    def share_by_cart(self) -> Floats:
        """How likely an order is each of the carts, whatever the day."""
        result: Floats = self.weight_by_cart / (self.weight_by_cart.sum() or 1)
        return result

    @cached_property
    def share_by_weekday(self) -> Floats:
        """Of all the history's carts, those that came on each weekday."""
        weekday = self.history.batch.facts.weekday_by_cart
        known = weekday != UNKNOWN
        return summed_by(weekday[known], self.share_by_cart[known], WEEKDAYS)

    def weighed(self, mix: Mix, shares: Floats) -> Mix:
        """mix: the history's carts at the prices of some days. shares: of orders by weekday."""
        times = Times(shares, self.history.by_minute)
        return mix.weighed(shares.tobytes() + self._weights, lambda: self._by_cart(shares), times)

    @cached_property
    def _weights(self) -> bytes:
        return blake2b(self.weight_by_cart.tobytes(), digest_size=16).digest()

    def _by_cart(self, shares: Floats) -> Floats:
        """How likely an order is each of the carts, where it comes on each weekday with these shares.

        Carts share the orders of their weekday. Those of no known weekday come on any; a weekday that has none takes
        them from all others. Where weekdays are not told apart, all carts share all orders.
        """
        groups = self.history.mix.groups
        of_group = shares @ groups.spreading(self.share_by_weekday, self.counted.tells_weekdays)
        result: Floats = self.share_by_cart * of_group[groups.number_by_cart]
        return result


EVERY_DAY = np.ones(WEEKDAYS)
"""The shares of weekdays where it is told apart how they weigh carts."""
SAME_TO = 12
"""Shares of weekdays alike to so many decimals are the same."""


def expect(history: History, terms: MixTerms | None = None, window: tuple[date, date] | None = None) -> Expected:
    """What the terms come to. window: the plan's first and last day, for which the same weeks are meant."""
    terms = MixTerms() if terms is None else terms
    left_out = [(one.first_day, one.last_day) for one in terms.left_out]
    counted = count_days(history.day_by_cart, left_out)
    here = _gone_by(terms, counted.days, window)
    counted = Counted(counted.days[here], counted.orders[here])
    volume = measured(
        counted, terms.named, _times(terms.weekday_bp), _times(terms.month_bp), terms.growth_bp / WHOLE_BP
    )
    if terms.orders_a_day is not None:
        volume = replace(volume, base=terms.orders_a_day)
    weight = np.isin(history.day_by_cart, counted.days).astype(np.float64)
    for segment in terms.segments:
        weight[carts_of(segment, history.mix)] *= segment.times_bp / WHOLE_BP
    sketched = history.sketched(terms.sketched) if any(one.share_bp for one in terms.sketched) else None
    return Expected(history, volume, weight, counted, terms, sketched)


def _gone_by(terms: MixTerms, days: Ints, window: tuple[date, date] | None) -> Bools:
    """Which of the counted days to go by."""
    here: Bools = np.ones(len(days), dtype=np.bool_)
    if not len(days):
        return here
    match terms.counted:
        case "last":
            here = days > days[-1] - terms.last_days
        case "range" if terms.first_day is not None and terms.last_day is not None:
            here = (days >= terms.first_day.toordinal()) & (days <= terms.last_day.toordinal())
        case "year_ago" if window is not None:
            first, last = (day.toordinal() - YEAR for day in window)
            here = (days >= first - AROUND) & (days <= last + AROUND)
    return here


def _times(profile_bp: tuple[int, ...]) -> tuple[float, ...]:
    return tuple(one / WHOLE_BP for one in profile_bp)
