"""The carts to expect, and the only holder of their weights.

A mix says of each cart how many orders a day it stands for, and of which type it is. Mixes add up: to weigh a cart
twice as much is to expect it twice. docs/sums.md, "A forecast".

>>> from yellow_abacus.core.forecast.mix import per_day
>>> per_day(3, counted_days=30)
array([0.03333333, 0.03333333, 0.03333333])
"""

from dataclasses import dataclass, replace
from datetime import date
from functools import cached_property

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.forecast.cart_types import WAYS, CartTypes, largest
from yellow_abacus.core.ground.keeper import Apart, Keeper
from yellow_abacus.core.ground.money import Floats, Ints
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.pricing.rows import by_payment
from yellow_abacus.core.shop.shop import Shop

OTHERS_KEPT = 8


@dataclass(frozen=True, eq=False)
class Mix(Apart):
    """orders_by_cart: how many orders a day each cart stands for.

    key: what tells it from the other mixes of the same shop and orders. origin: the mix this one was made of, and
    which of its carts each one is.
    """

    shop: Shop
    batch: CartBatch
    orders_by_cart: Floats
    key: tuple[object, ...] = ()
    origin: "tuple[Mix, Ints] | None" = None

    @cached_property
    def types(self) -> dict[str, CartTypes]:
        """Ways to sort the carts, by name. A cart is of one type whatever the prices of the day."""
        if self.origin is None:
            return {way: largest(sort(self.shop, self.batch)) for way, sort in WAYS.items()}
        whole, cart = self.origin
        return {way: CartTypes(one.labels, one.type_by_cart[cart]) for way, one in whole.types.items()}

    def on_day(self, day: date) -> "Mix":
        """The carts at the prices of that day."""
        batch = self.batch.on_day(day)
        if batch is self.batch:
            return self
        key, every = (*self.key, batch.goods.price_key), np.arange(batch.axes.carts)
        return self._others.get(key, lambda: replace(self, batch=batch, key=key, origin=(self, every)))

    def paid(self, offers: tuple[Offer, ...]) -> "Mix":
        """The carts by the way they are paid, where that changes a price under these offers."""
        found = by_payment(self.shop, self.batch, offers)
        if found.batch is self.batch:
            return self
        orders = self.orders_by_cart[found.cart] * found.share
        key = (*self.key, "paid")
        return self._others.get(
            key, lambda: replace(self, batch=found.batch, orders_by_cart=orders, key=key, origin=(self, found.cart))
        )

    def let_go(self) -> None:
        """Forget what was made of it, so that nothing outlasts its last use."""
        self._others.clear()
        self.batch.let_go()

    @cached_property
    def _others(self) -> Keeper:
        """Mixes made of this one, so that what was found of them is found once."""
        return Keeper(most=1_000_000_000, things=OTHERS_KEPT)


def per_day(carts: int, counted_days: int) -> Floats:
    """How many orders a day each cart of a history stands for that was counted over so many days."""
    return np.full(carts, 1.0 / counted_days)


def from_history(shop: Shop, batch: CartBatch, counted_days: int) -> Mix:
    """Every cart of the history, each as likely as any other. counted_days: 1 or more."""
    return Mix(shop, batch, per_day(batch.axes.carts, counted_days))
