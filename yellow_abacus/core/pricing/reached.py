"""Reached: the carts each offer could possibly touch, whatever the other offers do.

An offer takes no effect on any other cart, and what takes no effect plays no part: so a set of offers is priced on
the carts its offers reach, and there with those that reach each cart. Never too small; how much too large it is costs
time alone. What a cart's goods come to only falls as offers take their turns, so a spend that standing prices do not
come to is out of reach; a bound from above is not. docs/sums.md, "Reached".
Thresholds are taken to be a little lower than they are: a number that is changed by little then reaches the same
carts, and what was found of the others still holds.

>>> from yellow_abacus.core.clauses.conditions import Spend
>>> Spend(6_500).coarser.n
6144
"""

from collections.abc import Sequence
from dataclasses import replace
from functools import partial

import numpy as np

from yellow_abacus.core.carts.blocks import each_block
from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.clauses.conditions import Earned, Measured, Only
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.offers import BuyGet, DeliveryReward, GoodsSet, Offer, PutIn, Reward
from yellow_abacus.core.pricing.reasons import takes_part
from yellow_abacus.core.pricing.rows import rows_of
from yellow_abacus.core.shop.shop import Shop


def reached(offers: Sequence[Offer], shop: Shop, batch: CartBatch) -> Bools:
    """One row an offer, one column a cart: whether the offer could take effect there.

    An offer on delivery reaches carts that are charged something without offers, and those that others here may
    change.
    """
    found = np.zeros((len(offers), batch.axes.carts), dtype=np.bool_)
    for at, offer in enumerate(offers):
        found[at] = batch.kept(("reached", offer.reaching_part, shop), partial(_by_itself, offer, shop, batch))
    may_change = np.logical_or.reduce([found[at] for at, one in enumerate(offers) if one.works_on_goods] or [False])
    for at, offer in enumerate(offers):
        if not offer.works_on_goods and not np.all(may_change):
            found[at] &= may_change | _charged(shop, batch)
    return found


def may_differ(
    shop: Shop,
    batch: CartBatch,
    offers: Sequence[Offer],
    reaches: Bools,
    here: int | None,
    known: Sequence[Offer],
    there: int | None,
    *,
    exactly: bool = False,
) -> Bools:
    """The carts that may come to something else where one of the offers is otherwise than it was, put in or left out.

    reaches: what the offers reach. here, there: the number of that one among them, and among those known; None where
    it is not there. Those it reaches, as it is or as it was. But one with the goods to itself whose threshold moved
    by little comes to the same on carts that earn it as often. exactly: as often as they did; else wherever near
    that threshold is, so that one that moves on leaves the same carts.
    """
    now = np.zeros(batch.axes.carts, dtype=np.bool_) if here is None else reaches[here]
    if there is None:
        return now
    if here is None or not _differ_in_near_thresholds(offers[here], known[there]):
        either: Bools = now | reached(known, shop, batch)[there]
        return either
    bounds = [one.earned for one in (offers[here], known[there])]
    if not exactly:
        bounds = [bounds[0].coarser, bounds[0].too_strict]
    others = [reaches[at] for at, other in enumerate(offers) if at != here and other.works_on_goods]
    parted = np.not_equal(*(_earned_at_first(one, batch) for one in bounds))
    result: Bools = now & np.logical_or.reduce([parted, *others])
    return result


def _differ_in_near_thresholds(one: Offer, other: Offer) -> bool:
    """Whether they differ in thresholds alone, which reach the same carts."""
    if one.earned.counted != "pooled" or one.reaching_part != other.reaching_part:
        return False
    return replace(other, earned=one.earned).priced_part == one.priced_part


def _earned_at_first(earned: Earned, batch: CartBatch) -> Ints:
    """How often an offer is earned in each cart before any had its turn."""
    return batch.kept(("earned at first", earned), lambda: earned.times_by_cart(batch, batch.worth_by_line))


def _by_itself(offer: Offer, shop: Shop, batch: CartBatch) -> Bools:
    """Where it passes every gate, can be earned, and finds something to work on."""

    def one_block(_: slice, block: CartBatch) -> Bools:
        passes: Bools = takes_part([offer], shop, block)[0]
        works: Bools = np.logical_or.reduce([_finds_work(reward, offer, block) for reward in offer.rewards()])
        return passes & _can_be_earned(offer, block) & works

    return np.concatenate(each_block(batch, one_block))


def _charged(shop: Shop, batch: CartBatch) -> Bools:
    """Where some way of delivery is charged for, no offer running."""
    return batch.kept(("charged", shop), partial(_find_charged, shop, batch))


def _find_charged(shop: Shop, batch: CartBatch) -> Bools:
    rows = rows_of(shop, batch)

    def one_block(carts: slice, block: CartBatch) -> Bools:
        mine = rows if block is batch else rows.block(block, carts)
        worth = mine.of_carts(block.worth_by_cart)
        charge = shop.delivery.charge(worth, mine.load, mine.option_by_row, mine.carriage(shop.delivery))
        found: Bools = np.bincount(mine.cart_by_row, weights=charge > 0, minlength=block.axes.carts) > 0
        return found

    return np.concatenate(each_block(batch, one_block))


def _can_be_earned(offer: Offer, batch: CartBatch) -> Bools:
    conditions = offer.earned.conditions
    if not conditions:
        return np.ones(batch.axes.carts, dtype=np.bool_)
    each = [_can_hold(one, batch) for one in conditions]
    found: Bools = (np.logical_or if offer.earned.need == "any" else np.logical_and).reduce(each)
    return found


def _can_hold(condition: Measured | Only, batch: CartBatch) -> Bools:
    """Whether a condition can hold; counted product by product, the whole cart's count is as much as any's."""
    if not isinstance(condition, Measured) or condition.bound == "at_most":
        return np.ones(batch.axes.carts, dtype=np.bool_)
    key = ("at standing prices", type(condition), condition.of)
    most: Ints = batch.kept(key, lambda: condition.measure_by_cart(batch, batch.worth_by_line, None))
    return condition.reached(most, condition.coarser.n)


def _finds_work(reward: Reward, offer: Offer, batch: CartBatch) -> Bools:
    """Whether there are goods in the cart that a reward can work on."""
    if isinstance(reward, PutIn | DeliveryReward):
        return np.ones(batch.axes.carts, dtype=np.bool_)
    if isinstance(reward, GoodsSet):
        parts = [_units(batch, part.of, True) >= part.count for part in reward.parts]
        every: Bools = np.logical_and.reduce(parts)
        return every
    if isinstance(reward, BuyGet):
        found = _units(batch, offer.on, True) >= reward.get
        return found & (_units(batch, reward.of, False) >= reward.buy) if reward.buy else found
    return _units(batch, offer.on, True) > 0


def _units(batch: CartBatch, scope: Scope, to_take_from: bool) -> Ints:
    """Units of a scope in each cart. to_take_from: those alone of which something may come off."""

    def find() -> Ints:
        lines = batch.lines_in(scope)
        if to_take_from:
            lines = lines & (batch.worth_by_line > 0)
            if batch.may_be_discounted_by_line is not None:
                lines = lines & batch.may_be_discounted_by_line
        return batch.axes.sum_by_cart(batch.quantity_by_line * lines)

    return batch.kept(("units", scope, to_take_from), find)
