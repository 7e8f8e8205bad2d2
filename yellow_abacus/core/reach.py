"""How many orders of a plan's window each offer reaches, and what keeps it from the rest.

docs/sums.md, "Why, and why not".
"""

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import product
from typing import TypeVar

import numpy as np

from yellow_abacus.core.branches import branches
from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.plan import Plan
from yellow_abacus.core.pricing import price
from yellow_abacus.core.reasons import MEASURES, NUMBER, REASONS, Measure, Reason
from yellow_abacus.core.response import held_codes
from yellow_abacus.core.shop import Shop
from yellow_abacus.core.spread import round_width
from yellow_abacus.core.why import Why, why

MOST_STATES, MOST_WAYS = 16, 6
"""So many of the likeliest sets of codes held, and of choices of things put in, are looked at on a day."""

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


def reach(shop: Shop, batch: CartBatch, counted_days: int, plan: Plan) -> list[dict[Cause, float]]:
    """For each offer of the plan, in order, its causes and the orders of the window they hold for."""
    found: list[dict[Cause, float]] = [defaultdict(float) for _ in plan.offers]
    for opened, days in plan.spans():
        there = [at for at, _ in opened]
        for at in set(range(len(plan.offers))).difference(there):
            found[at][Cause("out_of_dates")] += batch.axes.carts * days / counted_days
        ways = [(offers, share) for share, offers in branches([offer for _, offer in opened], batch.goods)]
        states = product(_likeliest(held_codes(opened), MOST_STATES), _likeliest(ways, MOST_WAYS))
        for (held, chance), (offers, share) in states:
            holds = np.array([offer.given.key is None or offer.given.key in held for offer in offers], dtype=np.bool_)
            for at, (offer, told) in zip(there, _told(shop, batch, plan, offers, holds), strict=True):
                for cause, orders in _counted(offer, told, there):
                    found[at][cause] += orders * chance * share * days / counted_days
    return [dict(one) for one in found]


def _likeliest(states: Iterable[tuple[State, float]], most: int) -> list[tuple[State, float]]:
    """The likeliest few, standing for the others too."""
    likely = sorted(states, key=lambda state: -state[1])[:most]
    whole = sum(chance for _, chance in likely)
    return [(state, chance / whole) for state, chance in likely]


def _told(
    shop: Shop, batch: CartBatch, plan: Plan, offers: tuple[Offer, ...], holds: np.ndarray
) -> list[tuple[Offer, Why]]:
    held = np.repeat(holds[:, None], batch.axes.carts, axis=1)
    priced = price(shop, batch, offers, plan.apply, available=held)
    return list(zip(offers, why(shop, batch, offers, priced, plan.apply, held=held), strict=True))


def _counted(offer: Offer, told: Why, there: list[int]) -> list[tuple[Cause, int]]:
    """The causes of one offer in one state, and on how many carts each holds."""
    found: list[tuple[Cause, int]] = []
    for number, carts in enumerate(np.bincount(told.reason, minlength=len(REASONS))):
        reason = REASONS[number]
        if not carts or reason in ("short", "shut_out"):
            continue
        found.append((Cause(reason), int(carts)))
    by = told.shut_out_by[told.reason == NUMBER["shut_out"]]
    for other, carts in zip(*np.unique(by, return_counts=True), strict=True):
        found.append((Cause("shut_out", by=there[int(other)] if other >= 0 else None), int(carts)))
    short = told.reason == NUMBER["short"]
    for number, of in enumerate(MEASURES):
        missing = told.short_by[short & (told.short_of == number)]
        if len(missing):
            needed = next((one.n for one in offer.earned.conditions if one.kind == of), None)
            near = round_width((needed or NEAR_SHARE) / NEAR_SHARE)
            near = 2 if of in ("units", "products") else near
            close = int((missing < near).sum())
            for is_close, carts in ((True, close), (False, len(missing) - close)):
                if carts:
                    found.append((Cause("short", of=of, needed=needed, near=near, close=is_close), carts))
    return found
