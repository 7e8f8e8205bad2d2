"""How many orders of a plan's window each offer reaches, and what keeps it from the rest.

docs/sums.md, "Why, and why not".
"""

from collections import defaultdict
from collections.abc import Iterable
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
from yellow_abacus.core.ground.money import Floats
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.pricing import Apply, price
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.reasons import MEASURES, NUMBER, REASONS, Measure, Reason
from yellow_abacus.core.pricing.rows import rows_of
from yellow_abacus.core.pricing.why import Why, why
from yellow_abacus.core.shop.shop import Shop

MOST_STATES = 16
"""So many of the likeliest sets of codes held are looked at on a day."""

State = TypeVar("State")

NEAR_SHARE = 8
"""A near miss is short by less than an eighth of what is needed, made a round figure."""


@dataclass(frozen=True)
class Cause:
    """A reason and how many orders it holds for.

    by: index of the offer that shut it out. of, needed: of what it was short, and how much is needed. close: it was
    missed by less than `near`, else by so much or more.
    """

    reason: Reason
    by: int | None = None
    of: Measure | None = None
    needed: int | None = None
    near: int = 0
    close: bool = False


def reach(forecaster: Forecaster, plan: Plan) -> list[dict[Cause, float]]:
    """For each offer of the plan, in order, its causes and the orders of the window they hold for."""
    found: list[dict[Cause, float]] = [defaultdict(float) for _ in plan.offers]
    drawn = Drawn(plan, not_used_up=forecaster.not_used_up(plan))
    for period in forecaster.periods(plan):
        for opened, by_weekday in open_sets(plan, period.days, period.volume):
            offers = tuple(offer for _, offer in opened)
            orders, mix = period.source.weighed(period.mix, by_weekday)
            for at in set(range(len(plan.offers))).difference(at for at, _ in opened):
                found[at][Cause("out_of_dates")] += orders
            told = _found(forecaster.shop, mix.branched(offers), opened, drawn, plan.apply)
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


def _found(shop: Shop, mix: Mix, opened: Opened, drawn: Drawn, apply: Apply) -> dict[tuple[int, Cause], float]:
    """The share of orders by offer and cause, block of carts by block."""
    there, offers = [at for at, _ in opened], tuple(offer for _, offer in opened)
    states = _likeliest(held_and_left(opened, drawn))
    cohort = mix.groups.cohort[mix.groups.number_by_cart]

    def one_block(carts: slice, block: CartBatch) -> dict[tuple[int, Cause], float]:
        found: dict[tuple[int, Cause], float] = defaultdict(float)
        ways = rows_of(shop, block, offers, reached(offers, shop, block))
        rows = ways.apart()
        shares = mix.share_by_cart[carts][ways.cart_by_row] * ways.share_by_row
        for (codes, left), chance in states:
            orders = shares * chance[0, cohort[carts]][ways.cart_by_row]
            holds = np.array([one.asks_code is None or one.asks_code in codes for one in offers], dtype=np.bool_)
            may = holds & np.array([at in left for at in there], dtype=np.bool_)
            held = np.repeat(holds[:, None], block.axes.carts, axis=1)
            priced = price(
                shop,
                rows,
                offers,
                apply,
                ways.of_carts(np.repeat(may[:, None], block.axes.carts, axis=1)),
                traced=True,
            )
            told = why(shop, rows, offers, priced, apply, held=ways.of_carts(held))
            for at, offer, reasons in zip(there, offers, told, strict=True):
                if at not in left:  # it would have applied, were it not used up
                    reasons.reason[reasons.reason == NUMBER["shut_out"]] = NUMBER["used_up"]
                for cause, counted in _counted(offer, reasons, there, orders):
                    found[at, cause] += counted
        if rows is not ways:
            rows.batch.let_go()
        return found

    whole: dict[tuple[int, Cause], float] = defaultdict(float)
    for found in each_block(mix.batch, one_block):
        for key, orders in found.items():
            whole[key] += orders
    return whole


def _likeliest(states: Iterable[tuple[State, Floats]]) -> list[tuple[State, Floats]]:
    """The likeliest few, standing for the others too."""
    likely = sorted(states, key=lambda state: -float(state[1].sum()))[:MOST_STATES]
    whole = np.sum([chance for _, chance in likely], axis=0)
    return [(state, chance / np.where(whole > 0, whole, 1.0)) for state, chance in likely]


def _counted(offer: Offer, told: Why, there: list[int], orders: Floats) -> list[tuple[Cause, float]]:
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
            near = round_width((needed or NEAR_SHARE) / NEAR_SHARE)
            near = 2 if of in ("units", "products") else near
            close = here & (told.short_by < near)
            for is_close, some in ((True, close), (False, here & ~close)):
                if some.any():
                    found.append(
                        (Cause("short", of=of, needed=needed, near=near, close=is_close), float(orders[some].sum()))
                    )
    return found
