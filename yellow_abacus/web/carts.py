"""The Carts place: what the orders brought in look like."""

from collections import defaultdict
from dataclasses import replace
from datetime import UTC, datetime
from typing import Annotated

import numpy as np
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy import case, func, select
from sqlalchemy.orm import Session

from yellow_abacus.changing_goods import put_goods
from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.carts.paid import prices_paid
from yellow_abacus.core.carts.spread import spread_of_values
from yellow_abacus.core.forecast.volume import UNIX_ORDINAL
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.shop.shop import Shop
from yellow_abacus.store.imports import all_imports, of_live, put_live, staying
from yellow_abacus.store.loading import LoadedShop
from yellow_abacus.store.models import ImportRow, OrderRow
from yellow_abacus.store.settings import SettingsError
from yellow_abacus.told_by_orders import (
    FEWEST_TOLD,
    drop_going_prices,
    paid_nothing,
    put_going_prices,
    put_return_rates,
    sent_back,
    usual_prices,
)
from yellow_abacus.web.context import context
from yellow_abacus.web.problems import ApiError, missing
from yellow_abacus.web.routes import Routes

api = Routes("carts", __name__, "Carts")


class BandDoc(BaseModel):
    """Carts worth from `low` up to, not including, `high` minor units before offers."""

    low: int
    high: int
    orders: int


class GroupDoc(BaseModel):
    label: str
    orders: int
    average: int


class ImportDoc(BaseModel):
    """Orders brought in at once, when (UTC), and how many of them were new, read otherwise, or were there already.

    live: whether they count; false once it is taken back. left_out: orders left out for their status. fewer: those
    with fewer units than before. redated: those that were of quite another day before. rounded: amounts that had more
    decimals than the currency. staying: orders of one that is taken back that count all the same, as other files have
    them, too.
    """

    id: int
    file: str
    at: datetime
    new: int
    changed: int
    unchanged: int
    live: bool
    left_out: int
    fewer: int
    redated: int
    rounded: int
    staying: int


class PaidDoc(BaseModel):
    """What orders asked (prices of Goods, one unit at a time) and paid, minor units, of a SKU or a month."""

    label: str
    asked: int
    paid: int


class ReachingDoc(BaseModel):
    """How many orders reach a threshold at what Goods asks, and at what they paid."""

    threshold: int
    asked: int
    paid: int


class PricesDoc(BaseModel):
    """skus: where most is between the two. lines: how many tell."""

    lines: int
    asked: int
    paid: int
    months: list[PaidDoc]
    skus: list[PaidDoc]
    reaching: list[ReachingDoc]


class ImportPath(BaseModel):
    import_id: Annotated[int, Field(ge=1, le=2**53)]


class ImportBody(BaseModel):
    model_config = ConfigDict(extra="forbid")

    live: bool


class KitsBody(BaseModel):
    """skus: of those that orders tell the parts of."""

    model_config = ConfigDict(extra="forbid")

    skus: Annotated[list[str], Field(min_length=1, max_length=1_000)]


class SentBackDoc(BaseModel):
    """What orders tell of units sent back, beside the return rates of Goods over the same units: shares.

    goods: how many were ordered often enough to take their share over.
    """

    share: float
    rate: float
    goods: int


class GoingBody(BaseModel):
    """last_days: of orders whose prices are usual; null for list prices as they are. skus: the goods meant, null for
    all."""

    model_config = ConfigDict(extra="forbid")

    last_days: Annotated[int, Field(ge=1, le=3660)] | None
    skus: Annotated[list[str], Field(max_length=100_000)] | None = None


class PartToldDoc(BaseModel):
    sku: str
    product: str
    units: int


class KitToldDoc(BaseModel):
    """What orders tell a SKU is made of, and how many orders do."""

    sku: str
    product: str
    parts: list[PartToldDoc]
    orders: int


class PaidNothingDoc(BaseModel):
    """Units of orders that paid nothing: put_in, which offers put in and which are no goods ordered; unexplained, of
    goods with a price that no offer told explains, which count as ordered; told_twice, paid for or not, of parts of a
    kit beside it, or of a kit beside its parts, which are no goods ordered.

    kits: those orders tell of and Goods does not.
    """

    put_in: int
    unexplained: int
    told_twice: int
    kits: list[KitToldDoc]


class FreeFromValueDoc(BaseModel):
    """value: of goods, minor units. zones: where some delivery is free from it."""

    value: int
    zones: list[str]


class CartsDoc(BaseModel):
    """imports: the newest first. thresholds: from what delivery is free, by rising value.

    first_day and last_day are ISO dates, or empty. first_share: of orders that are their shopper's first, among those
    of which that is known; null where it is of none. going_prices: how many goods have one. sent_back: null where
    orders do not tell.
    """

    orders: int
    first_day: str
    last_day: str
    counted_days: int
    average: int
    median: int
    units_each: float
    first_share: float | None
    with_code: int
    bands: list[BandDoc]
    above: int
    groups: list[GroupDoc]
    thresholds: list[FreeFromValueDoc]
    imports: list[ImportDoc]
    prices: PricesDoc
    going_prices: int
    sent_back: SentBackDoc | None
    paid_nothing: PaidNothingDoc


@api.put("/imports/<int:import_id>", responses={200: CartsDoc})
def put_import(path: ImportPath, body: ImportBody):
    """Take orders back that were brought in, or bring them again; what they changed is as it was before."""
    shop_file = context().shop_file
    with shop_file.reading() as session:
        file = _import(session, path.import_id).file
    with shop_file.changing(f"{'Bring again' if body.live else 'Take back'} {file}") as session:
        if problems := put_live(session, _import(session, path.import_id), body.live):
            raise SettingsError(problems)
    return get_carts()


@api.put("/goods/going", responses={200: CartsDoc})
def put_going(body: GoingBody):
    """Let the usual price orders paid stand in for list prices, or list prices be as they are."""
    at = context()
    prices = {} if body.last_days is None else usual_prices(at.room.current().loaded, body.last_days)
    with at.shop_file.changing("Go by going prices" if prices else "Go by list prices") as session:
        if body.last_days is None:
            drop_going_prices(session, body.skus)
        elif not put_going_prices(session, prices, body.skus):
            problem = Problem(
                ("last_days",), "No goods were paid for often enough in those days.", "Choose more days."
            )
            raise SettingsError([problem])
    return get_carts()


@api.post("/goods/return-rates", responses={200: CartsDoc})
def post_return_rates():
    """Let Goods say of how many are sent back what orders tell, where they were ordered often enough."""
    at = context()
    loaded = at.room.current().loaded
    found = sent_back(loaded)
    if found is None:
        raise ApiError(409, "Nothing to take over", "No order tells of units sent back.")
    with at.shop_file.changing("Take return rates over from orders") as session:
        put_return_rates(session, loaded, found)
    return get_carts()


@api.post("/goods/kits", responses={200: CartsDoc})
def post_kits(body: KitsBody):
    """Let Goods say that SKUs are kits of the parts orders tell; those count beside them no more."""
    at = context()
    loaded = at.room.current().loaded
    told = {one.sku: tuple((part.sku, part.units) for part in one.parts) for one in _kits_told(loaded)}
    if unknown := [sku for sku in body.skus if sku not in told]:
        raise ApiError(409, "Nothing to take over", f"No orders tell what “{unknown[0]}” is made of.")
    label = f"Make {body.skus[0]} a kit" if len(body.skus) == 1 else f"Make {len(body.skus)} SKUs kits"
    put_goods(at.shop_file, [replace(loaded.table[sku], kit=told[sku]) for sku in body.skus], label)
    return get_carts()


def _import(session: Session, import_id: int) -> ImportRow:
    row = session.get(ImportRow, import_id)
    if row is None:
        raise missing("The import")
    return row


@api.get("/carts", responses={200: CartsDoc})
def get_carts():
    at = context()
    held = at.room.current()
    shop, batch = held.loaded.shop, held.loaded.batch
    orders = batch.axes.carts
    worth, before = batch.worth_by_cart, batch.facts.orders_before_by_cart
    with at.shop_file.reading() as session:
        placed, used = OrderRow.placed_at, func.count(case((OrderRow.code != "", 1)))
        told = select(func.min(placed), func.max(placed), used)
        stay = staying(session)
        imports = [_import_doc(row, stay.get(row.id, 0)) for row in all_imports(session)]
        first, last, with_code = session.execute(of_live(session, told)).one()
    bands, above = spread_of_values(worth)
    groups = held.forecaster.mix.types["category"]
    counts = np.bincount(groups.type_by_cart, minlength=len(groups.labels))
    sums = np.bincount(groups.type_by_cart, weights=worth, minlength=len(groups.labels))
    doc = CartsDoc(
        orders=orders,
        first_day=first.date().isoformat() if first else "",
        last_day=last.date().isoformat() if last else "",
        counted_days=held.loaded.counted_days if first else 0,
        average=round(worth.mean()) if orders else 0,
        median=round(float(np.median(worth))) if orders else 0,
        units_each=float(batch.units_by_cart.mean()) if orders else 0.0,
        first_share=float((before[before != UNKNOWN] == 0).mean()) if (before != UNKNOWN).any() else None,
        with_code=with_code,
        bands=[BandDoc(low=low, high=high, orders=count) for low, high, count in bands],
        above=above,
        groups=[
            GroupDoc(label=label, orders=int(count), average=round(total / count))
            for label, count, total in zip(groups.labels, counts, sums, strict=True)
            if count
        ],
        imports=imports,
        prices=_prices(held.loaded),
        sent_back=_sent_back(held.loaded),
        going_prices=sum(one is not None for one in held.loaded.table.columns["going_price"]),
        paid_nothing=PaidNothingDoc(**vars(paid_nothing(held.loaded)), kits=_kits_told(held.loaded)),
        thresholds=_thresholds(shop),
    )
    return doc.model_dump(mode="json")


def _import_doc(row: ImportRow, stay: int) -> ImportDoc:
    told = {name: getattr(row, name) for name in ImportDoc.model_fields.keys() - {"staying"}}
    return ImportDoc.model_validate(told | {"at": row.at.replace(tzinfo=UTC), "staying": stay})


def _kits_told(loaded: LoadedShop) -> list[KitToldDoc]:
    skus, products = loaded.table.skus, loaded.table.columns["product"]
    return [
        KitToldDoc(
            sku=skus[one.sku],
            product=products[one.sku],
            parts=[PartToldDoc(sku=skus[part], product=products[part], units=units) for part, units in one.parts],
            orders=one.orders,
        )
        for one in loaded.kits_told
    ]


def _thresholds(shop: Shop) -> list[FreeFromValueDoc]:
    zones = defaultdict[int, list[str]](list)
    for zone in shop.zones:
        for value in {option.free_from for option in zone.options if option.free_from is not None}:
            zones[value].append(zone.name)
    return [FreeFromValueDoc(value=value, zones=some) for value, some in sorted(zones.items())]


def _sent_back(loaded: LoadedShop) -> SentBackDoc | None:
    found = sent_back(loaded)
    if found is None:
        return None
    units = int(found.units.sum())
    by_goods = float(found.units @ loaded.batch.goods.column("return_rate"))
    often = int((found.units >= FEWEST_TOLD).sum())
    return SentBackDoc(share=int(found.returned.sum()) / units, rate=by_goods / units, goods=often)


MOST_SKUS = 8


def _prices(loaded: LoadedShop) -> PricesDoc:
    found, goods = prices_paid(loaded.batch, loaded.orders.paid), loaded.batch.goods
    asked, paid = found.summed(found.sku, len(goods.skus))
    most = np.argsort(-np.abs(asked - paid), kind="stable")[:MOST_SKUS]
    days = (loaded.orders.day - UNIX_ORDINAL).astype("datetime64[D]")
    month = days.astype("datetime64[M]").astype(np.int64)
    first, last = (int(month.min()), int(month.max())) if len(month) else (0, 0)
    names = np.arange(first, last + 1).astype("datetime64[M]")
    by_month = zip(names, *found.summed(month[found.cart] - first, len(names)), strict=True)
    carts = loaded.batch.axes.carts
    return PricesDoc(
        lines=len(found.cart),
        asked=found.asked,
        paid=found.paid,
        months=[PaidDoc(label=str(name), asked=round(a), paid=round(b)) for name, a, b in by_month if a or b],
        skus=[
            PaidDoc(label=goods.skus[at], asked=round(asked[at]), paid=round(paid[at]))
            for at in most
            if asked[at] != paid[at]
        ],
        reaching=[
            ReachingDoc(threshold=one.value, asked=reach[0], paid=reach[1])
            for one in _thresholds(loaded.shop)
            for reach in (found.reaching(one.value, carts),)
        ],
    )
