"""The smallest change of one offer that closes a leak: what it takes from other orders is least.

Changes are tried on the cart that leaks and on smaller ones like it, priced anew: a change that only moves the leak
next door does not close it.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import product

import numpy as np

from yellow_abacus.core.advice.built import Bench, Bunch, Worst, bunched
from yellow_abacus.core.advice.leaks import Leak, everywhere, nowhere, steps_from
from yellow_abacus.core.advice.scene import Scene, without
from yellow_abacus.core.advice.snag import Mend, Said, cash, say
from yellow_abacus.core.carts.spread import round_width
from yellow_abacus.core.ground.money import MILLIGRAMS, Floats
from yellow_abacus.core.offers import BuyGet, DeliveryReward, GoodsReward, GoodsSet, Offer, PutIn
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.rows import rows_of

AROUND = 4_000
"""So many carts around a leak are tried."""
A_TRIFLE = 0.01
"""Minor units."""


@dataclass(frozen=True)
class Closing:
    """offer: whose change it is, by number in the plan. mend: the change. loses: the most a cart around the leak
    loses yet that it does not lose today, minor units."""

    offer: int
    mend: Mend
    loses: float


def closing(scene: Scene, bench: Bench, leak: Leak) -> Closing | None:
    """A change after which no cart like it leaks; else one after which none leaks by its offer; None where there is
    neither."""
    around = _around(bench, leak)
    given = _given(scene, bench.offers)
    best: tuple[tuple[float, float], Closing] | None = None
    for number in leak.offers:
        if bench.offers[number] in bench.running:
            continue  # it runs already, plan or not
        for mend in _changes(scene, bench, leak, number):
            offers = tuple(mend.offer if one == number else offer for one, offer in enumerate(bench.offers))
            changed = bench.with_offers(offers)
            left = changed.worst(around)
            if (np.isfinite(left.kept) & left.offers[:, number]).any():
                continue
            rank = _more_lost(left), abs(given - _given(scene, offers))
            if best is None or rank < best[0]:
                whens = replace(mend.offer, when=scene.plan.offers[number].when)
                best = rank, Closing(number, replace(mend, offer=whens), _loses_yet(changed, around))
    return None if best is None else best[1]


def _loses_yet(bench: Bench, around: Bunch) -> float:
    """The most that a cart loses more than it does today, minor units."""
    return _more_lost(replace(bench, least=A_TRIFLE).worst(around))


def _more_lost(worst: Worst) -> float:
    more = np.minimum(worst.kept_today, 0.0) - worst.kept
    return float(more[np.isfinite(worst.kept)].max(initial=0.0))


def _around(bench: Bench, leak: Leak) -> Bunch:
    """The cart, the same in smaller, each of its goods alone, and one unit otherwise; to every zone, by everybody."""
    sku = np.array([[at for at, _ in leak.lines]], dtype=np.int64)
    units = np.array([count for _, count in leak.lines], dtype=np.int64)
    sizes = [sorted({0, 1, count // 4, count // 2, count}) for count in units.tolist()]
    smaller = np.array([one for one in product(*sizes) if any(one)], dtype=np.int64)
    alike = nowhere(np.repeat(sku, len(smaller), axis=0), smaller)
    near = bunched([alike, steps_from(alike, np.zeros(0, dtype=np.int64))])
    places = len(bench.shop.zones) * len(bench.guises)
    return everywhere(bench, near.some(slice(0, max(AROUND // places, len(alike)))))


def _given(scene: Scene, offers: tuple[Offer, ...]) -> float:
    """What the mix is given away under some offers, minor units."""
    there = reached(offers, scene.shop, scene.batch)
    rows = rows_of(scene.shop, scene.batch, offers, there)
    priced = price(scene.shop, rows, offers, scene.plan.apply, there=there)
    given: Floats = (priced.goods_off + priced.delivery_off + priced.saved).sum(axis=0)
    return float((given * scene.orders_by_cart[rows.cart_by_row] * rows.share_by_row).sum())


# --- what may be changed


def _changes(scene: Scene, bench: Bench, leak: Leak, at: int) -> Iterator[Mend]:
    offer = bench.offers[at]
    limits, rewards = offer.limits, list(offer.rewards())
    if offer.earned.repeat == "each_time":
        for times in (3, 2, 1):
            if limits.times is None or limits.times > times:
                label = "Once an order" if times == 1 else f"{times} times an order at most"
                yield Mend(say(label), replace(offer, limits=replace(limits, times=times)))
    if any(isinstance(one, GoodsReward) for one in rewards):
        yield from _capped(scene, leak, offer)
    for number, reward in enumerate(offer.gives):
        gives = _fewer_choices(scene, reward) if isinstance(reward, PutIn) else _cheapest(reward)
        if gives is not None:
            changed = (*offer.gives[:number], gives[1], *offer.gives[number + 1 :])
            yield Mend(say(gives[0]), replace(offer, gives=changed))
    if any(isinstance(one, DeliveryReward) for one in rewards):
        yield from _lighter(scene, leak, offer)
    yield from _elsewhere(scene, leak, offer)
    yield from _other_goods(scene, leak, offer)
    others = [one for one in leak.offers if one != at]
    if others:
        named = tuple(dict.fromkeys((*offer.alongside.never_with, *(scene.plan.offers[one].id for one in others))))
        label = f"Never together with {' or '.join(scene.names[one] for one in others)}"
        yield Mend(say(label), replace(offer, alongside=replace(offer.alongside, never_with=named)))


def _capped(scene: Scene, leak: Leak, offer: Offer) -> Iterator[Mend]:
    """No more off an order than what other orders get, or a part of it."""
    worth = sum(int(scene.goods.standing_price[sku]) * units for sku, units in leak.lines)
    most = round_width(max(worth / 4, 1))
    for _ in range(4):
        amount = int(max(most, 1))
        if offer.limits.amount is None or amount < offer.limits.amount:
            text: Said = say("Take ", cash(amount), " off an order at most")
            yield Mend(text, replace(offer, limits=replace(offer.limits, amount=amount)))
        most = round_width(max(most / 2.5, 1))


def _fewer_choices(scene: Scene, reward: PutIn) -> tuple[str, PutIn] | None:
    skus = [sku for sku, _ in reward.choices(scene.goods)]
    if len(skus) < 2:
        return None
    cheapest = min(skus, key=lambda sku: (float(scene.goods.column("unit_cost")[sku]), sku))
    name = scene.goods.skus[cheapest]
    return f"Put in {name} alone", replace(reward, skus=(name,), categories=(), shares_bp=())


def _cheapest(reward: object) -> tuple[str, BuyGet | GoodsSet] | None:
    if isinstance(reward, BuyGet) and reward.units_from == "dearest":
        return "Give the cheapest", replace(reward, units_from="cheapest")
    return None


def _lighter(scene: Scene, leak: Leak, offer: Offer) -> Iterator[Mend]:
    weight = sum(int(scene.goods.milligrams[sku]) * units for sku, units in leak.lines)
    kilos = round_width(max(weight / MILLIGRAMS, 1.0))
    for grams in (kilos // 2, kilos // 5, kilos // 10, kilos // 25):
        if grams >= 1:
            gives = tuple(_below(one, grams) if isinstance(one, DeliveryReward) else one for one in offer.gives)
            yield Mend(say(f"Only below {grams / 1000:g} kg"), replace(offer, gives=gives))


def _below(reward: DeliveryReward, grams: int) -> DeliveryReward:
    return replace(reward, below_weight=min(grams, reward.below_weight or grams))


def _elsewhere(scene: Scene, leak: Leak, offer: Offer) -> Iterator[Mend]:
    zone = scene.shop.zone_names[leak.zone]
    if any(one != zone for one in offer.where.names_in(scene.shop.zone_names)):
        yield Mend(say(f"Leave {zone} out"), replace(offer, where=offer.where.without_zone(zone)))


def _other_goods(scene: Scene, leak: Leak, offer: Offer) -> Iterator[Mend]:
    """Without the goods of the leak, and without all that keep as little."""
    mine = [sku for sku, _ in leak.lines if offer.on.holds(scene.goods)[sku]]
    if not mine or not offer.works_on_goods:
        return
    left = without(offer.on, [scene.goods.skus[sku] for sku in mine])
    yield Mend(say(f"Leave {scene.named(mine)} out"), replace(offer, on=left))
    thin = np.flatnonzero((scene.most_off <= scene.most_off[mine].max()) & offer.on.holds(scene.goods))
    if len(thin) > len(mine):
        left = without(offer.on, [scene.goods.skus[sku] for sku in thin])
        yield Mend(say(f"Leave out goods that keep no more than {scene.named(mine)}"), replace(offer, on=left))
