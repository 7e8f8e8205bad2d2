"""What orders paid for delivery, zone by zone and option by option, and whether that is what the shop's options ask.
docs/sums.md, "What orders paid for delivery"."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.delivery.charges import CostPlus
from yellow_abacus.core.delivery.parcels import load_of
from yellow_abacus.core.delivery.zones import Carriage
from yellow_abacus.core.ground.money import LARGEST_CHARGE, WHOLE_BP, Bools, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.learning.charges_paid import ChargePaid, charge_paid
from yellow_abacus.orders_alike import FEWEST_ORDERS, Beside, BesideSet, alike, last_days, meant
from yellow_abacus.store.loading import LoadedShop

CLEARLY = 0.1
"""It goes by fewer days where such a share more of their orders paid just what they tell by themselves, as after a
charge was changed."""


@dataclass(frozen=True)
class DeliveryPaid:
    """What orders of one zone paid for delivery by one option, as they name it; by none where they name none.

    days: the last of history that they are of, None for all. orders: that tell it. found: the charge most of them
    paid; another, others: what most of the rest paid, minor units, and how many, None and 0 where there is no rest.
    ours: the shop's option of that name, or all those of the zone where they name none; as_asked: how many paid just
    what one of these asks. dearest: the most the charge went by in any, minor units. share_bp: of the zone's orders
    that tell.
    """

    zone: int
    option: str
    days: int | None
    orders: int
    found: ChargePaid
    another: int | None
    others: int
    ours: tuple[str, ...]
    as_asked: int
    dearest: int
    share_bp: int


def delivery_paid(loaded: LoadedShop) -> list[DeliveryPaid]:
    """Zone by zone, the option most orders went by first.

    Left out are orders with a code, in other currencies, and of days on which an offer for everybody lowered it.
    """
    orders, zones = _Told(loaded), loaded.batch.zone_by_cart
    tells = np.flatnonzero(orders.tells)
    in_zone = np.bincount(zones[tells], minlength=len(loaded.shop.zones))
    found = [
        orders.paid_by(zone, option, carts, round(WHOLE_BP * len(carts) / int(in_zone[zone])))
        for zone, option, carts in alike(loaded, tells)
        if len(carts) >= FEWEST_ORDERS
    ]
    return sorted(found, key=lambda one: (one.zone, -one.share_bp))


def paid_beside_options(loaded: LoadedShop) -> BesideSet:
    """What orders paid for delivery, beside what the shop's options ask, the nearest of those each may have gone
    by."""
    orders = _Told(loaded)

    def both(some: Ints) -> Iterator[Beside]:
        for zone, option, carts in alike(loaded, some):
            if ours := meant(orders.delivery, zone, option):
                asked = float(orders.asked_nearest(ours, carts).sum())
                yield Beside(len(carts), float(orders.paid[carts].sum()), asked)

    return BesideSet(loaded.orders.day, np.flatnonzero(orders.tells), both)


class _Told:
    """Which orders tell what their delivery was charged (`tells`, by cart), and what the charge goes by."""

    def __init__(self, loaded: LoadedShop) -> None:
        self.loaded, self.paid = loaded, loaded.orders.delivery_paid
        self.delivery, self.weight = loaded.shop.delivery, loaded.batch.weight_by_cart
        facts = loaded.batch.facts
        has_code, at_home = facts.code.number_by_cart != UNKNOWN, facts.currency.among([loaded.currency])
        says = (self.paid >= 0) & (self.paid <= LARGEST_CHARGE)
        self.tells: Bools = says & ~has_code & at_home & ~self._lowered()

    def _lowered(self) -> Bools:
        """By cart, whether an offer without a code lowered delivery on its day."""
        day = self.loaded.orders.day
        found: Bools = np.zeros(len(day), dtype=np.bool_)
        for one in (*self.loaded.running, *self.loaded.past):
            first, last = one.terms.when.first_day, one.terms.when.last_day
            if one.terms.given.by == "itself" and one.terms.works_on_delivery:
                begun = first is None or day >= first.toordinal()
                found |= begun & (last is None or day <= last.toordinal())
        return found

    @cached_property
    def worth(self) -> Ints:
        """What was paid for the goods of each cart, or asked where the shop's charges go by that, minor units."""
        orders, lines = self.loaded.orders, self.loaded.lines
        listed = np.maximum(self.loaded.batch.goods.list_price[lines.sku], 0)
        asked = np.where(orders.asked > 0, orders.asked, listed) * orders.quantity
        as_paid = self.loaded.shop.settings.delivery_from == "net"
        found = np.zeros(len(orders.ids), dtype=np.int64)
        np.add.at(found, orders.cart, np.where(orders.paid >= 0, orders.paid, asked) if as_paid else asked)
        return found

    def paid_by(self, zone: int, option: str, carts: Ints, share_bp: int) -> DeliveryPaid:
        days, some, found = self._of_late(carts)
        paid, ours = self.paid[some], meant(self.delivery, zone, option)
        rest = paid[found.asked(self.worth[some], self.weight[some]) != paid]
        amounts, often = np.unique(rest, return_counts=True)
        return DeliveryPaid(
            zone=zone,
            option=option,
            days=days,
            orders=len(some),
            found=found,
            another=int(amounts[often.argmax()]) if len(rest) else None,
            others=int(often.max()) if len(rest) else 0,
            ours=tuple(map(self.delivery.name_of, ours)),
            as_asked=int((self.asked_nearest(ours, some) == paid).sum()) if ours else 0,
            dearest=int(self.worth[some].max()),
            share_bp=share_bp,
        )

    def _of_late(self, carts: Ints) -> tuple[int | None, Ints, ChargePaid]:
        """The last days by which it goes, which of some carts are of those, and the charge they tell."""
        found: tuple[int | None, Ints, ChargePaid] | None = None
        for days, some in last_days(self.loaded.orders.day, carts):
            told = self._charge(some)
            if found is None or told.exact - self._exact(found[2], some) >= CLEARLY * len(some):
                found = days, some, told
        assert found is not None, "the last days are some"
        return found

    def _charge(self, carts: Ints) -> ChargePaid:
        return charge_paid(self.worth[carts], self.weight[carts], self.paid[carts])

    def _exact(self, found: ChargePaid, carts: Ints) -> int:
        return int((found.asked(self.worth[carts], self.weight[carts]) == self.paid[carts]).sum())

    def asked_nearest(self, options: list[int], carts: Ints) -> Ints:
        """What that of some options asks of each cart which comes nearest to what it paid, minor units."""
        batch = self.loaded.batch.some(carts)
        load, found = load_of(batch), np.zeros((len(options), len(carts)), dtype=np.int64)
        nothing = Carriage(np.zeros(len(carts)), np.ones(len(carts)), np.full(len(carts), UNKNOWN))
        for at, number in enumerate(options):
            option = np.full(len(carts), number)
            _, asks = self.delivery.options[number]
            carriage = self.delivery.carriage(load, option) if isinstance(asks.charge, CostPlus) else nothing
            found[at] = self.delivery.charge(self.worth[carts], load, option, carriage)
        batch.let_go()
        nearest = np.abs(found - self.paid[carts]).argmin(axis=0)
        result: Ints = found[nearest, np.arange(len(carts))]
        return result
