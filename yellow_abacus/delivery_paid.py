"""What orders paid for delivery, zone by zone and option by option, and whether that is what the shop's options ask.
docs/sums.md, "What orders paid for delivery"."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.delivery.parcels import load_of
from yellow_abacus.core.delivery.zones import Delivery
from yellow_abacus.core.ground.money import WHOLE_BP, Bools, Ints
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.learning.charges_paid import ChargePaid, charge_paid
from yellow_abacus.store.loading import LoadedShop

FEWEST_ORDERS = 10
"""It is told of a zone and option that so many orders went by."""
OF_LATE = (90, 30, 14)
"""The last days whose orders tell it, where so many came; the fewer where such a share more of theirs paid just what
they tell by themselves, as after a charge was changed."""
CLEARLY = 0.1


@dataclass(frozen=True)
class DeliveryPaid:
    """What orders of one zone paid for delivery by one option, as they name it; by none where they name none.

    days: the last of history that they are of, None for all. orders: that tell it. found: the charge most of them
    paid. ours: the shop's option of that name, or its only one in that zone where they name none, None where there is
    no such option; as_asked: how many paid just what it asks. another, others: what most of the rest paid, minor
    units, and how many; None and 0 where there is no rest. share_bp: of the zone's orders that tell.
    """

    zone: int
    option: str
    days: int | None
    orders: int
    found: ChargePaid
    ours: str | None
    as_asked: int
    another: int | None
    others: int
    share_bp: int


def delivery_paid(loaded: LoadedShop) -> list[DeliveryPaid]:
    """Zone by zone, the option most orders went by first. Orders with a code and in other currencies are left out."""
    orders, facts, zones = loaded.orders, loaded.batch.facts, loaded.batch.zone_by_cart
    other_code, at_home = facts.code.number_by_cart != UNKNOWN, facts.currency.among([loaded.currency])
    tells: Bools = (orders.delivery_paid >= 0) & ~other_code & at_home
    worth = _goods_paid(loaded)
    found = []
    for zone in np.unique(zones[tells]).tolist():
        here = tells & (zones == zone)
        names, option = facts.option.names, facts.option.number_by_cart
        for number in np.unique(option[here]).tolist():
            carts = np.flatnonzero(here & (option == number))
            if len(carts) >= FEWEST_ORDERS:
                name = "" if number == UNKNOWN else names[number]
                found.append(_paid_by(loaded, zone, name, carts, worth, round(WHOLE_BP * len(carts) / here.sum())))
    return sorted(found, key=lambda one: (one.zone, -one.share_bp))


def _goods_paid(loaded: LoadedShop) -> Ints:
    """By cart, what its delivery charge goes by: what was paid for its goods, or what was asked for them where the
    shop's settings say so; minor units."""
    orders, lines = loaded.orders, loaded.lines
    listed = np.maximum(loaded.batch.goods.list_price[lines.sku], 0)
    asked = np.where(orders.asked > 0, orders.asked, listed) * orders.quantity
    paid = (
        asked if loaded.shop.settings.delivery_from == "standing" else np.where(orders.paid >= 0, orders.paid, asked)
    )
    found = np.zeros(len(orders.ids), dtype=np.int64)
    np.add.at(found, orders.cart, paid)
    return found


def _paid_by(loaded: LoadedShop, zone: int, option: str, carts: Ints, worth: Ints, share_bp: int) -> DeliveryPaid:
    paid, weight = loaded.orders.delivery_paid, loaded.batch.weight_by_cart
    days, some, found = None, carts, None
    for last, late in _of_late(loaded.orders.day, carts):
        one = charge_paid(worth[late], weight[late], paid[late])
        if found is None or one.exact - _exact(found, worth[late], weight[late], paid[late]) >= CLEARLY * len(late):
            days, some, found = last, late, one
    if found is None:
        found = charge_paid(worth[some], weight[some], paid[some])
    rest = paid[some][found.asked(worth[some], weight[some]) != paid[some]]
    amounts, often = np.unique(rest, return_counts=True)
    number = _meant(loaded.shop.delivery, zone, option)
    return DeliveryPaid(
        zone,
        option,
        days,
        len(some),
        found,
        None if number is None else loaded.shop.delivery.name_of(number),
        0 if number is None else int((_asked_by(loaded, number, some, worth) == paid[some]).sum()),
        int(amounts[often.argmax()]) if len(rest) else None,
        int(often.max()) if len(rest) else 0,
        share_bp,
    )


def _of_late(day: Ints, carts: Ints) -> Iterator[tuple[int, Ints]]:
    """The last days, and which of some carts are of those, where so many are."""
    for days in OF_LATE:
        some = carts[day[carts] > day.max() - days]
        if len(some) >= FEWEST_ORDERS:
            yield days, some


def _exact(found: ChargePaid, worth: Ints, weight: Ints, paid: Ints) -> int:
    return int((found.asked(worth, weight) == paid).sum())


def _meant(delivery: Delivery, zone: int, option: str) -> int | None:
    """The number of the shop's option that orders mean."""
    of_zone = {folded(one.name): number for number, (at, one) in enumerate(delivery.options) if at == zone}
    return next(iter(of_zone.values())) if not option and len(of_zone) == 1 else of_zone.get(folded(option))


def _asked_by(loaded: LoadedShop, number: int, carts: Ints, worth: Ints) -> Ints:
    """What the shop's option asks of some carts, minor units."""
    load, option = load_of(loaded.batch).some(carts), np.full(len(carts), number)
    return loaded.shop.delivery.charge(worth[carts], load, option, loaded.shop.delivery.carriage(load, option))
