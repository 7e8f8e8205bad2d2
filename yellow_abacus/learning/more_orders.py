"""How many more orders an offer brought, and how many of those only came sooner.

While an offer runs, orders are `f` times the usual; it reaches a share `s` of them. Then extra orders are a share
`(f − 1) / (1 − f(1 − s))` of those it would have reached without them: unknown where the denominator is not above 0.
Orders that only came sooner are missing afterwards: `Σ usual(1 − f_after)` over the days after it, of
`Σ usual(f − 1)` while it ran. Both come from the same draws of the steps (`daily`). docs/sums.md, "What history
says".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.forecast.volume import NamedDays
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.learning.daily import Steps, steps_of
from yellow_abacus.learning.estimate import Estimate, between
from yellow_abacus.learning.ran import Past, Ran

DRAWS, SEED = 4_000, 7
WIDEST_EXTRA, WIDEST_BORROWED = 3.0, 0.7
"""A wider range tells nothing."""
FEWEST_OUTSIDE = 14
"""Days without an offer that it can be held against."""
LEAST_AFTER, MOST_AFTER = 7, 28
"""Days after an offer on which orders may be missing: as many as it ran, within these."""


@dataclass(frozen=True, eq=False)
class MoreOrders:
    """Of one offer. extra: by first orders, then others, shares of the orders reached; None where history cannot
    tell. orders: those of its days. borrowed: of all extra orders.

    by_day: what its days and those around them had, for a picture.
    """

    extra: tuple[Estimate | None, Estimate | None]
    borrowed: Estimate | None
    orders: int
    by_day: "ByDay | None"
    why: str = ""


@dataclass(frozen=True, eq=False)
class ByDay:
    """days: ordinals. orders, usual: one entry a day. runs: whether the offer did."""

    days: Ints
    orders: Ints
    usual: Floats
    runs: Bools


NOTHING_TO_HOLD_AGAINST = "It ran on nearly all days: nothing shows how many orders would have come without it."
LIKE_ANOTHER = "Its days cannot be told from those of other offers, or from the season."
TOO_FEW_DAYS = "There are too few days to tell what is usual."


def more_orders(past: Past, offers: Sequence[Ran], named: Sequence[NamedDays] = ()) -> list[MoreOrders]:
    """One entry an offer, all of them fitted at once. named: days of the merchant's on which orders are otherwise."""
    if not past.days:
        return [MoreOrders((None, None), None, 0, None, TOO_FEW_DAYS) for _ in offers]
    days = np.arange(past.first_day, past.last_day + 1)
    at = past.day_by_cart - past.first_day
    by_cohort = [np.bincount(at[mine], minlength=len(days)) for mine in (past.is_first, ~past.is_first)]
    during = [(one.first_day <= days) & (days <= one.last_day) for one in offers]
    after = [_after(one, days) for one in offers]
    told = [one if (~one).sum() >= FEWEST_OUTSIDE else np.zeros_like(one) for one in during]
    spells = [*told, *after]
    fitted = [steps_of(days, orders, spells, named) for orders in by_cohort]
    dice = np.random.default_rng(SEED)
    drawn = [None if one is None else one.draws(dice, DRAWS) for one in fitted]
    return [
        _one(past, offers, number, during, after, by_cohort, fitted, drawn, days) for number in range(len(offers))
    ]


def _after(ran: Ran, days: Ints) -> Bools:
    long = int(np.clip(ran.last_day - ran.first_day + 1, LEAST_AFTER, MOST_AFTER))
    result: Bools = (days > ran.last_day) & (days <= ran.last_day + long)
    return result


def _one(
    past: Past,
    offers: Sequence[Ran],
    number: int,
    during: Sequence[Bools],
    after: Sequence[Bools],
    by_cohort: Sequence[Ints],
    fitted: Sequence[Steps | None],
    drawn: Sequence[Floats | None],
    days: Ints,
) -> MoreOrders:
    ran, runs, follows, many = offers[number], during[number], after[number], len(offers)
    orders = int(sum(int(one[runs].sum()) for one in by_cohort))
    if all(one is None for one in fitted):
        return MoreOrders((None, None), None, orders, None, TOO_FEW_DAYS)
    extra: list[Estimate | None] = []
    won, lost = np.zeros(DRAWS + 1), np.zeros(DRAWS + 1)
    usual, borrowed_told, told = np.zeros(len(days)), bool(follows.any()), False
    for mine, orders_by_day, steps, draws in zip((True, False), by_cohort, fitted, drawn, strict=True):
        if steps is None or draws is None or not steps.told[number]:
            extra.append(None)
            borrowed_told &= steps is None
            usual += orders_by_day if steps is None else steps.usual
            continue
        usual, told = usual + steps.usual, True
        factor = np.exp(np.append(draws[:, number], steps.at[number]))
        of_cohort = past.is_first if mine else ~past.is_first
        on_its_days = ran.on_its_days & of_cohort
        reached = float((ran.used & of_cohort).sum() / max(on_its_days.sum(), 1))
        extra.append(_extra(factor, reached))
        won += steps.usual[runs].sum() * (factor - 1)
        if steps.told[many + number]:
            later = np.exp(np.append(draws[:, many + number], steps.at[many + number]))
            lost += steps.usual[follows].sum() * (1 - later)
        else:
            borrowed_told = False
    why = ""
    if not told:
        whole = bool((~runs).sum() < FEWEST_OUTSIDE)
        why = NOTHING_TO_HOLD_AGAINST if whole else LIKE_ANOTHER
    borrowed = _borrowed(won, lost) if borrowed_told and told else None
    shown = _around(runs, follows)
    all_orders = by_cohort[0] + by_cohort[1]
    by_day = ByDay(days[shown], all_orders[shown], usual[shown], runs[shown]) if told else None
    return MoreOrders((extra[0], extra[1]), borrowed, orders, by_day, why)


def _extra(factor: Floats, reached: float) -> Estimate | None:
    """factor: draws, the likely one last."""
    below = 1 - factor * (1 - reached)
    if below[-1] <= 0:
        return None
    found = np.where(below > 0, (factor - 1) / np.where(below > 0, below, 1.0), np.inf)
    if np.isinf(found).mean() > 0.05:
        return None
    told = between(found[:-1][np.isfinite(found[:-1])], float(found[-1]))
    return told if told.width <= WIDEST_EXTRA else None


def _borrowed(won: Floats, lost: Floats) -> Estimate | None:
    """won, lost: draws, the likely one last. None where nothing was won, or the range says nothing."""
    if won[-1] <= 0 or (won[:-1] <= 0).mean() > 0.05:
        return None
    share = lost / np.where(won > 0, won, np.nan)
    found = between(share[:-1][~np.isnan(share[:-1])], float(share[-1]))
    return found if found.width <= WIDEST_BORROWED else None


def _around(runs: Bools, follows: Bools) -> slice:
    """Its days, those after it, and as many before."""
    mine = np.flatnonzero(runs | follows)
    if not len(mine):
        return slice(0, 0)
    long = max(int(runs.sum()), LEAST_AFTER)
    return slice(max(int(mine[0]) - long, 0), int(mine[-1]) + 1)
