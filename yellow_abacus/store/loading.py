"""A shop file as the core's arrays."""

from dataclasses import dataclass
from datetime import datetime

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.core.carts import CartBatch, make_batch
from yellow_abacus.core.goods import NO_PRICE, Goods
from yellow_abacus.core.shop import Settings, Shop, Zone
from yellow_abacus.store.models import GoodRow, OrderLineRow, OrderRow, ShopRow, ZoneRow
from yellow_abacus.store.order_facts import order_facts


@dataclass(frozen=True)
class LoadedShop:
    """A shop ready for sums. counted_days: from the first order's day to the last one's, both included."""

    shop: Shop
    batch: CartBatch
    counted_days: int
    version: int
    currency: str
    minor_digits: int


def load(session: Session) -> LoadedShop:
    settings_row = session.get_one(ShopRow, 1)
    zones = list(session.scalars(select(ZoneRow).order_by(ZoneRow.id)))
    good_rows = list(session.scalars(select(GoodRow).order_by(GoodRow.sku)))
    orders = session.execute(select(*OrderRow.__table__.columns).order_by(OrderRow.id)).all()
    lines = session.execute(
        select(OrderLineRow.order_id, OrderLineRow.good_id, OrderLineRow.quantity, OrderLineRow.unit_price)
    ).all()

    cart_of = {order.id: at for at, order in enumerate(orders)}
    sku_of = {row.id: at for at, row in enumerate(good_rows)}
    zone_of = {row.id: at for at, row in enumerate(zones)}
    table = np.array(
        [(cart_of[order], sku_of[good], quantity, paid or 0) for order, good, quantity, paid in lines],
        dtype=np.int64,
    ).reshape(-1, 4)
    goods = _goods(good_rows)
    zone_by_cart = np.array([zone_of[order.zone_id] for order in orders], dtype=np.int64)
    cart, sku, quantity, paid = table.T
    batch = make_batch(goods, zone_by_cart, cart, sku, quantity, paid, order_facts(orders, settings_row.currency))
    return LoadedShop(
        shop=Shop(_settings(settings_row), tuple(_zone(row) for row in zones)),
        batch=batch,
        counted_days=_days([order.placed_at for order in orders]),
        version=settings_row.data_version,
        currency=settings_row.currency,
        minor_digits=settings_row.minor_digits,
    )


def _settings(row: ShopRow) -> Settings:
    return Settings(
        prices_with_tax=row.prices_with_tax,
        tax_bp=row.tax_bp,
        payment_bp=row.payment_bp,
        payment_fixed=row.payment_fixed,
        picking_per_order=row.picking_per_order,
        codes_per_order=row.codes_per_order,
        self_applying="one" if row.self_applying == "one" else "any",
        codes_with_self_applying=row.codes_with_self_applying,
        percent_of="standing" if row.percent_of == "standing" else "net",
        delivery_from="standing" if row.delivery_from == "standing" else "net",
    )


def _zone(row: ZoneRow) -> Zone:
    return Zone(row.name, row.charge or 0, row.free_from, row.cost or 0.0)


def _goods(rows: list[GoodRow]) -> Goods:
    categories = tuple(sorted({name for row in rows for name in row.categories}))

    def prices(name: str) -> np.ndarray:
        found = [getattr(row, name) for row in rows]
        return np.array([NO_PRICE if price is None else price for price in found], dtype=np.int64)

    def known(name: str) -> np.ndarray:
        found = [getattr(row, name) for row in rows]
        return np.array([np.nan if value is None else value for value in found], dtype=np.float64)

    return Goods(
        skus=tuple(row.sku for row in rows),
        products=tuple(row.product for row in rows),
        list_price=prices("list_price"),
        reduced_price=prices("reduced_price"),
        unit_cost=known("unit_cost"),
        weight=known("weight"),
        stock=known("stock"),
        brands=tuple(row.brand for row in rows),
        tags=tuple(tuple(row.tags) for row in rows),
        never_discounted=frozenset(row.sku for row in rows if row.never_discounted),
        categories=categories,
        in_category=np.array(
            [[name in row.categories for row in rows] for name in categories], dtype=np.bool_
        ).reshape(len(categories), len(rows)),
    )


def _days(moments: list[datetime]) -> int:
    if not moments:
        return 1
    return (max(moments).date() - min(moments).date()).days + 1
