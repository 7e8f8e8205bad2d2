"""Going prices from what orders paid: the usual price of the last so many days, kept with the goods."""

from collections.abc import Collection

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.core.ground.money import Bools, Ints, rhu
from yellow_abacus.store.loading import LoadedShop
from yellow_abacus.store.models import GoodRow

FEWEST_UNITS = 3
"""A price is usual where at least so many units were paid for."""


def usual_prices(loaded: LoadedShop, last_days: int) -> dict[str, int]:
    """What a unit of each SKU was paid on average over the last days orders came in, minor units."""
    orders, raw = loaded.orders, loaded.batch.raw
    if raw is None or not len(orders.day):
        return {}
    tells: Bools = (orders.paid >= 0) & (orders.day > orders.day.max() - last_days)[orders.cart]
    skus = len(loaded.table.skus)

    def summed(figures: Ints) -> Ints:
        found = np.zeros(skus, dtype=np.int64)
        np.add.at(found, raw.sku[tells], figures[tells])
        return found

    units, paid = summed(orders.quantity), summed(orders.paid)
    price = rhu(paid, np.maximum(units, 1))
    known = np.flatnonzero((units >= FEWEST_UNITS) & (price > 0))
    return {loaded.table.skus[at]: int(price[at]) for at in known.tolist()}


def put_going_prices(session: Session, prices: dict[str, int], skus: Collection[str] | None) -> int:
    """Keep them for some goods, or for all; how many have one now that had another."""
    changed = 0
    for row in session.scalars(select(GoodRow)):
        if row.sku in prices and (skus is None or row.sku in skus) and row.going_price != prices[row.sku]:
            row.going_price = prices[row.sku]
            changed += 1
    return changed


def drop_going_prices(session: Session, skus: Collection[str] | None) -> None:
    """List prices as they are, for some goods or for all."""
    for row in session.scalars(select(GoodRow).where(GoodRow.going_price.is_not(None))):
        if skus is None or row.sku in skus:
            row.going_price = None
