"""The Delivery place: zones, and the shop's own settings."""

from typing import Annotated

from flask_openapi3 import APIBlueprint, Tag
from pydantic import BaseModel, Field

from yellow_abacus.bring_in_json import settings_values
from yellow_abacus.files.shop_json import SettingsDoc, ZoneDoc
from yellow_abacus.store.settings import orders_by_zone, save_settings, save_zones, shop_row, zone_rows
from yellow_abacus.web.context import context

api = APIBlueprint("delivery", __name__, url_prefix="/api", abp_tags=[Tag(name="Delivery")])


class ZoneWithOrdersDoc(ZoneDoc):
    orders: int


class DeliveryDoc(BaseModel):
    settings: SettingsDoc
    zones: list[ZoneWithOrdersDoc]


class ZonesBody(BaseModel):
    zones: Annotated[list[ZoneDoc], Field(max_length=200)]


@api.get("/delivery", responses={200: DeliveryDoc})
def get_delivery():
    with context().shop_file.reading() as session:
        row = shop_row(session)
        used = orders_by_zone(session)
        doc = DeliveryDoc(
            settings=SettingsDoc.model_validate({name: getattr(row, name) for name in SettingsDoc.model_fields}),
            zones=[
                ZoneWithOrdersDoc(
                    name=zone.name,
                    charge=zone.charge,
                    free_from=zone.free_from,
                    cost=zone.cost,
                    orders=used.get(zone.id, 0),
                )
                for zone in zone_rows(session)
            ],
        )
    return doc.model_dump(mode="json")


@api.put("/settings", responses={200: DeliveryDoc})
def put_settings(body: SettingsDoc):
    with context().shop_file.changing("Change settings") as session:
        save_settings(session, settings_values(body))
    return get_delivery()


@api.put("/zones", responses={200: DeliveryDoc})
def put_zones(body: ZonesBody):
    """Make the zones just these; one that orders went to can be renamed but not left out."""
    with context().shop_file.changing("Change zones") as session:
        save_zones(session, [zone.model_dump() for zone in body.zones])
    return get_delivery()
