"""How many orders of a plan's window each offer reaches, and what keeps it from the rest.

docs/sums.md, "Why, and why not".
"""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import TypeVar

import numpy as np

from yellow_abacus.core.carts.blocks import each_block
from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.carts.spread import round_width
from yellow_abacus.core.forecast.chances import Drawn, held_and_left, open_sets
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.plan import Opened, Plan
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.priced import Priced
from yellow_abacus.core.pricing.pricing import Apply, price
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.reasons import MEASURES, NUMBER, REASONS, Measure, Reason
from yellow_abacus.core.pricing.rows import Rows, rows_of
from yellow_abacus.core.pricing.why import Why, why
from yellow_abacus.core.shop.shop import Shop

MOST_STATES = 16
"""So many of the likeliest sets of codes held are looked at on a day."""

State = TypeVar("State")

NEAR_SHARE = 8
"""A near miss is short by an eighth of what is needed, or less."""

_Told = tuple[tuple[int, "Cause"], float]


@dataclass(frozen=True)
class Cause:
    """A reason and how many orders it holds for.

    by: index of the offer that shut it out. of, needed: of what it was short, and how much is needed. close: it was
    missed by `near` or less, else by more.
    """

    reason: Reason
    by: int | None = None
    of: Measure | None = None
    needed: int | None = None
    near: int = 0
    close: bool = False


def reach(forecaster: Forecaster, plan: Plan, round_amount: int = 100) -> list[dict[Cause, float]]:
    """For each offer of the plan, in order, its causes and the orders of the window they hold for.

    round_amount: minor units; near misses of a spend are short by a number of those at most.
    """
    found: list[dict[Cause, float]] = [defaultdict(float) for _ in plan.offers]
    drawn = Drawn(plan, not_used_up=forecaster.not_used_up(plan))
    for period in forecaster.periods(plan):
        for opened, by_weekday in open_sets(plan, period.days, period.volume):
            offers = tuple(offer for _, offer in opened)
            orders, mix = period.source.weighed(period.mix, by_weekday)
            for at in set(range(len(plan.offers))).difference(at for at, _ in opened):
                found[at][Cause("out_of_dates")] += orders
            told = _found(forecaster.shop, mix.branched(offers), opened, drawn, plan.apply, round_amount)
            for (at, cause), share in told.items():
                found[at][cause] += share * orders
    return [_taken_or_not(one, drawn, at) for at, one in enumerate(found)]


def _taken_or_not(causes: dict[Cause, float], drawn: Drawn, at: int) -> dict[Cause, float]:
    """Orders an offer would apply to, by whether its shoppers take it."""
    takes, applied = drawn.of(at, "take_up_bp"), Cause("applied")
    if takes is None or applied not in causes:
        return dict(causes)
    orders, share = causes[applied], float(takes[0])
    return {**causes, applied: orders * share, Cause("not_taken"): orders * (1 - share)}


def near_miss(of: Measure, needed: int, round_amount: int) -> int:
    """By how much a near miss is short at most: an eighth, of a spend in round amounts, of a weight as a round
    figure; one unit or product.

    >>> near_miss("spend", 6_000, 100), near_miss("weight", 5_000, 100), near_miss("units", 6, 100)
    (800, 1000, 1)
    """
    if of == "spend":
        return max((2 * needed + NEAR_SHARE * round_amount) // (2 * NEAR_SHARE * round_amount), 1) * round_amount
    return round_width(needed / NEAR_SHARE) if of == "weight" else 1


def _found(
    shop: Shop, mix: Mix, opened: Opened, drawn: Drawn, apply: Apply, round_amount: int
) -> dict[tuple[int, Cause], float]:
    """The share of orders by offer and cause, block of carts by block."""
    shoppers = [_Shopper.of(opened, *one) for one in _likeliest(held_and_left(opened, drawn))]
    cohort = mix.groups.cohort[mix.groups.number_by_cart]

    def one_block(carts: slice, block: CartBatch) -> dict[tuple[int, Cause], float]:
        return _Block(
            shop, block, opened, apply, round_amount, shoppers, mix.share_by_cart[carts], cohort[carts]
        ).found()

    whole: dict[tuple[int, Cause], float] = defaultdict(float)
    for found in each_block(mix.batch, one_block):
        for key, orders in found.items():
            whole[key] += orders
    return whole


@dataclass(frozen=True, eq=False)
class _Shopper:
    """Shoppers alike in the codes they hold and in what they have not used up. holds, left: one entry an offer that
    is open. chance: one entry a cohort."""

    holds: Bools
    left: Bools
    chance: Floats

    @classmethod
    def of(cls, opened: Opened, codes_and_left: tuple[frozenset[str], frozenset[int]], chance: Floats) -> "_Shopper":
        codes, left = codes_and_left
        asked = [offer.asks_code for _, offer in opened]
        holds = np.array([one is None or one in codes for one in asked], dtype=np.bool_)
        return cls(holds, np.array([at in left for at, _ in opened], dtype=np.bool_), chance[0])

    @property
    def may(self) -> Bools:
        return self.holds & self.left


@dataclass(frozen=True, eq=False)
class _Part:
    """Some of the ways carts may go. reaches: one row an offer, one column a way. orders: by shopper and way, the
    share of all."""

    rows: Rows
    reaches: Bools
    orders: Sequence[Floats]


@dataclass(frozen=True, eq=False)
class _Block:
    """Some carts, and all the shoppers they may be of. share_by_cart: of all orders. cohort_by_cart: whose they are.

    Where no offer that some shoppers may use, and others not, reaches a cart, it comes to the same for all of them,
    and is priced once.
    """

    shop: Shop
    batch: CartBatch
    opened: Opened
    apply: Apply
    round_amount: int
    shoppers: Sequence[_Shopper]
    share_by_cart: Floats
    cohort_by_cart: Ints

    def found(self) -> dict[tuple[int, Cause], float]:
        found: dict[tuple[int, Cause], float] = defaultdict(float)
        reaches = reached(self._offers, self.shop, self.batch)
        ways = rows_of(self.shop, self.batch, self._offers, reaches)
        differ, some = (
            ways.of_carts(np.logical_or.reduce(one, axis=0)) for one in (reaches[self._differing], reaches)
        )
        for tell, here in ((self._apart, differ), (self._alike, some & ~differ), (self._untouched, ~some)):
            at = np.flatnonzero(here)
            if not len(at):
                continue
            rows, cart = ways.apart(None if len(at) == len(ways) else at), ways.cart_by_row[at]
            shares = self.share_by_cart[cart] * ways.share_by_row[at]
            orders = [shares * one.chance[self.cohort_by_cart[cart]] for one in self.shoppers]
            for key, many in tell(_Part(rows, reaches[:, cart], orders)):
                found[key] += many
            if rows is not ways:
                rows.batch.let_go()
        return found

    def _apart(self, part: _Part) -> Iterator[_Told]:
        every, priced = np.arange(len(self.opened)), dict[bytes, Priced]()
        for one, many in zip(self.shoppers, part.orders, strict=True):
            may = one.may.tobytes()
            priced[may] = priced[may] if may in priced else self._priced(part.rows, one.may)
            yield from self._told(part, priced[may], one, every, many)

    def _alike(self, part: _Part) -> Iterator[_Told]:
        """Rows that no offer reaches which some of the shoppers may not use."""
        any_may = np.logical_or.reduce([one.may for one in self.shoppers])
        return self._untouched(part, self._priced(part.rows, any_may))

    def _untouched(self, part: _Part, priced: Priced | None = None) -> Iterator[_Told]:
        """The same; priced: None where no offer reaches any of the rows."""
        others = np.setdiff1d(np.arange(len(self.opened)), self._differing)
        yield from self._told(part, priced, self.shoppers[0], others, np.sum(part.orders, axis=0))
        for one, many in zip(self.shoppers, part.orders, strict=True):
            yield from self._told(part, priced, one, self._differing, many)

    def _priced(self, rows: Rows, may: Bools) -> Priced:
        available = np.repeat(may[:, None], rows.batch.axes.carts, axis=1)
        return price(self.shop, rows, self._offers, self.apply, available, traced=True)

    def _told(
        self, part: _Part, priced: Priced | None, shopper: _Shopper, among: Ints, orders: Floats
    ) -> Iterator[_Told]:
        """The causes of some offers, by number among those open. orders: by row."""
        rows, some = part.rows, among.tolist()
        held = np.repeat(shopper.holds[:, None], rows.batch.axes.carts, axis=1)
        told = why(self.shop, rows, self._offers, priced, self.apply, held=held, among=some, reaches=part.reaches)
        there = [at for at, _ in self.opened]
        for number, reasons in zip(some, told, strict=True):
            if not shopper.left[number]:  # it would have applied, were it not used up
                reasons.reason[reasons.reason == NUMBER["shut_out"]] = NUMBER["used_up"]
            for cause, counted in _counted(self._offers[number], reasons, there, orders, self.round_amount):
                yield (there[number], cause), counted

    @cached_property
    def _offers(self) -> tuple[Offer, ...]:
        return tuple(offer for _, offer in self.opened)

    @cached_property
    def _differing(self) -> Ints:
        """The offers that some of the shoppers may use, and others not."""
        told = [np.concatenate((one.holds, one.left)) for one in self.shoppers]
        differs = np.any([one != told[0] for one in told], axis=0).reshape(2, len(self.opened))
        return np.flatnonzero(differs.any(axis=0))


def _likeliest(states: Iterable[tuple[State, Floats]]) -> list[tuple[State, Floats]]:
    """The likeliest few, standing for the others too."""
    likely = sorted(states, key=lambda state: -float(state[1].sum()))[:MOST_STATES]
    whole = np.sum([chance for _, chance in likely], axis=0)
    return [(state, chance / np.where(whole > 0, whole, 1.0)) for state, chance in likely]


def _counted(
    offer: Offer, told: Why, there: list[int], orders: Floats, round_amount: int
) -> list[tuple[Cause, float]]:
    """The causes of one offer in one state, and the share of orders each holds for. orders: by row."""
    found: list[tuple[Cause, float]] = []
    for number, carts in enumerate(np.bincount(told.reason, weights=orders, minlength=len(REASONS))):
        reason = REASONS[number]
        if not carts or reason in ("short", "shut_out"):
            continue
        found.append((Cause(reason), float(carts)))
    shut = told.reason == NUMBER["shut_out"]
    for other in np.unique(told.shut_out_by[shut]):
        carts = float(orders[shut & (told.shut_out_by == other)].sum())
        found.append((Cause("shut_out", by=there[int(other)] if other >= 0 else None), carts))
    short = told.reason == NUMBER["short"]
    for number, of in enumerate(MEASURES):
        here = short & (told.short_of == number)
        if here.any():
            needed = next((one.n for one in offer.earned.conditions if one.kind == of), None)
            near = near_miss(of, needed or NEAR_SHARE, round_amount)
            close = here & (told.short_by <= near)
            for is_close, some in ((True, close), (False, here & ~close)):
                if some.any():
                    found.append(
                        (Cause("short", of=of, needed=needed, near=near, close=is_close), float(orders[some].sum()))
                    )
    return found
