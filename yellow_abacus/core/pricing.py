"""One batch of carts priced under a set of offers.

Goods offers in plan order, each on the line amounts (`net`) that earlier ones left; then the delivery charge;
then delivery offers; then tax. docs/sums.md, "One cart, priced".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.money import WHOLE_BP, Bools, Ints, percent_of, rhu
from yellow_abacus.core.offers import GoodsReward, Offer
from yellow_abacus.core.shop import Settings, Shop
from yellow_abacus.core.together import largest_sets


@dataclass(frozen=True, eq=False)
class Priced:
    """What each shopper sees. All in minor units; goods and delivery as the shop states prices.

    goods_off, delivery_off: one row an offer, one column a cart.
    tax: in all. goods_tax, delivery_tax: its parts. total: what the shopper pays.
    """

    net_by_line: Ints
    goods_by_cart: Ints
    goods_off: Ints
    charge_before_offers: Ints
    charge_by_cart: Ints
    delivery_off: Ints
    goods_tax: Ints
    delivery_tax: Ints
    total: Ints

    @property
    def took_effect(self) -> Bools:
        """One row an offer, one column a cart: the offer lowered an amount by at least one minor unit."""
        return (self.goods_off > 0) | (self.delivery_off > 0)


def price(shop: Shop, batch: CartBatch, offers: Sequence[Offer]) -> Priced:
    """Price every cart with `offers` available; they apply as far as they go together.

    Where not all of them can, each cart keeps the largest set that is best for its shopper: the least total;
    ties go to the set whose effective offers come earlier in the plan.
    """
    first, *others = largest_sets(offers, shop.settings.codes_per_order)
    best = price_set(shop, batch, offers, first)
    for other in others:
        challenger = price_set(shop, batch, offers, other)
        wins = challenger.total < best.total
        tied = np.flatnonzero(challenger.total == best.total)
        wins[tied] = _earlier(challenger.took_effect[:, tied], best.took_effect[:, tied])
        best = _pick(batch, wins, challenger, best)
    return best


def price_set(shop: Shop, batch: CartBatch, offers: Sequence[Offer], applied: Sequence[int]) -> Priced:
    """Price every cart with all the offers at `applied`, in plan order."""
    axes, settings = batch.axes, shop.settings
    goods_off = np.zeros((len(offers), axes.carts), dtype=np.int64)
    delivery_off = np.zeros_like(goods_off)
    times: dict[int, Ints] = {}
    net = batch.worth_by_line
    for at in applied:
        if not offers[at].goods_rewards:
            continue
        times[at] = offers[at].earned.times_by_cart(batch, net)
        for reward in offers[at].goods_rewards:
            off_by_line = _taken_off(reward, settings, batch, net, batch.lines_in(offers[at].on), times[at])
            net = net - off_by_line
            goods_off[at] += axes.sum_by_cart(off_by_line)

    goods = axes.sum_by_cart(net)
    value = goods if settings.delivery_from == "net" else batch.worth_by_cart
    charge = before_offers = shop.charge(value, batch.zone_by_cart)
    for at in applied:
        if not offers[at].delivery_rewards:
            continue
        earned = times[at] if at in times else offers[at].earned.times_by_cart(batch, net)
        for delivery_reward in offers[at].delivery_rewards:
            served = _zones_served(shop, delivery_reward.zones)[batch.zone_by_cart] & (earned > 0)
            lowered = np.where(served, delivery_reward.lowered(charge), charge)
            delivery_off[at] += charge - lowered
            charge = lowered

    goods_tax, delivery_tax = _tax(settings, goods, charge)
    on_top = 0 if settings.prices_with_tax else goods_tax + delivery_tax
    return Priced(
        net_by_line=net,
        goods_by_cart=goods,
        goods_off=goods_off,
        charge_before_offers=before_offers,
        charge_by_cart=charge,
        delivery_off=delivery_off,
        goods_tax=goods_tax,
        delivery_tax=delivery_tax,
        total=goods + charge + on_top,
    )


def _taken_off(
    reward: GoodsReward, settings: Settings, batch: CartBatch, net: Ints, in_scope: Bools, times: Ints
) -> Ints:
    """What a goods reward takes off each line: its amount on the picked units, shared by running total."""
    earned = batch.axes.spread(times > 0)
    picked = in_scope & earned & (net > 0)
    base = np.where(picked, net, 0)
    if reward.scales and settings.percent_of == "standing":
        standing = np.where(picked, batch.worth_by_line, 0)
        amount = reward.amount_by_cart(batch.axes.sum_by_cart(standing), times)
        return np.minimum(net, batch.axes.share(amount, standing))
    amount = reward.amount_by_cart(batch.axes.sum_by_cart(base), times)
    return batch.axes.share(amount, base)


def _zones_served(shop: Shop, zones: tuple[str, ...]) -> Bools:
    return np.array([not zones or zone.name in zones for zone in shop.zones])


def tax_in(settings: Settings, amount: Ints) -> Ints:
    """The tax on each amount: held in it where prices are with tax, due on top of it where they are not."""
    if settings.prices_with_tax:
        return rhu(amount * settings.tax_bp, WHOLE_BP + settings.tax_bp)
    return percent_of(amount, settings.tax_bp)


def _tax(settings: Settings, goods: Ints, charge: Ints) -> tuple[Ints, Ints]:
    """Tax on the sum, shared back by running total over goods, then delivery."""
    taxed = goods + charge
    tax = tax_in(settings, taxed)
    on_goods = rhu(tax * goods, np.maximum(taxed, 1))
    return on_goods, tax - on_goods


def _earlier(these: Bools, those: Bools) -> Bools:
    """Whether these effective offers come earlier in the plan than those: the first difference decides."""
    differs = these != those
    first = differs.argmax(axis=0) if len(these) else np.zeros(these.shape[1], dtype=np.intp)
    result: Bools = differs.any(axis=0) & these[first, np.arange(these.shape[1])]
    return result


def _pick(batch: CartBatch, wins: Bools, one: Priced, other: Priced) -> Priced:
    """Cart by cart, `one` where it wins and `other` elsewhere."""

    def carts(a: Ints, b: Ints) -> Ints:
        return np.where(wins, a, b)

    return Priced(
        net_by_line=np.where(batch.axes.spread(wins), one.net_by_line, other.net_by_line),
        goods_by_cart=carts(one.goods_by_cart, other.goods_by_cart),
        goods_off=carts(one.goods_off, other.goods_off),
        charge_before_offers=carts(one.charge_before_offers, other.charge_before_offers),
        charge_by_cart=carts(one.charge_by_cart, other.charge_by_cart),
        delivery_off=carts(one.delivery_off, other.delivery_off),
        goods_tax=carts(one.goods_tax, other.goods_tax),
        delivery_tax=carts(one.delivery_tax, other.delivery_tax),
        total=carts(one.total, other.total),
    )
