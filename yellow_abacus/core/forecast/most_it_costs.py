"""The most a plan can cost, whoever comes: from limits, single codes, stock and what one order can be given.

Of each offer the least that bounds it: its spending in all; its uses in all times the most an order gets; the stock
of what it puts in. A plan has a bound where each of its offers has one. docs/sums.md, "The most it can cost".
"""

from collections.abc import Iterator
from dataclasses import dataclass

from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import WHOLE_BP
from yellow_abacus.core.offers import (
    AmountOff,
    AmountOffEach,
    DeliveryAmountOff,
    DeliveryLoweredTo,
    DeliveryPercentOff,
    GoodsReward,
    Offer,
    PutIn,
    Reward,
)
from yellow_abacus.core.offers.rewards import with_delivery
from yellow_abacus.core.shop.shop import Shop


@dataclass(frozen=True)
class Bound:
    """amount: given away at most, with costs paid once and messages, minor units; None where nothing bounds it.

    unbounded: numbers of the offers that nothing bounds.
    """

    amount: float | None
    unbounded: tuple[int, ...]


def most_it_costs(plan: Plan, shop: Shop, goods: Goods) -> Bound:
    """What runs already costs no more for the plan."""
    own = [plan.offers[at] for at in plan.own]
    bounds = [_of_offer(offer, shop, goods) for offer in own]
    unbounded = tuple(at for at, one in zip(plan.own, bounds, strict=True) if one is None)
    if unbounded:
        return Bound(None, unbounded)
    paid = sum(map(plan.paid_for, own))
    return Bound(float(sum(one for one in bounds if one is not None) + paid), ())


def _of_offer(offer: Offer, shop: Shop, goods: Goods) -> float | None:
    limits, found = offer.limits, []
    if limits.spending is not None:
        found.append(float(limits.spending))
    uses = [one for one in (limits.uses, len(offer.given.codes) or None) if one is not None]
    an_order = _of_order(offer, shop, goods)
    if uses and an_order is not None:
        found.append(min(uses) * an_order)
    stock = _of_stock(offer, goods)
    if stock is not None:
        found.append(stock)
    return min(found, default=None)


def _of_order(offer: Offer, shop: Shop, goods: Goods) -> float | None:
    """The most one order gets, minor units; None where that depends on the order."""
    times = _times(offer)
    steps = [list(_of_rewards(gives, offer, times, shop, goods)) for gives in offer.gives_by_step]
    if any(one is None for step in steps for one in step):
        return None
    sums = [sum(one for one in step if one is not None) for step in steps]
    return sum(sums) if offer.every_step else max(sums)


def _of_rewards(
    gives: tuple[Reward, ...], offer: Offer, times: int | None, shop: Shop, goods: Goods
) -> Iterator[float | None]:
    on_goods = [one for one in gives if isinstance(one, GoodsReward)]
    if on_goods and offer.limits.amount is not None:
        yield float(offer.limits.amount)
        on_goods = []
    for reward in gives:
        match reward:
            case AmountOff():
                yield _times_over(reward.amount, times) if reward in on_goods else 0.0
            case AmountOffEach():
                yield _times_over(reward.amount, offer.limits.units) if reward in on_goods else 0.0
            case PutIn():
                yield _times_over(_dearest(reward, goods) * reward.quantity, times)
            case DeliveryAmountOff():
                yield float(reward.amount)
            case DeliveryPercentOff() | DeliveryLoweredTo():
                charge = _dearest_charge(shop)
                share = reward.percent_bp / WHOLE_BP if isinstance(reward, DeliveryPercentOff) else 1.0
                yield None if charge is None else charge * share
            case _:
                yield None if reward in on_goods else 0.0
        if with_delivery(reward):
            yield _dearest_charge(shop)


def _times(offer: Offer) -> int | None:
    """How often one order may earn it; None for no bound."""
    return 1 if offer.earned.repeat == "once" and offer.earned.counted == "pooled" else offer.limits.times


def _times_over(amount: float, times: int | None) -> float | None:
    return None if times is None else float(amount * times)


def _dearest(reward: PutIn, goods: Goods) -> float:
    """The most a shopper saves on a unit of what is put in, or what it costs where that is more."""
    at = [goods.index_of(sku) for sku in (*reward.all_skus(goods), reward.substitute) if sku]
    standing = [max(float(goods.standing_price[one]) - reward.amount, 0.0) for one in at if one is not None]
    costs = [float(goods.column("unit_cost")[one]) - reward.amount for one in at if one is not None]
    return max([*standing, *costs], default=0.0)


def _of_stock(offer: Offer, goods: Goods) -> float | None:
    """What all there is to put in comes to, where the offer gives nothing else; None where that is not counted."""
    rewards = list(offer.rewards())
    if not all(isinstance(one, PutIn) for one in rewards):
        return None
    whole = 0.0
    skus: dict[str, float] = {}
    for reward in rewards:
        if isinstance(reward, PutIn):
            for sku in (*reward.all_skus(goods), reward.substitute):
                if sku:
                    skus[sku] = max(skus.get(sku, 0.0), _dearest(reward, goods))
    for sku, each in skus.items():
        at = goods.index_of(sku)
        stock = None if at is None else float(goods.stock[at])
        if stock is None or stock != stock:
            return None
        whole += max(stock, 0.0) * each
    return whole


def _dearest_charge(shop: Shop) -> float | None:
    """The most delivery is charged, minor units; None where that has no bound."""
    most = [option.charge.most for zone in shop.zones for option in zone.options]
    return (
        None
        if any(one is None for one in most)
        else max((float(one) for one in most if one is not None), default=0.0)
    )
