"""Carts to which shoppers add something: to reach what an offer asks for, or to hold what it gives.

What is added is a few units of one SKU of the offer's shelf: the SKUs the merchant names, or the best sellers of the
mix. A cart with something added is a cart of its own, made and priced like any other. docs/sums.md, "Top-ups" and
"Take-up".
"""

from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch, make_batch
from yellow_abacus.core.clauses.conditions import Measured
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.goods.scope import EVERYTHING, Scope
from yellow_abacus.core.ground.axes import among, summed_by
from yellow_abacus.core.ground.money import LARGEST_CART, Bools, Floats, Ints
from yellow_abacus.core.offers import BuyGet, GoodsSet, Offer
from yellow_abacus.core.offers.allowance import earned, portions
from yellow_abacus.core.pricing.reasons import MEASURES, NUMBER, Reason, takes_part, verdict
from yellow_abacus.core.pricing.together import Together
from yellow_abacus.core.pricing.walk import Walk
from yellow_abacus.core.shop.shop import Shop

BEST_SELLERS = 50
SAME_TO = 12
"""Units sold that are alike to so many decimals are the same, in whatever order they were added up."""


@dataclass(frozen=True, eq=False)
class Added:
    """What some carts get more: index of the cart, index of the SKU, units; one entry each."""

    cart: Ints
    sku: Ints
    units: Ints


def with_added(batch: CartBatch, added: Added) -> CartBatch:
    """The carts with more in them. batch: of any origin; lines keep the price they stand at where a SKU has none."""
    cart = np.concatenate((batch.axes.cart_by_line, added.cart))
    sku = np.concatenate((batch.sku_by_line, added.sku))
    units = np.concatenate((batch.quantity_by_line, added.units))
    asked = np.concatenate((batch.standing_by_line, np.zeros_like(added.sku)))
    return make_batch(batch.goods, batch.zone_by_cart, cart, sku, units, asked, batch.facts)


def units_sold(mix: Mix) -> Floats:
    """Of each SKU in an average cart, rounded so that summing in another order cannot change which goes more."""
    batch = mix.batch

    def find() -> Floats:
        weight = mix.share_by_cart[batch.axes.cart_by_line] * batch.quantity_by_line
        return np.round(summed_by(batch.sku_by_line, weight, len(batch.goods.skus)), SAME_TO)

    return batch.kept(("sold", mix.weights), find)


def best_sellers(mix: Mix, scope: Scope, discounted: bool = False) -> Ints:
    """The SKUs in scope of which most units go, those with a price; ties to the first by name of the SKU.

    discounted: only what offers may take something off.
    """
    goods, sold = mix.batch.goods, units_sold(mix)
    may = scope.holds(goods) & (goods.standing_price > 0) & (sold > 0)
    if discounted:
        may = may & goods.may_be_discounted
    some = np.flatnonzero(may)
    return some[np.argsort(-sold[some], kind="stable")][:BEST_SELLERS]


def shelf_of(mix: Mix, offer: Offer, scope: Scope, discounted: bool = False) -> Ints:
    """What shoppers add for an offer, by index of SKU: what it names and is not sold out, or the best sellers in
    scope."""
    goods = mix.batch.goods
    named = [at for sku in offer.response.top_up_skus if (at := goods.index_of(sku)) is not None]
    inside, gone = scope.holds(goods), mix.gone_skus
    here = [at for at in named if inside[at] and goods.standing_price[at] > 0 and at not in gone]
    return np.array(here, dtype=np.int64) if named else best_sellers(mix, scope, discounted)


# --- rewards that shoppers add


def rewards_missing(shop: Shop, mix: Mix, offer: Offer) -> Added | None:
    """What carts that earn an offer need yet to hold what it gives, of goods it may be given on."""
    return rewards_to_add(shop, mix.batch, offer, lambda: shelf_of(mix, offer, offer.on, discounted=True))


def rewards_to_add(shop: Shop, batch: CartBatch, offer: Offer, shelf: Callable[[], Ints]) -> Added | None:
    """As `rewards_missing`, for any carts. shelf: what may be added, by index of SKU."""
    reward = next((one for one in offer.rewards() if isinstance(one, BuyGet)), None)
    if reward is None or not len(some := shelf()):
        return None
    missing = np.where(takes_part([offer], shop, batch)[0], _earned_and_missing(offer, reward, batch)[1], 0)
    cart, sku = np.flatnonzero(missing > 0), int(some[0])
    cart = cart[_can_hold(batch, cart, missing[cart], batch.goods.standing_price[sku])]
    return Added(cart, np.full(len(cart), sku), missing[cart])


def _can_hold(batch: CartBatch, cart: Ints, units: Ints, price: Ints) -> Bools:
    """Whether sums can carry each cart with so many units more, and one beyond. price: of each, minor units."""
    result: Bools = units <= (LARGEST_CART - batch.worth_by_cart[cart]) // np.maximum(price, 1) - 1
    return result


def rewards_held(shop: Shop, batch: CartBatch, offer: Offer) -> tuple[Bools, Bools] | None:
    """Which carts earn a reward that shoppers add, and which of them hold all of it; None where there is none."""
    reward = next((one for one in offer.rewards() if isinstance(one, BuyGet)), None)
    if reward is None:
        return None
    earned_here, missing = _earned_and_missing(offer, reward, batch)
    earns = (earned_here > 0) & takes_part([offer], shop, batch)[0]
    return earns, earns & (missing == 0)


def _earned_and_missing(offer: Offer, reward: BuyGet, batch: CartBatch) -> tuple[Ints, Ints]:
    """How many times it is earned, and units to add so that all that was bought to earn it does: see
    `BuyGet.take`."""
    units, net = batch.quantity_by_line, batch.worth_by_line
    gets = batch.lines_in(offer.on) & (net > 0)
    if batch.may_be_discounted_by_line is not None:
        gets = gets & batch.may_be_discounted_by_line
    buys = batch.lines_in(reward.of) if reward.buy else np.zeros_like(gets)
    times, _ = earned(offer, batch, net, None)
    if offer.limits.times is not None:
        times = np.minimum(times, offer.limits.times)
    both = batch.axes.sum_by_cart(units * (gets & buys))
    bought, got = batch.axes.sum_by_cart(units * buys), batch.axes.sum_by_cart(units * gets)
    if reward.buy:
        times = np.minimum(times, bought // reward.buy)
    left = got - np.maximum(times * reward.buy - (bought - both), 0)
    missing: Ints = np.maximum(times * reward.get - left, 0)
    return times, missing


# --- what is missing to earn an offer


@dataclass(frozen=True, eq=False)
class Short:
    """Carts that are short of what an offer asks for, by rising index. gap: by how much, in what its first unmet
    condition counts. number: of what is short, as `_gap` has it."""

    cart: Ints
    gap: Ints
    number: Ints

    def with_carts(self, carts: Ints, part: "Short") -> "Short":
        """The same where some carts, by rising index, are short by what `part` says, which numbers them among
        themselves."""
        others = np.isin(self.cart, carts, invert=True)
        told = (
            np.concatenate((mine[others], theirs))
            for mine, theirs in ((self.cart, carts[part.cart]), (self.gap, part.gap), (self.number, part.number))
        )
        cart, gap, number = told
        in_order = np.argsort(cart, kind="stable")
        return Short(cart[in_order], gap[in_order], number[in_order])


@dataclass(frozen=True, eq=False)
class Near:
    """Carts that are short of what an offer asks for, by rising index. gap: as in `Short`. sku, units, spend: the
    least that reaches it, minor units at standing prices."""

    cart: Ints
    gap: Ints
    sku: Ints
    units: Ints
    spend: Ints


ONLY_SHORT: tuple[Reason, ...] = ("short",)
NOBODY = Near(*(np.zeros(0, dtype=np.int64) for _ in range(5)))


def near(mix: Mix, offer: Offer, short: Short) -> Near:
    """What brings carts to an offer, its next step, or its next time, of its shelf."""
    return _closed(mix.batch, offer, short, lambda scope: shelf_of(mix, offer, scope))


def lacking(
    shop: Shop,
    batch: CartBatch,
    offers: Sequence[Offer],
    at: int,
    shelf: Callable[[Scope], Ints],
    reach: int,
    reasons: Collection[Reason] = ONLY_SHORT,
) -> Near:
    """As `near`, for any carts that lack no more than `reach`.

    shelf: what may be added of the goods in a scope, by index of SKU. reasons: for which of them carts are looked at.
    """
    return _closed(batch, offers[at], short_of(shop, batch, offers, at, reach, reasons), shelf)


def short_of(
    shop: Shop,
    batch: CartBatch,
    offers: Sequence[Offer],
    at: int,
    reach: int,
    reasons: Collection[Reason] = ONLY_SHORT,
) -> Short:
    """The carts within `reach` of an offer, of its next step, or of its next time, with these offers there. reasons:
    as in `lacking`."""
    there = takes_part(offers, shop, batch)
    net = _met(shop, batch, offers, at, there)
    gap, number = _gap(offers[at], batch, net, reasons)
    carts = np.flatnonzero(there[at] & (gap > 0) & (gap <= reach))
    return Short(carts, gap[carts], number[carts])


def _closed(batch: CartBatch, offer: Offer, short: Short, shelf: Callable[[Scope], Ints]) -> Near:
    found = []
    for one in np.unique(short.number).tolist():
        mine = short.number == one
        condition, scope = _asked(offer, one)
        found.append(_cheapest(batch, short.cart[mine], short.gap[mine], condition, shelf(scope)))
    if not found:
        return NOBODY
    whole = [
        np.concatenate([getattr(part, name) for part in found]) for name in ("cart", "gap", "sku", "units", "spend")
    ]
    in_order = np.argsort(whole[0], kind="stable")
    return Near(*(one[in_order] for one in whole))


def _met(shop: Shop, batch: CartBatch, offers: Sequence[Offer], at: int, there: Bools) -> Ints:
    """What each line costs at an offer's turn, those it does not go with absent, minor units."""
    together = Together(offers, shop.settings)
    walk, offer = Walk(shop, batch, offers), offers[at]
    for one, other in enumerate(offers[:at] if offer.works_on_goods else offers):
        if one != at and other.works_on_goods and not together.conflicts[one, at] and there[one].any():
            walk.goods_turn(one, there[one])
    return walk.net


def _gap(offer: Offer, batch: CartBatch, net: Ints, reasons: Collection[Reason]) -> tuple[Ints, Ints]:
    """By how much each cart is short of the offer, its next step, or its next time, 0 for not at all; and the number
    of what is short: a condition, or from the last one on a reward."""
    judged = verdict(offer, batch, net)
    is_short = among([NUMBER[one] for one in reasons], len(NUMBER))[judged.reason]
    gap = np.where(is_short, judged.short_by, 0)
    conditions = offer.earned.conditions
    of_measure = [
        next((at for at, one in enumerate(conditions) if one.kind == of and one.bound != "at_most"), len(conditions))
        for of in MEASURES
    ]
    number = np.array(of_measure, dtype=np.int64)[judged.short_of]
    if not conditions or not isinstance(conditions[0], Measured) or conditions[0].bound == "at_most":
        return gap, number
    further = _further(offer, batch, net)
    return np.where(is_short, gap, further), np.where(is_short, number, 0)


def _further(offer: Offer, batch: CartBatch, net: Ints) -> Ints:
    """What is missing for the next step, or the next time, where the offer is earned and there is one."""
    first = offer.earned.conditions[0]
    times, _ = earned(offer, batch, net, None)
    found: Ints = np.zeros(batch.axes.carts, dtype=np.int64)
    if len(portions(offer, batch)) > 1 or not isinstance(first, Measured):
        return found
    measure = first.measure_by_cart(batch, net, None)
    if offer.steps:
        for step in reversed(offer.steps):
            short = -(-(step.n * first.per - measure) // first.per) + (first.bound == "over")
            found = np.where((times > 0) & ~first.reached(measure, step.n), np.maximum(short, 1), found)
    elif offer.earned.repeat == "each_time" and len(offer.earned.conditions) == 1:
        per_time = first.n * first.per
        missing = -(-(per_time - measure % per_time) // first.per)
        may = (times > 0) if offer.limits.times is None else (times > 0) & (times < offer.limits.times)
        found = np.where(may, missing, found)
    return found


def _asked(offer: Offer, number: int) -> tuple[Measured | None, Scope]:
    """The condition that is short, None for units of a reward; and the goods that count."""
    conditions = offer.earned.conditions
    if number < len(conditions):
        one = conditions[number]
        return (one if isinstance(one, Measured) else None), one.of
    for reward in offer.rewards():
        if isinstance(reward, BuyGet) and reward.buy:
            return None, reward.of
        if isinstance(reward, GoodsSet):
            return None, reward.parts[0].of
    return None, EVERYTHING


def _cheapest(batch: CartBatch, carts: Ints, gap: Ints, condition: Measured | None, shelf: Ints) -> Near:
    """The least spend that closes each gap, of one SKU of the shelf; ties to what keeps more."""
    goods, kind = batch.goods, "units" if condition is None else condition.kind  # type: ignore[attr-defined]
    if not len(shelf) or (kind == "products" and len(carts) == 0):
        return NOBODY
    price = goods.standing_price[shelf]
    gaps, of_cart = np.unique(gap, return_inverse=True)
    if kind == "spend":
        units = -(-gaps[:, None] // price)
    elif kind == "weight":
        grams = goods.milligrams[shelf] // 1000
        units = np.where(grams > 0, -(-gaps[:, None] // np.maximum(grams, 1)), 0)
    elif kind == "products":
        units = np.where(gaps[:, None] == 1, 1, np.zeros(len(shelf), dtype=np.int64))
    else:
        units = np.broadcast_to(gaps[:, None], (len(gaps), len(shelf)))
    kept = (price - np.nan_to_num(goods.unit_cost[shelf])) * units
    spend = np.where(units > 0, units * price, np.iinfo(np.int64).max)
    least = spend == spend.min(axis=1, keepdims=True)
    best = np.where(least, kept, -np.inf).argmax(axis=1)
    rows = np.arange(len(gaps))
    units_of, spend_of = units[rows, best][of_cart], spend[rows, best][of_cart]
    can = (units_of > 0) & _can_hold(batch, carts, units_of, price[best][of_cart])
    return Near(carts[can], gap[can], shelf[best][of_cart][can], units_of[can], spend_of[can])
