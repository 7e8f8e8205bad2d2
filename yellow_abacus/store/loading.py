"""A shop file as the core's arrays."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, fields, replace
from datetime import date, datetime
from typing import Any

import numpy as np
from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.core.carts import CartBatch, make_batch
from yellow_abacus.core.delivery import Option, Zone
from yellow_abacus.core.goods import NO_PRICE, Goods
from yellow_abacus.core.kits import longest_of, unit_cost, volume_of, with_kits
from yellow_abacus.core.money import MILLIGRAMS, WHOLE_BP, Floats, Ints
from yellow_abacus.core.payments import PaymentMethod
from yellow_abacus.core.price_list import PriceStep, price_list
from yellow_abacus.core.records import GoodRecord
from yellow_abacus.core.shop import Settings, Shop
from yellow_abacus.core.surcharges import Surcharge
from yellow_abacus.core.tariffs import Tariff
from yellow_abacus.core.tax import STANDARD, TaxClass, Taxes
from yellow_abacus.store.goods import all_goods
from yellow_abacus.store.models import GoodRow, OrderLineRow, OrderRow, ShopRow, SurchargeRow, TariffRow, ZoneRow
from yellow_abacus.store.order_facts import order_facts
from yellow_abacus.store.survived import survived


@dataclass(frozen=True)
class LoadedShop:
    """A shop ready for sums. counted_days: from the first order's day to the last one's, both included."""

    shop: Shop
    batch: CartBatch
    counted_days: int
    version: int
    currency: str
    minor_digits: int

    def with_goods(self, records: Sequence[GoodRecord]) -> "LoadedShop":
        """The same shop, its goods otherwise; the SKUs are the same."""
        raw, batch = self.batch.raw, self.batch
        assert raw is not None
        goods = make_goods(records)
        priced = make_batch(goods, batch.zone_by_cart, raw.cart, raw.sku, raw.quantity, raw.paid, batch.facts)
        return replace(self, batch=priced)


def load(session: Session) -> LoadedShop:
    settings_row = session.get_one(ShopRow, 1)
    zones = list(session.scalars(select(ZoneRow.id).order_by(ZoneRow.id)))
    goods = make_goods(all_goods(session))
    good_ids = session.execute(select(GoodRow.id, GoodRow.sku))
    orders = session.execute(select(*OrderRow.__table__.columns).order_by(OrderRow.id)).all()
    lines = session.execute(
        select(OrderLineRow.order_id, OrderLineRow.good_id, OrderLineRow.quantity, OrderLineRow.unit_price)
    ).all()

    cart_of = {order.id: at for at, order in enumerate(orders)}
    sku_of = {good_id: goods.index_of(survived(sku)) for good_id, sku in good_ids}
    zone_of = {zone_id: at for at, zone_id in enumerate(zones)}
    table = np.array(
        [(cart_of[order], sku_of[good], quantity, paid or 0) for order, good, quantity, paid in lines],
        dtype=np.int64,
    ).reshape(-1, 4)
    zone_by_cart = np.array([zone_of[order.zone_id] for order in orders], dtype=np.int64)
    cart, sku, quantity, paid = table.T
    batch = make_batch(goods, zone_by_cart, cart, sku, quantity, paid, order_facts(orders, settings_row.currency))
    return LoadedShop(
        shop=load_shop(session),
        batch=batch,
        counted_days=_days([order.placed_at for order in orders]),
        version=settings_row.data_version,
        currency=settings_row.currency,
        minor_digits=settings_row.minor_digits,
    )


def load_shop(session: Session) -> Shop:
    """Everything set for the whole shop, without goods and orders."""
    row = session.get_one(ShopRow, 1)
    names = {field.name for field in fields(Settings)}
    settings = Settings(**{name: _frozen(survived(getattr(row, name))) for name in names})
    zones = session.scalars(select(ZoneRow).order_by(ZoneRow.id))
    tariffs = session.scalars(select(TariffRow).order_by(TariffRow.name))
    surcharges = session.scalars(select(SurchargeRow).order_by(SurchargeRow.id))
    return Shop(
        settings=settings,
        zones=tuple(
            Zone(survived(zone.name), OPTIONS.validate_python(survived(zone.options)), tuple(survived(zone.places)))
            for zone in zones
        ),
        taxes=Taxes(
            TAX_CLASSES.validate_python(survived(row.tax_classes)) or STANDARD.classes,
            included=row.prices_with_tax,
            delivery=row.delivery_tax_class,
        ),
        tariffs=tuple(TARIFF.validate_python(survived({"name": one.name} | one.terms)) for one in tariffs),
        payments=PAYMENTS.validate_python(survived(row.payments)),
        surcharges=tuple(SURCHARGE.validate_python(survived({"name": one.name} | one.terms)) for one in surcharges),
    )


OPTIONS = TypeAdapter(tuple[Option, ...])
TAX_CLASSES = TypeAdapter(tuple[TaxClass, ...])
PAYMENTS = TypeAdapter(tuple[PaymentMethod, ...])
TARIFF = TypeAdapter(Tariff)
SURCHARGE = TypeAdapter(Surcharge)


def _frozen(value: Any) -> Any:
    return tuple(value) if isinstance(value, list) else value


def make_goods(records: Sequence[GoodRecord]) -> Goods:
    """Goods as arrays, in SKU order; what kits are made of is worked out first."""
    known = {record.sku: record for record in records}
    found = sorted(with_kits(records), key=lambda record: record.sku)
    skus = tuple(record.sku for record in found)
    categories = tuple(sorted({name for record in found for name in record.categories}))

    def prices(name: str) -> Ints:
        told = [getattr(record, name) for record in found]
        return np.array([NO_PRICE if price is None else price for price in told], dtype=np.int64)

    def figures(told: Iterable[float | None]) -> Floats:
        return np.array([np.nan if value is None else value for value in told], dtype=np.float64)

    def days(name: str, otherwise: date) -> Ints:
        return np.array([(getattr(record, name) or otherwise).toordinal() for record in found], dtype=np.int64)

    return Goods(
        skus=skus,
        products=tuple(record.product for record in found),
        list_price=prices("list_price"),
        reduced_price=prices("reduced_price"),
        unit_cost=figures(unit_cost(record) for record in found),
        weight=figures(None if record.weight is None else round(record.weight * MILLIGRAMS) for record in found),
        stock=figures(record.stock for record in found),
        brands=tuple(record.brand for record in found),
        tags=tuple(record.tags for record in found),
        never_discounted=frozenset(record.sku for record in found if record.never_discounted),
        gift_only=frozenset(record.sku for record in found if record.gift_only),
        categories=categories,
        in_category=np.array(
            [[name in record.categories for record in found] for name in categories], dtype=np.bool_
        ).reshape(len(categories), len(found)),
        prices=price_list(
            skus,
            (
                PriceStep(record.sku, units, price, group)
                for record in found
                for group, units, price in (
                    *(("", *step) for step in record.quantity_prices),
                    *record.group_prices,
                )
            ),
            np.array([record.counted_by_product and bool(record.product) for record in found], dtype=np.bool_),
        ),
        reduced_first=days("reduced_from", date.min),
        reduced_last=days("reduced_to", date.max),
        tax_classes=tuple(record.tax_class for record in found),
        volume=figures(volume_of(record, known) for record in found),
        longest=figures(longest_of(record, known) for record in found),
        return_rate=np.array([record.return_bp / WHOLE_BP for record in found], dtype=np.float64),
        commission_bp=np.array([record.commission_bp for record in found], dtype=np.float64),
        insured=np.array([record.insured for record in found], dtype=np.bool_),
    )


def _days(moments: list[datetime]) -> int:
    if not moments:
        return 1
    return (max(moments).date() - min(moments).date()).days + 1
