"""What being paid cost, by the way to pay that orders name, beside what the shop's settings say.
docs/sums.md, "What being paid cost".
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.ground.money import LARGEST_CHARGE, WHOLE_BP, Ints
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.shop.payments import PaymentMethod
from yellow_abacus.learning.payment_costs import PaymentCost, payment_cost
from yellow_abacus.orders_alike import FEWEST_ORDERS, Beside, BesideSet, of_late
from yellow_abacus.store.loading import LoadedShop


@dataclass(frozen=True)
class BeingPaid:
    """What orders paid one way cost for that.

    days: the last of history that they are of, None for all. orders: that tell it; cost: of all of them together,
    minor units. ours: the shop's way to pay of that name, empty where it has none; by_ours: what the same orders
    would cost by that. found: what one cost by its total.
    """

    payment: str
    days: int | None
    orders: int
    cost: int
    ours: str
    by_ours: float | None
    found: PaymentCost


def being_paid(loaded: LoadedShop) -> list[BeingPaid]:
    """By way to pay, the one most orders name first. An order that cost nothing tells nothing, nor does one of which
    it is not told what was paid for goods and delivery."""
    orders = _Told(loaded)
    found = [orders.paid_by(name, carts) for name, carts in orders.alike(orders.tells) if len(carts) >= FEWEST_ORDERS]
    return sorted(found, key=lambda one: -one.orders)


def being_paid_beside_settings(loaded: LoadedShop) -> BesideSet:
    """What being paid cost, beside what the shop's ways to pay say."""
    orders = _Told(loaded)

    def both(some: Ints) -> Iterator[Beside]:
        for name, carts in orders.alike(some):
            if (ours := orders.ours(name)) is not None:
                yield Beside(len(carts), float(orders.cost[carts].sum()), orders.by(ours, carts))

    return BesideSet(loaded.orders.day, orders.tells, both)


class _Told:
    """The orders that tell what being paid cost, and what they paid in all."""

    def __init__(self, loaded: LoadedShop) -> None:
        self.loaded, self.cost = loaded, loaded.orders.payment_cost

    @cached_property
    def tells(self) -> Ints:
        """Which carts, by index."""
        if not (self.cost > 0).any():
            return np.array([], dtype=np.int64)
        named = self.loaded.batch.facts.payment.number_by_cart != UNKNOWN
        return np.flatnonzero((self.cost > 0) & (self.cost <= LARGEST_CHARGE) & named & (self.total > 0))

    @cached_property
    def total(self) -> Ints:
        """By cart, what was paid with tax, 0 where that is not told."""
        orders, batch, taxes = self.loaded.orders, self.loaded.batch, self.loaded.shop.taxes
        goods = orders.paid.astype(np.float64)
        delivery = orders.delivery_paid.astype(np.float64)
        if not taxes.included:
            rates = taxes.rates(self.loaded.shop.zone_names) / WHOLE_BP
            zones, classes = batch.zone_by_cart, taxes.class_of_sku(batch.goods)
            goods = goods * (1 + rates[zones[orders.cart], classes[self.loaded.lines.sku]])
            delivery = delivery * (1 + rates[zones, taxes.class_number(taxes.delivery or "")])
        found = np.bincount(orders.cart, goods, len(orders.ids)) + delivery
        untold = np.bincount(orders.cart, orders.paid < 0, len(orders.ids)) > 0
        total: Ints = np.where(untold | (delivery < 0), 0, np.floor(found + 0.5)).astype(np.int64)
        return total

    def alike(self, carts: Ints) -> Iterator[tuple[str, Ints]]:
        """Those of some carts that name one way to pay."""
        payment = self.loaded.batch.facts.payment.some(carts).together()
        for number in np.unique(payment.number_by_cart).tolist():
            yield payment.names[number], carts[payment.number_by_cart == number]

    def ours(self, name: str) -> PaymentMethod | None:
        return next((one for one in self.loaded.shop.payments if folded(one.name) == folded(name)), None)

    def by(self, method: PaymentMethod, carts: Ints) -> float:
        """What carts would cost by a way to pay, all together."""
        return float(PaymentCost(method.cost_bp, method.fixed, None).asked(self.total[carts]).sum())

    def paid_by(self, name: str, carts: Ints) -> BeingPaid:
        days, some, found = of_late(
            self.loaded.orders.day,
            carts,
            self.cost,
            find=lambda some: payment_cost(self.total[some], self.cost[some]),
            told=lambda found, late: found.asked(self.total[late]),
        )
        ours = self.ours(name)
        return BeingPaid(
            payment=name,
            days=days,
            orders=len(some),
            cost=int(self.cost[some].sum()),
            ours="" if ours is None else ours.name,
            by_ours=None if ours is None else self.by(ours, some),
            found=found,
        )
