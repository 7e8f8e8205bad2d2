"""Shops made up with a known truth: how shoppers responded to the offers that ran is drawn, and orders follow from it
as the core has it. Prices end in 4.95 and 9.95."""

from dataclasses import dataclass, replace
from datetime import date

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch, make_batch
from yellow_abacus.core.carts.facts import codes, nothing_known
from yellow_abacus.core.clauses.conditions import Earned, Spend
from yellow_abacus.core.clauses.given import Given
from yellow_abacus.core.clauses.response import Response, Sends
from yellow_abacus.core.delivery.zones import Zone
from yellow_abacus.core.forecast.adding import Added, near, rewards_missing, short_of, with_added
from yellow_abacus.core.forecast.mix import alike
from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.money import Ints
from yellow_abacus.core.offers import AmountOff, BuyGet, Limits, Offer, PercentOff, When
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.learning.ran import Past, Ran, all_ran

PRICES = (295, 495, 695, 995, 1295, 1495, 1995, 2495, 2995, 4995)
DRAWN = (0.16, 0.18, 0.12, 0.14, 0.08, 0.1, 0.08, 0.06, 0.05, 0.03)
CATEGORIES = ("seeds", "pots")
SEEDS = 4
"""The first goods are seeds, the others pots."""
FIRST_DAY, DAYS = date(2025, 1, 1), 365
OF_THE_WEEK = np.array((1.15, 0.95, 0.9, 0.92, 0.98, 0.85, 1.25))
OF_THE_YEAR = np.array((0.72, 0.8, 1.25, 1.65, 1.6, 1.15, 0.82, 0.72, 0.85, 0.8, 0.78, 0.86))

SHOP = Shop(Settings(), (Zone("home", ()),))
GOODS = Goods(
    skus=tuple(f"SKU-{at}" for at in range(len(PRICES))),
    products=tuple(f"Thing {at}" for at in range(len(PRICES))),
    list_price=np.array(PRICES),
    reduced_price=np.full(len(PRICES), NO_PRICE),
    unit_cost=np.array(PRICES) * 0.4,
    weight=np.full(len(PRICES), 100.0),
    categories=CATEGORIES,
    in_category=np.array([[at < SEEDS for at in range(len(PRICES))], [at >= SEEDS for at in range(len(PRICES))]]),
    stock=np.full(len(PRICES), np.nan),
)


@dataclass(frozen=True)
class Truth:
    """What was so, of one offer: shares, and the reach in minor units."""

    uptake: float = 0.12
    uptake_first: float = 0.05
    take_up: float = 0.35
    top_up: float = 0.4
    reach: int = 1200
    extra: float = 0.25
    borrowed: float = 0.3
    answers: float = 0.08


@dataclass(frozen=True)
class MadeShop:
    """past: the orders as they came. ran: the offers, over them."""

    past: Past
    ran: list[Ran]


def coded(first: int, days: int, code: str = "FRONDLET", sends: Sends | None = None) -> Offer:
    return Offer(
        gives=(PercentOff(percent_bp=1000),),
        given=Given(by="code", code=code),
        when=_when(first, days),
        response=Response(sends=sends),
        id=code.lower(),
    )


def from_spend(first: int, days: int, threshold: int = 4000) -> Offer:
    earned = Earned((Spend(n=threshold),))
    return Offer(gives=(AmountOff(amount=500),), earned=earned, when=_when(first, days), id="spend")


def packet_beside_a_pot(first: int, days: int) -> Offer:
    reward = BuyGet(buy=1, get=1, price=PercentOff(percent_bp=10_000), of=Scope(categories=("pots",)))
    on = Scope(categories=("seeds",))
    return Offer(gives=(reward,), on=on, limits=Limits(times=1), when=_when(first, days), id="packet")


def off_all(first: int, days: int) -> Offer:
    return Offer(gives=(PercentOff(percent_bp=1500),), when=_when(first, days), id="all")


def _when(first: int, days: int) -> When:
    start = FIRST_DAY.toordinal() + first
    return When(first_day=date.fromordinal(start), last_day=date.fromordinal(start + days - 1))


def made_shop(dice: np.random.Generator, orders: int, offer: Offer, truth: Truth) -> MadeShop:
    """A year of so many orders, had there been no offer, with one offer that ran in it."""
    usual = _per_day(orders)
    count = dice.poisson(usual)
    offset = np.repeat(np.arange(DAYS), count)
    first = dice.random(len(offset)) < 0.45
    batch = _carts(dice, len(offset))
    runs = _days(offer)
    during = runs[offset]
    code = np.full(len(offset), "", dtype=object)
    batch, code = _responding(dice, batch, code, first, during, offer, truth)
    offset, first, batch, code = _more(dice, offset, first, batch, code, runs, offer, truth)
    facts = replace(
        nothing_known(batch.axes.carts),
        orders_before_by_cart=np.where(first, 0, 1),
        code=codes([str(one) for one in code]),
    )
    past = Past(SHOP, replace(batch, facts=facts), offset + FIRST_DAY.toordinal())
    return MadeShop(past, all_ran(past, [offer]))


def _per_day(orders: int) -> np.ndarray:
    days = [date.fromordinal(FIRST_DAY.toordinal() + at) for at in range(DAYS)]
    shape = np.array([OF_THE_WEEK[day.weekday()] * OF_THE_YEAR[day.month - 1] for day in days])
    return shape * orders / shape.sum()


def _days(offer: Offer) -> np.ndarray:
    start = offer.when.first_day.toordinal() - FIRST_DAY.toordinal()
    end = offer.when.last_day.toordinal() - FIRST_DAY.toordinal()
    return np.array([start <= at <= end for at in range(DAYS)])


def _carts(dice: np.random.Generator, carts: int) -> CartBatch:
    lines = 1 + dice.poisson(1.4, carts)
    cart = np.repeat(np.arange(carts), lines)
    sku = dice.choice(len(PRICES), len(cart), p=DRAWN)
    quantity = 1 + (dice.random(len(cart)) < 0.2)
    return make_batch(GOODS, np.zeros(carts, dtype=np.int64), cart, sku, quantity, np.zeros_like(cart))


def _responding(dice, batch, code, first, during, offer, truth):
    """Codes used, thresholds topped up to, rewards taken."""
    carts = len(during)
    if offer.given.key is not None and offer.response.sends is None:
        holds = dice.random(carts) < np.where(first, truth.uptake_first, truth.uptake)
        code[during & holds] = offer.given.code
    if offer.earned.conditions:
        told = replace(offer, when=When(), response=Response(top_up_bp=1, top_up_reach=truth.reach))
        found = near(alike(SHOP, batch), told, short_of(SHOP, batch, (told,), 0, truth.reach))
        does = during[found.cart] & (dice.random(len(found.cart)) < truth.top_up * (1 - found.gap / truth.reach))
        batch = with_added(batch, Added(found.cart[does], found.sku[does], found.units[does]))
    if any(isinstance(one, BuyGet) for one in offer.rewards()):
        found = rewards_missing(SHOP, alike(SHOP, batch), replace(offer, when=When()))
        does = during[found.cart] & (dice.random(len(found.cart)) < truth.take_up)
        batch = with_added(batch, Added(found.cart[does], found.sku[does], found.units[does]))
    return batch, code


def _more(dice, offset, first, batch, code, runs, offer, truth):
    """Extra orders while it ran, like those it reached, some of which only came sooner; or those messages brought."""
    during = runs[offset]
    if offer.response.sends is not None:
        answers = dice.binomial(offer.response.sends.size, truth.answers)
        chosen = dice.choice(np.flatnonzero(during), answers)
        return _with(dice, offset, first, batch, code, chosen, offer.given.code)
    used = during & (code != "") if offer.given.key is not None else during
    ran = all_ran(Past(SHOP, replace(batch, facts=_facts(first)), offset + FIRST_DAY.toordinal()), [offer])[0]
    reached = np.flatnonzero(used & ran.works)
    extra = reached[dice.random(len(reached)) < truth.extra]
    sooner = int(dice.binomial(len(extra), truth.borrowed))
    end = int(np.flatnonzero(runs)[-1])
    after = np.flatnonzero((offset > end) & (offset <= end + min(max(int(runs.sum()), 7), 28)))
    gone = dice.choice(after, min(sooner, len(after)), replace=False)
    kept = np.setdiff1d(np.arange(len(offset)), gone)
    every: Ints = np.concatenate((kept, extra))
    return offset[every], first[every], batch.some(every), code[every]


def _with(dice, offset, first, batch, code, chosen, used):
    every = np.concatenate((np.arange(len(offset)), chosen))
    codes = np.concatenate((code, np.full(len(chosen), used, dtype=object)))
    return offset[every], first[every], batch.some(every), codes


def _facts(first):
    return replace(nothing_known(len(first)), orders_before_by_cart=np.where(first, 0, 1))
