"""What the rest of a plan's days should bring while it runs, with what is left of its limits and of the stock.

The forecast was made of the orders from before the plan; so are the days to come, anew, from the day after the last
order on. docs/sums.md, "Afterwards".
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date, timedelta

import numpy as np

from yellow_abacus.core.clauses.response import Sends
from yellow_abacus.core.forecast.forecast import Forecast
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import Floats
from yellow_abacus.core.offers import Offer, PutIn
from yellow_abacus.counting import Counted, fresh
from yellow_abacus.files.kept_json import KeptDoc, of_limit, run_out, runs_out, used_up
from yellow_abacus.learning.came import Came
from yellow_abacus.store.loading import LoadedShop


@dataclass(frozen=True)
class StillToCome:
    """impact: of the days to come, plan less today, minor units. orders: expected on them. at_work: how often its
    offers are used then, of how often they were to be; at most 1. left: what is left of its limits, in sentences."""

    impact: float
    orders: float
    at_work: float
    left: list[str]


def still_to_come(
    at: Counted, loaded: LoadedShop, kept: KeptDoc, plan: Plan, real: Came, gone: int
) -> StillToCome | None:
    """loaded: the shop with the orders the forecast was made from. plan: as it was kept. gone: days of it. None where
    none are to come, or there is no order to go by.

    Raises UnsoundMixError where no carts are left.
    """
    first_day = plan.first_day + timedelta(gone)
    if first_day > plan.last_day or not (loaded.batch.axes.carts or kept.mix.sketched):
        return None
    stock = _stock(at, kept, plan, real)
    goods = replace(loaded.batch.goods, stock=stock)
    before = replace(loaded, batch=loaded.batch.with_goods(goods, np.arange(loaded.batch.axes.carts)))
    room = fresh(before).expecting_terms(kept.mix, (kept.plan.first_day, kept.plan.last_day))
    numbered = [
        (number, left)
        for number, offer in enumerate(plan.offers)
        if (left := _left_of(offer, number, plan, real, first_day)) is not None
    ]
    found = room.forecast(replace(plan, first_day=first_day, offers=tuple(left for _, left in numbered)))
    were = sum(one.uses.likely for one in kept.expects.offers) / max(kept.expects.orders.likely, 1e-9)
    are = sum(one.uses for one in found.offers) / max(found.planned.orders, 1e-9)
    return StillToCome(
        impact=found.impact,
        orders=found.planned.orders,
        at_work=min(are / were, 1.0) if were else 1.0,
        left=[
            *_told(at, kept, plan, real, [number for number, _ in numbered], found),
            *_told_of_stock(goods, numbered, found),
        ],
    )


def _left_of(offer: Offer, number: int, plan: Plan, real: Came, first_day: date) -> Offer | None:
    """An offer with what is left of its limits and messages, nothing to pay for it any more; None where it is used
    up. One that runs without the plan too goes on."""
    if offer.runs:
        return offer
    uses, spending = _uses_left(offer, number, real), _spending_left(offer, number, real)
    if (uses is not None and uses <= 0) or (spending is not None and spending <= 0):
        return None
    sends = offer.response.sends
    open_for = sum(offer.on_day(day) is not None for day in plan.window())
    open_before = sum(offer.on_day(day) is not None for day in plan.window() if day < first_day)
    response = replace(
        offer.response, fixed_cost=0, sends=None if sends is None else sends_left(sends, open_before, open_for)
    )
    return replace(offer, limits=replace(offer.limits, uses=uses, spending=spending), response=response)


def sends_left(sends: Sends, open_before: int, open_for: int) -> Sends | None:
    """Of messages sent once, those whose shoppers have not come yet, and are paid for; daily ones go on. open_before:
    days on which the offer has been open; open_for: and is in all."""
    if sends.daily or not open_before:
        return sends
    size = round(sends.size * float(sends.coming(open_for)[open_before:].sum()))
    return replace(sends, size=size, cost=0, days=max(sends.days - open_before, 1)) if size else None


def _uses_left(offer: Offer, number: int, real: Came) -> int | None:
    most = offer.most_uses
    return None if most is None else most - int(real.used[number].sum())


def _spending_left(offer: Offer, number: int, real: Came) -> int | None:
    most = offer.limits.spending
    return None if most is None else most - round(float(real.given[number].sum()))


def _stock(at: Counted, kept: KeptDoc, plan: Plan, real: Came) -> Floats:
    """As Goods has it; where that is still what it was when the forecast was kept, less what its orders held."""
    batch = at.loaded.batch
    stock = batch.goods.stock.copy()
    assert batch.raw is not None, "all orders have theirs"
    mine = np.isin(batch.raw.cart, real.carts)
    sku, units = batch.raw.sku[mine], batch.raw.quantity[mine]
    gone = np.bincount(sku, weights=units, minlength=len(stock))
    free = np.bincount(sku, weights=units * (at.loaded.orders.charged[mine] == 0), minlength=len(stock))
    for which, each in _put_in(plan, real, batch.goods):
        gone[which] += 0 if free[which] else each  # orders that do not tell of it had it all the same
    kits = batch.goods.kits
    taken = kits.with_kits(gone.astype(np.float64), np.arange(len(gone)))
    for need in kept.forecast.over_time.needs:
        known = batch.goods.index_of(need.sku)
        if known is not None and stock[known] == need.stock:
            stock[known] = max(stock[known] - taken[known], 0.0)
    return kits.stock_as_parts(stock)


def _put_in(plan: Plan, real: Came, goods: Goods) -> Iterator[tuple[int, float]]:
    """Units put in of the SKUs of which that is sure, where the offer took effect."""
    for offer, works in zip(plan.offers, real.works, strict=True):
        for reward in offer.rewards():
            if isinstance(reward, PutIn) and len(reward.may_be(goods)) == 1:
                (sku,) = reward.may_be(goods)
                which = goods.index_of(sku)
                if which is not None:
                    yield which, float(works.sum()) * reward.quantity


def _told(at: Counted, kept: KeptDoc, plan: Plan, real: Came, going_on: list[int], found: Forecast) -> Iterator[str]:
    """What is left of limits, and on which day that should end. going_on: numbers of the offers that are not used
    up."""
    loaded = at.loaded
    ends: dict[tuple[str, int], int | None] = {(one.limit.of, one.limit.offer): one.day for one in found.ends}
    for number, (offer, expected) in enumerate(zip(plan.offers, kept.expects.offers, strict=True)):
        if offer.runs:
            continue
        if number not in going_on:
            yield used_up(expected.name)
            continue
        place = going_on.index(number)
        for of, most, left in (
            ("uses", offer.most_uses, _uses_left(offer, number, real)),
            ("spending", offer.limits.spending, _spending_left(offer, number, real)),
        ):
            if most is not None and left is not None:
                currency = loaded.currency if of == "spending" else None
                yield of_limit(expected.name, most, left, _day(ends.get((of, place))), currency, loaded.minor_digits)


def _told_of_stock(goods: Goods, going_on: list[tuple[int, Offer]], found: Forecast) -> Iterator[str]:
    """What is put in and has run out, or will."""
    for _, offer in going_on:
        for reward in offer.rewards():
            for sku in reward.may_be(goods) if isinstance(reward, PutIn) else ():
                if goods.stock[goods.index_of(sku)] == 0:
                    yield run_out(sku)
    for one in found.ends:
        if one.limit.of == "stock" and one.limit.put_in and one.day is not None:
            yield runs_out(goods.skus[one.limit.sku], date.fromordinal(one.day))


def _day(ordinal: int | None) -> date | None:
    return None if ordinal is None else date.fromordinal(ordinal)
