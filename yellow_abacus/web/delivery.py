"""The Delivery place: zones and options, tariffs, surcharges, and the shop's own settings."""

from datetime import UTC, date, datetime
from typing import Annotated, Any

import numpy as np
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy import select
from sqlalchemy.orm import Session

from yellow_abacus.bring_in_json import settings_values
from yellow_abacus.carrier_tariffs import Service, keep, named_services
from yellow_abacus.core.delivery.tariffs import Tariff
from yellow_abacus.core.forecast.delivery_view import Curve, by_option, seen
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.ground.money import LARGEST_CART
from yellow_abacus.core.shop.surcharges import Surcharge
from yellow_abacus.files.shop_json import SettingsDoc, TariffDoc, ZoneDoc, terms_of
from yellow_abacus.store.history import version_to_be
from yellow_abacus.store.loading import load_shop
from yellow_abacus.store.models import ZoneRow
from yellow_abacus.store.settings import (
    check_settings,
    orders_by_zone,
    remove_tariff,
    save_settings,
    save_surcharges,
    save_tariffs,
    save_zones,
    shop_row,
    tariff_rows,
    zone_rows,
)
from yellow_abacus.store.survived import survived
from yellow_abacus.web.context import context
from yellow_abacus.web.problems import ApiError
from yellow_abacus.web.routes import Routes

api = Routes("delivery", __name__, "Delivery")

MOST_MARKS = 500
"""Orders drawn beside a curve; they stand evenly for all."""


class ZoneWithOrdersDoc(ZoneDoc):
    orders: int


class DeliveryDoc(BaseModel):
    """version goes up with every change."""

    version: int
    settings: SettingsDoc
    zones: list[ZoneWithOrdersDoc]
    tariffs: list[TariffDoc]
    surcharges: list[Surcharge]


class ZonesBody(BaseModel):
    model_config = ConfigDict(extra="forbid")

    zones: Annotated[list[ZoneDoc], Field(max_length=200)]


class TariffsBody(BaseModel):
    model_config = ConfigDict(extra="forbid")

    tariffs: Annotated[list[Tariff], Field(max_length=500)]


class MovedFreeFromBody(BaseModel):
    """Values of goods, minor units."""

    model_config = ConfigDict(extra="forbid")

    was: Annotated[int, Field(ge=1, le=LARGEST_CART)]
    now: Annotated[int, Field(ge=1, le=LARGEST_CART)]


class SurchargesBody(BaseModel):
    model_config = ConfigDict(extra="forbid")

    surcharges: Annotated[list[Surcharge], Field(max_length=100)]


class TakenDoc(BaseModel):
    """One option over the days counted: charged net of tax and cost, minor units."""

    zone: str
    option: str
    orders: float
    charged: int
    cost: int


class AllTakenDoc(BaseModel):
    """profit: kept over the days counted, minor units."""

    counted_days: int
    profit: int
    options: list[TakenDoc]


class DeliveryCurveDoc(BaseModel):
    """at: grams or minor units. charged, net of tax, and cost: minor units."""

    at: list[float]
    charged: list[float]
    cost: list[float]


class MarkDoc(BaseModel):
    """One order: grams, value of goods, charged net of tax and cost in minor units."""

    weight: float
    value: int
    charged: float
    cost: float


class CurvesDoc(BaseModel):
    """orders: expected, as in TakenDoc; losing: those whose delivery cost more than was charged.

    marks: of carts that more likely than not go so. Both curves are null where none does.
    """

    by_weight: DeliveryCurveDoc | None
    by_value: DeliveryCurveDoc | None
    marks: list[MarkDoc]
    orders: int
    losing: int


class CurvesQuery(BaseModel):
    zone: str
    option: str


class ServicesDoc(BaseModel):
    address: str
    services: list[Service]


class FetchBody(BaseModel):
    model_config = ConfigDict(extra="forbid")

    services: Annotated[list[str], Field(min_length=1, max_length=100)]


class TariffQuery(BaseModel):
    """In the query and not the path: a name may hold a slash."""

    name: str


@api.get("/delivery", responses={200: DeliveryDoc})
def get_delivery():
    with context().shop_file.reading() as session:
        return delivery_told(session)


def delivery_told(session: Session) -> dict[str, Any]:
    """The Delivery place as the session has it, or will have left it."""
    row = shop_row(session)
    used = orders_by_zone(session)
    shop = load_shop(session)
    settings = {name: survived(getattr(row, name)) for name in SettingsDoc.model_fields}
    settings |= {"payments": list(shop.payments), "tax_classes": list(shop.taxes.classes)}
    doc = DeliveryDoc.model_construct(
        version=version_to_be(session),
        settings=SettingsDoc.model_construct(**settings),
        zones=[
            ZoneWithOrdersDoc.model_construct(
                name=zone.name, places=list(zone.places), options=list(zone.options), orders=used.get(row.id, 0)
            )
            for row, zone in zip(zone_rows(session), shop.zones, strict=True)
        ],
        tariffs=[
            TariffDoc(tariff=tariff, source=one.source, fetched_at=one.fetched_at)
            for one, tariff in zip(tariff_rows(session), shop.tariffs, strict=True)
        ],
        surcharges=list(shop.surcharges),
    )
    return doc.model_dump(mode="json")


@api.put("/settings", responses={200: DeliveryDoc})
def put_settings(body: SettingsDoc):
    with context().shop_file.changing("Change settings") as session:
        save_settings(session, settings_values(body))
        check_settings(session)
        return delivery_told(session)


@api.put("/zones", responses={200: DeliveryDoc})
def put_zones(body: ZonesBody):
    """Make the zones just these; one that orders went to can be renamed but not left out."""
    with context().shop_file.changing("Change zones") as session:
        save_zones(session, [zone.plain() for zone in body.zones])
        check_settings(session)
        return delivery_told(session)


@api.put("/tariffs", responses={200: DeliveryDoc})
def put_tariffs(body: TariffsBody):
    """Add tariffs, or change those of the same name."""
    with context().shop_file.changing("Change tariffs") as session:
        save_tariffs(session, [terms_of(tariff) for tariff in body.tariffs])
        check_settings(session)
        return delivery_told(session)


@api.delete("/tariffs", responses={200: DeliveryDoc})
def delete_tariff(query: TariffQuery):
    """Take a tariff out; options that went by it go by it no more."""
    with context().shop_file.changing(f"Take out tariff {query.name}") as session:
        if query.name not in (row.name for row in tariff_rows(session)):
            raise ApiError(404, "No such tariff", f"The shop has no tariff “{query.name}”.")
        remove_tariff(session, query.name)
        check_settings(session)
        return delivery_told(session)


@api.put("/surcharges", responses={200: DeliveryDoc})
def put_surcharges(body: SurchargesBody):
    """Make the surcharges just these."""
    with context().shop_file.changing("Change surcharges") as session:
        save_surcharges(session, [terms_of(one) for one in body.surcharges])
        check_settings(session)
        return delivery_told(session)


@api.put("/delivery/free-from", responses={200: DeliveryDoc})
def put_free_from(body: MovedFreeFromBody):
    """Let the options that are free from one value of goods be so from another."""
    with context().shop_file.changing("Change what delivery is free from") as session:
        for row in session.scalars(select(ZoneRow)):
            moved = [
                one | {"free_from": body.now} if one.get("free_from") == body.was else one for one in row.options
            ]
            if moved != row.options:
                row.options = moved
        check_settings(session)
        return delivery_told(session)


@api.get("/delivery/taken", responses={200: AllTakenDoc})
def get_taken():
    """What every option charges and costs over as many days as were counted, of the usual carts with no offer
    running."""
    held = context().room.current()
    shop = held.loaded.shop
    usual = held.usual(date.today())
    doc = AllTakenDoc(
        counted_days=held.loaded.counted_days,
        profit=round(sum(float(bare.figures.by_cart[AT["kept"]] @ orders) for bare, orders in usual)),
        options=[
            TakenDoc(
                zone=shop.zone_names[one.zone],
                option=one.option.name,
                orders=one.orders,
                charged=round(one.charged),
                cost=round(one.cost),
            )
            for one in by_option(shop, usual)
        ],
    )
    return doc.model_dump(mode="json")


@api.get("/delivery/curves", responses={200: CurvesDoc})
def get_curves(query: CurvesQuery):
    """What one option charges and costs, by weight and by value, with the orders that go by it: as many days of the
    usual carts as were counted, with no offer running."""
    held = context().room.current()
    delivery, names = held.loaded.shop.delivery, held.loaded.shop.zone_names
    number = next(
        (
            at
            for at, (zone, one) in enumerate(delivery.options)
            if (names[zone], one.name) == (query.zone, query.option)
        ),
        None,
    )
    if number is None:
        raise ApiError(404, "No such option", f"{query.zone} has no option “{query.option}”.")
    found = seen(held.loaded.shop, held.usual(date.today()), number)
    if found is None:
        return CurvesDoc(by_weight=None, by_value=None, marks=[], orders=0, losing=0).model_dump(mode="json")
    going = found.going
    likely = np.flatnonzero(going.share >= 0.5)
    step = max(1, -(-len(likely) // MOST_MARKS))
    doc = CurvesDoc(
        by_weight=_curve(found.by_weight),
        by_value=_curve(found.by_value),
        marks=[
            MarkDoc(
                weight=float(going.weight[at]),
                value=int(going.value[at]),
                charged=float(going.charged[at]),
                cost=float(going.cost[at]),
            )
            for at in likely[::step]
        ],
        orders=round(float(going.orders.sum())),
        losing=round(float(going.orders @ (going.cost > going.charged))),
    )
    return doc.model_dump(mode="json")


def _curve(curve: Curve) -> DeliveryCurveDoc:
    return DeliveryCurveDoc(
        at=[round(float(one), 1) for one in curve.at],
        charged=[round(float(one), 2) for one in curve.charged],
        cost=[round(float(one), 2) for one in curve.cost],
    )


@api.get("/carriers", responses={200: ServicesDoc})
def get_carriers():
    """What the carriers' quote service has on offer."""
    at = context()
    with at.shop_file.reading() as session:
        currency = shop_row(session).currency
    return ServicesDoc(address=at.carriers.address, services=at.carriers.services(currency)).model_dump(mode="json")


@api.post("/carriers/fetch", responses={200: DeliveryDoc})
def post_fetch(body: FetchBody):
    """Fetch the tariffs of some services and keep them, with their date."""
    at = context()
    with at.shop_file.reading() as session:
        currency = shop_row(session).currency
    now = datetime.now(UTC).replace(tzinfo=None, microsecond=0)
    services = named_services(at.carriers, body.services, currency)
    with at.shop_file.changing(f"Fetch {len(services)} tariffs") as session:
        keep(session, services, at.carriers.address, now)
        return delivery_told(session)
