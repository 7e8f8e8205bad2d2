"""What orders tell of goods, kept with them when the merchant says so: the price they really go at, and how many are
sent back. And how many went by each delivery option and way to pay."""

from collections.abc import Collection
from dataclasses import dataclass

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.core.carts.facts import UNKNOWN, Labels
from yellow_abacus.core.ground.money import WHOLE_BP, Bools, Ints, rhu
from yellow_abacus.core.offers.free_lines import unexplained
from yellow_abacus.core.shop.payments import refused as expected_by_settings
from yellow_abacus.learning.came import CameBack
from yellow_abacus.refusals import refused_orders
from yellow_abacus.store.loading import LoadedShop
from yellow_abacus.store.models import GoodRow

FEWEST_UNITS = 3
"""A price is usual where at least so many units were paid for."""
FEWEST_TOLD = 30
"""How many are sent back is told of goods of which so many units were ordered."""


def usual_prices(loaded: LoadedShop, last_days: int) -> dict[str, int]:
    """What a unit of each SKU was paid on average over the last days orders came in, minor units."""
    orders = loaded.orders
    if not len(orders.day):
        return {}
    of_late = (orders.day > orders.day.max() - last_days)[orders.cart]
    tells: Bools = (orders.paid >= 0) & of_late & ~loaded.lines.is_put_in
    units, paid = (_by_sku(loaded, figures * tells) for figures in (orders.quantity, orders.paid))
    price = rhu(paid, np.maximum(units, 1))
    known = np.flatnonzero((units >= FEWEST_UNITS) & (price > 0))
    return {loaded.table.skus[at]: int(price[at]) for at in known.tolist()}


@dataclass(frozen=True, eq=False)
class SentBack:
    """One entry a SKU: units ordered and units sent back, of orders that were not refused on the way."""

    units: Ints
    returned: Ints


def _by_sku(loaded: LoadedShop, by_line: Ints) -> Ints:
    """Figures of the lines orders brought, added up by SKU."""
    found = np.zeros(len(loaded.table.skus), dtype=np.int64)
    np.add.at(found, loaded.lines.sku, by_line)
    return found


def sent_back(loaded: LoadedShop) -> SentBack | None:
    """None where orders do not tell of anything sent back."""
    orders = loaded.orders
    counts = ~loaded.lines.is_put_in & ~refused_orders(loaded)[orders.cart]
    returned = orders.returned * counts
    return SentBack(_by_sku(loaded, orders.quantity * counts), _by_sku(loaded, returned)) if returned.any() else None


def came_back(loaded: LoadedShop, carts: Ints) -> CameBack:
    """carts: of the history, by index."""
    orders, raw, refused = loaded.orders, loaded.lines, refused_orders(loaded)
    mine = np.isin(raw.cart, carts[~refused[carts]]) & ~raw.is_put_in
    rates = loaded.batch.goods.column("return_rate")[raw.sku[mine]]
    units = orders.quantity[mine]
    as_expected = expected_by_settings(loaded.shop.payments, loaded.batch.facts.payment.some(carts))
    return CameBack(
        units=int(units.sum()),
        returned=int(orders.returned[mine].sum()),
        expected=float((units * rates).sum()),
        orders=len(carts),
        refused=int(refused[carts].sum()),
        as_expected=float(as_expected.sum()),
    )


@dataclass(frozen=True)
class PaidNothing:
    """Units of orders that paid nothing: put_in, which an offer put in; unexplained, goods with a price that no offer
    told explains, which count as ordered; told_twice: of lines that tell a kit once more, paid for or not."""

    put_in: int
    unexplained: int
    told_twice: int


def paid_nothing(loaded: LoadedShop) -> PaidNothing:
    orders, raw = loaded.orders, loaded.lines
    priced = (loaded.batch.goods.list_price > 0)[raw.sku]
    other = unexplained(raw, orders.paid, priced, len(orders.ids))
    twice = loaded.told_twice
    return PaidNothing(
        put_in=int(orders.quantity[raw.is_put_in].sum()),
        unexplained=int(orders.quantity[other].sum()),
        told_twice=0 if twice is None else int(loaded.told.quantity[twice].sum()),
    )


@dataclass(frozen=True)
class WaysNamed:
    """How many orders name each delivery option, by zone, and each way to pay: those that name one."""

    options: dict[int, dict[str, int]]
    payments: dict[str, int]


def ways_named(loaded: LoadedShop) -> WaysNamed:
    facts, zones = loaded.batch.facts, loaded.batch.zone_by_cart
    by_zone = {zone: _counts(facts.option.some(np.flatnonzero(zones == zone))) for zone in np.unique(zones).tolist()}
    return WaysNamed({zone: counts for zone, counts in by_zone.items() if counts}, _counts(facts.payment))


def _counts(labels: Labels) -> dict[str, int]:
    """How many carts have each name, whatever its case, the most first."""
    alike = labels.together()
    many = np.bincount(alike.number_by_cart[alike.number_by_cart != UNKNOWN], minlength=len(alike.names))
    return {alike.names[at]: int(many[at]) for at in np.argsort(-many, kind="stable").tolist() if many[at]}


def put_return_rates(session: Session, loaded: LoadedShop, found: SentBack) -> int:
    """Keep the share sent back of goods that were ordered often enough; how many have another rate now."""
    rate_bp = rhu(found.returned * WHOLE_BP, np.maximum(found.units, 1))
    often = {loaded.table.skus[at]: int(rate_bp[at]) for at in np.flatnonzero(found.units >= FEWEST_TOLD).tolist()}
    changed = 0
    for row in session.scalars(select(GoodRow)):
        if row.sku in often and row.return_bp != often[row.sku]:
            row.return_bp = often[row.sku]
            changed += 1
    return changed


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
