"""A shop file as the core's arrays: cold, or what changed since it was loaded."""

import gc
from collections.abc import Callable, Collection, Iterator, Sequence
from contextlib import contextmanager, nullcontext
from dataclasses import dataclass, fields, replace
from datetime import date
from pathlib import Path
from typing import Any

import numpy as np
from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.core.carts.carts import CartBatch, RawLines, Touched, batch_of
from yellow_abacus.core.carts.spread import round_amount
from yellow_abacus.core.carts.told_twice import told_twice
from yellow_abacus.core.delivery.tariffs import Tariff
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.forecast.expected import History, MixTerms
from yellow_abacus.core.forecast.known_types import KnownTypes
from yellow_abacus.core.goods.goods import NO_PRICE, Goods
from yellow_abacus.core.goods.kits import KitParts
from yellow_abacus.core.goods.making_goods import GoodTable, make_goods, prices
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.ground.axes import among
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Terms
from yellow_abacus.core.offers.free_lines import put_in_on_its_days
from yellow_abacus.core.shop.payments import PaymentMethod
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.core.shop.surcharges import Surcharge
from yellow_abacus.core.shop.tax import STANDARD, TaxClass, Taxes
from yellow_abacus.core.shop.twists import Twist
from yellow_abacus.learning.kits_found import FoundKit, kits_found
from yellow_abacus.store.cart_types import known_types
from yellow_abacus.store.goods import good_rows, loaded_goods
from yellow_abacus.store.history import changed_since, ids_among
from yellow_abacus.store.in_columns import (
    LARGE,
    OF_ORDERS,
    ReadBeside,
    columns_in,
    read_goods,
)
from yellow_abacus.store.mixes import all_mixes
from yellow_abacus.store.models import (
    Base,
    CartTypeRow,
    MixRow,
    PastOfferRow,
    RunningOfferRow,
    ShopRow,
    SurchargeRow,
    TariffRow,
    ZoneRow,
)
from yellow_abacus.store.reading_orders import LoadedOrders, loaded_orders, places_of
from yellow_abacus.store.survived import survived
from yellow_abacus.store.told_offers import ToldOffer, all_told

UNITS_OF_AN_ORDER = 3
"""What an order comes to, in list prices, where none is known yet."""
NOTHING_KNOWN = 100
"""The round amount where there is not even a list price, minor units."""

Parts = dict[str, tuple[type[Base], Callable[[Session], Any]]]
"""By name, the table a part is in, and how it is read."""


@dataclass(frozen=True, eq=False)
class LoadedShop:
    """A shop ready for sums. table: its goods as they are kept; good_ids: the id of each one's row.

    told: all orders that count, as they were brought in. told_twice: which of their lines tell a kit once more, None
    where none does. orders: without those.

    mixes: the carts to expect, by name. running: offers that run already.
    past: offers that ran before.
    known: the types of carts, None where none were found yet.

    touched: what is not as it was in the shop held before; None where anything may not be.
    """

    shop: Shop
    batch: CartBatch
    table: GoodTable
    good_ids: Ints
    told: LoadedOrders
    told_twice: Bools | None
    orders: LoadedOrders
    version: int
    currency: str
    minor_digits: int
    mixes: dict[str, MixTerms]
    running: tuple[ToldOffer, ...]
    past: tuple[ToldOffer, ...]
    known: KnownTypes | None
    touched: Touched | None = None

    @cached_property
    def history(self) -> History:
        return History(self.shop, self.batch, self.orders.day, self.currency, self.known)

    @cached_property
    def going_price(self) -> Ints:
        """By SKU: what one is usually sold at, minor units; NO_PRICE where that is its list price."""
        return prices(self.table.columns["going_price"])

    @cached_property
    def round_amount(self) -> int:
        """The round amount by which figures of new offers and thresholds go here, minor units."""
        batch = self.batch
        if batch.axes.carts:
            return round_amount(int(batch.worth_by_line.sum()) / batch.axes.carts)
        listed = batch.goods.list_price[batch.goods.list_price > 0]
        return round_amount(UNITS_OF_AN_ORDER * float(np.median(listed))) if len(listed) else NOTHING_KNOWN

    @property
    def counted_days(self) -> int:
        return self.orders.counted_days

    @cached_property
    def kits_told(self) -> list[FoundKit]:
        """Those the orders tell of and Goods does not."""
        goods = self.batch.goods
        return kits_found(self.lines, self.orders.paid, goods.list_price, among(goods.kits.kit, len(goods.skus)))

    def before(self, day: date) -> "LoadedShop":
        """The shop with the orders before a day alone."""
        orders = self.orders.before(day.toordinal())
        carts = np.flatnonzero(self.orders.day < day.toordinal())
        return replace(self, orders=orders, batch=self.batch.remade(carts, self.batch.goods), touched=None)

    def twisted(self, twist: Twist) -> "LoadedShop":
        """The shop with something otherwise."""
        batch, shop = self.batch, twist.shop(self.shop)
        goods = twist.goods(batch.goods)
        if goods is not batch.goods:
            batch = batch.with_goods(goods, np.arange(batch.axes.carts))
        return replace(self, shop=shop, batch=batch, touched=None)

    @property
    def lines(self) -> RawLines:
        """Those of the orders, in the order of `orders`."""
        assert self.batch.raw is not None, "a part of a batch does not have the lines of its orders"
        return self.batch.raw

    def lowest_asked(self, before: date, days: int) -> Ints | None:
        """By SKU, the lowest price of a unit that orders were asked in so many days before one, minor units, NO_PRICE
        where none was; None where no order tells."""
        orders, first = self.orders, before.toordinal() - days
        day = orders.day[orders.cart] if len(orders.cart) else orders.cart
        tells = (orders.asked > 0) & (day >= first) & (day < before.toordinal())
        if not tells.any():
            return None
        found = np.full(len(self.table.skus), np.iinfo(np.int64).max)
        np.minimum.at(found, self.lines.sku[tells], orders.asked[tells])
        return np.where(found == np.iinfo(np.int64).max, NO_PRICE, found)

    def with_goods(self, records: Sequence[GoodRecord]) -> "Otherwise":
        """What it changes that some goods are otherwise; the SKUs are the same."""
        table = self.table.with_records(records)
        carts = self.touched_by({record.sku for record in records}, table).carts
        return Otherwise(self.batch.remade(carts, self.batch.goods), self.batch.remade(carts, make_goods(table)))

    def touched_by(self, named: set[str], table: GoodTable) -> Touched:
        """What it can matter to that some SKUs are otherwise in `table`."""
        places = table.touched_by(named, self.table)
        is_touched = np.zeros(len(table.skus), dtype=np.bool_)
        is_touched[places] = True
        lines = np.flatnonzero(is_touched[self.batch.sku_by_line])
        carts = np.unique(self.batch.axes.cart_by_line[lines])
        return Touched(frozenset(table.skus[at] for at in places), carts)


@dataclass(frozen=True, eq=False)
class Otherwise:
    """The carts in which some goods are: as they are, and with those goods otherwise."""

    before: CartBatch
    after: CartBatch


def load(session: Session, held: LoadedShop | None = None, beside: ReadBeside | None = None) -> LoadedShop:
    """The shop as it is now. held: as it was loaded before; what did not change since is taken from there. beside:
    its large tables, where they are being read already."""
    row, before = session.get_one(ShopRow, 1), held
    rows = None if held is None else changed_since(session, held.version, row.data_version)
    if held is None or rows is None or held.currency != row.currency:
        held, rows = None, dict.fromkeys(ORDERS, frozenset())
    shop = load_shop(session, None if held is None else held.shop, rows.keys())
    set_by_hand = _parts(session, _BY_HAND, held, rows.keys())
    others = not rows.keys().isdisjoint(ORDERS)
    if others and beside is None:
        beside = ReadBeside(Path(str(session.connection().engine.url.database)), LARGE if held is None else OF_ORDERS)
    with _nothing_collected() if others else nullcontext():
        table, good_ids = _goods(session, held, rows.get("goods"), beside)
        if held is None or others:
            told = loaded_orders(session, row.currency, lambda read: columns_in(session, read, beside))
        else:
            told = held.told
    ids = np.array(good_ids, dtype=np.int64)
    goods = held.batch.goods if held is not None and table is held.table else make_goods(table)
    twice = _told_twice(told, table, goods.kits, ids, held)
    if held is not None and not (told is held.told and _same(twice, held.told_twice)):
        held = None
    orders = told.without(twice) if held is None else held.orders
    zone_ids = np.array(list(session.scalars(select(ZoneRow.id).order_by(ZoneRow.id))), dtype=np.int64)
    zone_by_cart = places_of(orders.zone_id, zone_ids)
    if held is not None and not np.array_equal(zone_by_cart, held.batch.zone_by_cart):
        held = None
    ran = [one.terms for one in (*set_by_hand["running"], *set_by_hand["past"])]
    batch, touched = _batch(orders, table, goods, ids, zone_by_cart, ran, held)
    return LoadedShop(
        shop=before.shop if before is not None and _is_as(shop, before.shop) else shop,
        batch=batch,
        table=table,
        good_ids=ids,
        told=told,
        told_twice=twice,
        orders=orders,
        version=row.data_version,
        currency=row.currency,
        minor_digits=row.minor_digits,
        touched=touched,
        **set_by_hand,
    )


def _told_twice(
    told: LoadedOrders, table: GoodTable, parts: KitParts, good_ids: Ints, held: LoadedShop | None
) -> Bools | None:
    if held is not None and told is held.told and table.columns["kit"] is held.table.columns["kit"]:
        return held.told_twice
    if not len(parts.kit):
        return None
    return told_twice(parts, told.cart, places_of(told.good_id, good_ids), told.quantity, told.paid)


@contextmanager
def _nothing_collected() -> Iterator[None]:
    """Nothing that is read goes again: to look for what may takes a sixth of the time.

    Nor is what was read first looked through ever after, which takes a tenth of a second of a large shop each time:
    it goes with its last use, as all of a shop does.
    """
    collects = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if not gc.get_freeze_count():
            gc.freeze()
        if collects:
            gc.enable()


def _goods(
    session: Session, held: LoadedShop | None, touched: frozenset[int] | None, beside: ReadBeside | None
) -> tuple[GoodTable, list[int]]:
    """The goods, and the id of each one's row; where the shop is held those alone read anew that were touched."""
    if held is None:
        return loaded_goods(columns_in(session, read_goods, beside))
    if not touched:
        return held.table, held.good_ids.tolist()
    fresh, ids = good_rows(session, ids_among(map(str, touched)))
    here = np.flatnonzero(np.isin(held.good_ids, list(touched)))
    same_rows = ids == held.good_ids[here].tolist()
    if same_rows and fresh.skus == [held.table.skus[at] for at in here]:
        return held.table.with_records(fresh.values()), held.good_ids.tolist()
    known = dict(zip(held.good_ids.tolist(), held.table.skus, strict=True))
    before = {known[row_id] for row_id in touched if row_id in known}
    by_sku = {sku: row_id for row_id, sku in known.items() if row_id not in touched}
    table = held.table.with_records(fresh.values(), without=before)
    by_sku |= dict(zip(fresh.skus, ids, strict=True))
    return table, [by_sku[sku] for sku in table.skus]


def _batch(
    orders: LoadedOrders,
    table: GoodTable,
    goods: Goods,
    good_ids: Ints,
    zone_by_cart: Ints,
    ran: Sequence[Terms],
    held: LoadedShop | None,
) -> tuple[CartBatch, Touched | None]:
    """The carts, and what is not as it was. goods: of the table. ran: the offers that run or ran. held: a shop with
    the same orders and zones."""
    if held is not None and not (np.array_equal(good_ids, held.good_ids) and table.skus == held.table.skus):
        held = None
    before = None if held is None else held.batch.raw
    sku = places_of(orders.good_id, good_ids) if before is None else before.sku
    put_in = put_in_on_its_days(ran, goods, orders.cart, sku, orders.paid, orders.day)
    if held is None or before is None or not _same(put_in, before.put_in):
        lines = RawLines(orders.cart, sku, orders.quantity, orders.asked, put_in)
        return batch_of(goods, zone_by_cart, lines, orders.facts), None
    if goods is held.batch.goods:
        return held.batch, Touched(frozenset(), np.zeros(0, dtype=np.int64))
    touched = held.touched_by(held.table.differing(table), table)
    return held.batch.with_goods(goods, touched.carts), touched


def _is_as(one: Shop, other: Shop) -> bool:
    return all(getattr(one, field.name) == getattr(other, field.name) for field in fields(Shop))


def _same(one: Bools | None, other: Bools | None) -> bool:
    return one is other or (one is not None and other is not None and np.array_equal(one, other))


ORDERS = frozenset({"orders", "order_lines", "imports"})


def load_shop(session: Session, held: Shop | None = None, changed: Collection[str] = ()) -> Shop:
    """Everything set for the whole shop, without goods and orders. held: as it was before some tables changed."""
    row = session.get_one(ShopRow, 1)
    names = {field.name for field in fields(Settings)}
    settings = Settings(**{name: _frozen(survived(getattr(row, name))) for name in names})
    payments = PAYMENTS.validate_python(survived(row.payments))
    return Shop(settings, taxes=taxes_of(row), payments=payments, **_parts(session, _OF_SHOP, held, changed))


def _parts(session: Session, parts: Parts, held: object, changed: Collection[str]) -> dict[str, Any]:
    """Parts of what is held, if anything is: those whose table did not change are taken from there."""
    return {
        name: read(session) if held is None or table.__tablename__ in changed else getattr(held, name)
        for name, (table, read) in parts.items()
    }


def taxes_of(row: ShopRow) -> Taxes:
    """A shop's tax."""
    classes = TAX_CLASSES.validate_python(survived(row.tax_classes)) or STANDARD.classes
    return Taxes(classes, included=row.prices_with_tax, delivery=row.delivery_tax_class)


def _zones(session: Session) -> tuple[Zone, ...]:
    zones = session.scalars(select(ZoneRow).order_by(ZoneRow.id))
    return tuple(
        Zone(survived(zone.name), OPTIONS.validate_python(survived(zone.options)), tuple(survived(zone.places)))
        for zone in zones
    )


def _tariffs(session: Session) -> tuple[Tariff, ...]:
    tariffs = session.scalars(select(TariffRow).order_by(TariffRow.name))
    return tuple(TARIFF.validate_python(survived({"name": one.name} | one.terms)) for one in tariffs)


def _surcharges(session: Session) -> tuple[Surcharge, ...]:
    surcharges = session.scalars(select(SurchargeRow).order_by(SurchargeRow.id))
    return tuple(SURCHARGE.validate_python(survived({"name": one.name} | one.terms)) for one in surcharges)


_OF_SHOP: Parts = {
    "zones": (ZoneRow, _zones),
    "tariffs": (TariffRow, _tariffs),
    "surcharges": (SurchargeRow, _surcharges),
}
_BY_HAND: Parts = {
    "mixes": (MixRow, all_mixes),
    "running": (RunningOfferRow, lambda session: all_told(session, RunningOfferRow)),
    "past": (PastOfferRow, lambda session: all_told(session, PastOfferRow)),
    "known": (CartTypeRow, known_types),
}

OPTIONS = TypeAdapter(tuple[Option, ...])
TAX_CLASSES = TypeAdapter(tuple[TaxClass, ...])
PAYMENTS = TypeAdapter(tuple[PaymentMethod, ...])
TARIFF = TypeAdapter(Tariff)
SURCHARGE = TypeAdapter(Surcharge)


def _frozen(value: Any) -> Any:
    return tuple(value) if isinstance(value, list) else value
