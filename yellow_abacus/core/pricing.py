"""One batch of carts priced under a set of offers.

Goods offers in plan order, each on the line amounts (`net`) that earlier ones left; then the delivery charge;
then delivery offers; then tax. docs/sums.md, "One cart, priced".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.money import LARGEST_CART, WHOLE_BP, Bools, Ints, percent_of, rhu
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.offers.picked import Picked, pick
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
        best = _choose(batch, wins, challenger, best)
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
        times[at] = _times_earned(offers[at], batch, net)
        for reward in offers[at].goods_rewards:
            picked = _pick(offers[at], settings, batch, net, times[at], goods_off[at])
            off_by_line = reward.off_by_line(picked)
            net = net - off_by_line
            goods_off[at] += axes.sum_by_cart(off_by_line)

    goods = axes.sum_by_cart(net)
    value = goods if settings.delivery_from == "net" else batch.worth_by_cart
    charge = before_offers = shop.charge(value, batch.zone_by_cart)
    for at in applied:
        if not offers[at].delivery_rewards:
            continue
        earned = times[at] if at in times else _times_earned(offers[at], batch, net)
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


def _times_earned(offer: Offer, batch: CartBatch, net: Ints) -> Ints:
    times = offer.earned.times_by_cart(batch, net)
    return times if offer.limits.times is None else np.minimum(times, offer.limits.times)


def _pick(offer: Offer, settings: Settings, batch: CartBatch, net: Ints, times: Ints, taken: Ints) -> Picked:
    """The units an offer's next goods reward works on: in its scope, of lines that still cost something."""
    axes, limits = batch.axes, offer.limits
    open_lines = batch.lines_in(offer.on) & axes.spread(times > 0) & (net > 0)
    open_units = np.where(open_lines, batch.quantity_by_line, 0)
    units, base = pick(axes, net, batch.quantity_by_line, open_units, limits.units, limits.units_from)
    return Picked(
        axes=axes,
        net=net,
        units=units,
        base=base,
        standing=batch.standing_by_line * units,
        times=times,
        room=np.full(axes.carts, LARGEST_CART) if limits.amount is None else limits.amount - taken,
        percent_from=settings.percent_of,
    )


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


def _choose(batch: CartBatch, wins: Bools, one: Priced, other: Priced) -> Priced:
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
