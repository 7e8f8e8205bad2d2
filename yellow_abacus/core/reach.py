"""How many orders of a plan's window each offer reaches, and what keeps it from the rest.

docs/sums.md, "Why, and why not".
"""

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, replace
from itertools import product
from typing import TypeVar

import numpy as np

from yellow_abacus.core.branches import Branch, branches
from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.forecast import Forecaster
from yellow_abacus.core.money import Bools, Floats
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.plan import Plan
from yellow_abacus.core.pricing import price
from yellow_abacus.core.reasons import MEASURES, NUMBER, REASONS, Measure, Reason
from yellow_abacus.core.response import held_codes
from yellow_abacus.core.shop import Shop
from yellow_abacus.core.spread import round_width
from yellow_abacus.core.why import Why, why

MOST_STATES, MOST_WAYS = 16, 8
"""So many of the likeliest sets of codes held, and of branches, are looked at on a day."""

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
    shop, counted_days = forecaster.shop, forecaster.counted_days
    for batch, some_days in forecaster.periods(plan):
        for opened, days in plan.spans(some_days):
            there = [at for at, _ in opened]
            for at in set(range(len(plan.offers))).difference(there):
                found[at][Cause("out_of_dates")] += batch.axes.carts * days / counted_days
            ways = _likeliest_ways(branches(shop, batch, [offer for _, offer in opened]))
            for (held, chance), branch in product(_likeliest(held_codes(opened)), ways):
                holds = np.array(
                    [one.given.key is None or one.given.key in held for one in branch.offers], dtype=bool
                )
                told = _told(shop, batch, plan, branch, holds)
                for at, offer, reasons in zip(there, branch.offers, told, strict=True):
                    for cause, orders in _counted(offer, reasons, there, branch.share_by_cart):
                        found[at][cause] += orders * chance * days / counted_days
    return [dict(one) for one in found]


def _likeliest(states: Iterable[tuple[State, float]]) -> list[tuple[State, float]]:
    """The likeliest few, standing for the others too."""
    likely = sorted(states, key=lambda state: -state[1])[:MOST_STATES]
    whole = sum(chance for _, chance in likely)
    return [(state, chance / whole) for state, chance in likely]


def _likeliest_ways(ways: list[Branch]) -> list[Branch]:
    """The likeliest few branches; the shares of each cart are made to add up to 1 again."""
    likely = sorted(ways, key=lambda branch: -float(branch.share_by_cart.sum()))[:MOST_WAYS]
    whole = np.sum([branch.share_by_cart for branch in likely], axis=0)
    alike = np.full_like(whole, 1 / max(len(likely), 1))
    return [
        replace(
            branch, share_by_cart=np.where(whole > 0, branch.share_by_cart / np.where(whole > 0, whole, 1), alike)
        )
        for branch in likely
    ]


def _told(shop: Shop, batch: CartBatch, plan: Plan, branch: Branch, holds: Bools) -> list[Why]:
    held = np.repeat(holds[:, None], batch.axes.carts, axis=1)
    priced = price(shop, batch, branch, plan.apply, available=held)
    return why(shop, batch, branch, priced, plan.apply, held=held)


def _counted(offer: Offer, told: Why, there: list[int], share: Floats) -> list[tuple[Cause, float]]:
    """The causes of one offer in one state, and on how many carts each holds."""
    found: list[tuple[Cause, float]] = []
    for number, carts in enumerate(np.bincount(told.reason, weights=share, minlength=len(REASONS))):
        reason = REASONS[number]
        if not carts or reason in ("short", "shut_out"):
            continue
        found.append((Cause(reason), float(carts)))
    shut = told.reason == NUMBER["shut_out"]
    for other in np.unique(told.shut_out_by[shut]):
        carts = float(share[shut & (told.shut_out_by == other)].sum())
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
                        (Cause("short", of=of, needed=needed, near=near, close=is_close), float(share[some].sum()))
                    )
    return found
