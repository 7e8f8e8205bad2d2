"""The Carts place: what the orders brought in look like."""

import numpy as np
from flask_openapi3 import APIBlueprint, Tag
from pydantic import BaseModel
from sqlalchemy import func, select

from yellow_abacus.core.carts.spread import spread_of_values
from yellow_abacus.store.models import OrderRow
from yellow_abacus.web.context import context

api = APIBlueprint("carts", __name__, url_prefix="/api", abp_tags=[Tag(name="Carts")])


class BandDoc(BaseModel):
    """Carts worth from `low` up to, not including, `high` minor units before offers."""

    low: int
    high: int
    orders: int


class GroupDoc(BaseModel):
    label: str
    orders: int
    average: int


class CartsDoc(BaseModel):
    """thresholds: free-from values of the zones, minor units. first_day and last_day are ISO dates, or empty."""

    orders: int
    first_day: str
    last_day: str
    counted_days: int
    average: int
    median: int
    units_each: float
    first_orders: int
    with_code: int
    bands: list[BandDoc]
    above: int
    groups: list[GroupDoc]
    thresholds: list[int]


@api.get("/carts", responses={200: CartsDoc})
def get_carts():
    at = context()
    held = at.room.current(orders_needed=False)
    shop, batch = held.loaded.shop, held.loaded.batch
    orders = batch.axes.carts
    worth = batch.worth_by_cart
    with at.shop_file.reading() as session:
        first, last = session.execute(select(func.min(OrderRow.placed_at), func.max(OrderRow.placed_at))).one()
        with_code = session.scalars(select(func.count()).select_from(OrderRow).where(OrderRow.code != "")).one()
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
        first_orders=int((batch.facts.orders_before_by_cart == 0).sum()),
        with_code=with_code,
        bands=[BandDoc(low=low, high=high, orders=count) for low, high, count in bands],
        above=above,
        groups=[
            GroupDoc(label=label, orders=int(count), average=round(total / count))
            for label, count, total in zip(groups.labels, counts, sums, strict=True)
            if count
        ],
        thresholds=sorted({option.free_from for _, option in shop.delivery.options if option.free_from is not None}),
    )
    return doc.model_dump(mode="json")
