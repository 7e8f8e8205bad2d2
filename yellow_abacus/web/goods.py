"""The Goods place."""

from dataclasses import asdict
from datetime import date
from typing import Annotated, Any, Literal

import numpy as np
from flask_openapi3 import APIBlueprint, Tag
from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from yellow_abacus.changing_goods import Change, Previewed, make_change, preview, put_good
from yellow_abacus.core.goods import NO_PRICE
from yellow_abacus.core.margins import Margins, deepest_discount, delivery_of_a_unit, levels, margins
from yellow_abacus.core.money import LARGEST_CART, MILLIGRAMS, foot, shown
from yellow_abacus.core.naming import LONGEST_NAME
from yellow_abacus.core.records import COST_PARTS, GoodRecord
from yellow_abacus.core.sums import LEDGER
from yellow_abacus.counting import Counted
from yellow_abacus.files.values import HEAVIEST, LONGEST
from yellow_abacus.web.context import context
from yellow_abacus.web.problems import ApiError

api = APIBlueprint("goods", __name__, url_prefix="/api", abp_tags=[Tag(name="Goods")])

DAYS_A_MONTH = 30
MOST_SKUS = 20_000
MOST_NAMES = 200
MOST_STEPS = 200

Amount = Annotated[float, Field(ge=0, le=LARGEST_CART, allow_inf_nan=False)]
Whole = Annotated[int, Field(ge=0, le=LARGEST_CART)]
Side = Annotated[int, Field(ge=0, le=LONGEST)]
Sku = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=LONGEST_NAME)]
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=LONGEST_NAME)]
Names = Annotated[list[Name], Field(max_length=MOST_NAMES)]


class QuantityPriceDoc(BaseModel):
    units: Annotated[int, Field(ge=1, le=1_000_000)]
    price: Whole


class GroupPriceDoc(BaseModel):
    group: Name
    units: Annotated[int, Field(ge=1, le=1_000_000)]
    price: Whole


class KitPartDoc(BaseModel):
    sku: Sku
    units: Annotated[int, Field(ge=1, le=10_000)]


class GoodBody(BaseModel):
    """A SKU as the merchant keeps it. Minor units, grams, millimetres, basis points; null where it is not known."""

    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)

    product: Annotated[str, Field(max_length=200)] = ""
    option: Annotated[str, Field(max_length=200)] = ""
    list_price: Whole | None = None
    reduced_price: Whole | None = None
    reduced_from: date | None = None
    reduced_to: date | None = None
    quantity_prices: Annotated[list[QuantityPriceDoc], Field(max_length=MOST_STEPS)] = []
    group_prices: Annotated[list[GroupPriceDoc], Field(max_length=MOST_STEPS)] = []
    counted_by_product: bool = False
    purchase_cost: Amount | None = None
    freight_cost: Amount | None = None
    duty_cost: Amount | None = None
    packaging_cost: Amount | None = None
    other_cost: Amount | None = None
    weight: Annotated[float, Field(ge=0, le=HEAVIEST, allow_inf_nan=False)] | None = None
    length: Side | None = None
    width: Side | None = None
    height: Side | None = None
    categories: Names = []
    stock: Whole | None = None
    brand: Annotated[str, Field(max_length=LONGEST_NAME)] = ""
    tags: Names = []
    never_discounted: bool = False
    gift_only: bool = False
    tax_class: Annotated[str, Field(max_length=LONGEST_NAME)] = ""
    return_bp: Annotated[int, Field(ge=0, le=10_000)] = 0
    commission_bp: Annotated[int, Field(ge=0, le=10_000)] = 0
    insured: bool = False
    kit: Annotated[list[KitPartDoc], Field(max_length=MOST_STEPS)] = []
    assembly_cost: Amount | None = None

    def record(self, sku: str) -> GoodRecord:
        told = {name: getattr(self, name) for name in GoodBody.model_fields}
        told |= {name: tuple(told[name]) for name in ("categories", "tags")}
        return GoodRecord(
            sku=sku,
            **told
            | {
                "quantity_prices": tuple(sorted((one.units, one.price) for one in self.quantity_prices)),
                "group_prices": tuple(sorted((one.group, one.units, one.price) for one in self.group_prices)),
                "kit": tuple((one.sku, one.units) for one in self.kit),
            },
        )


class MarginDoc(BaseModel):
    """One unit at a price, minor units: price = tax + cost + fees + kept, rounded so that it adds up."""

    price: int
    tax: int
    cost: int
    fees: int
    kept: int


class GoodDoc(GoodBody):
    """units: ordered over the history. unit_cost: all its parts, a kit's from its own parts; so too weight and stock.

    margin: at the price it stands at today. delivery: what delivering a unit takes on average beyond what shoppers
    paid for it. deepest, deepest_delivered: the discount, in basis points, at which a unit keeps nothing.
    """

    sku: str
    unit_cost: float | None
    all_weight: float | None
    all_stock: float | None
    units: int
    units_a_month: float
    stock_weeks: float | None
    standing: int | None
    margin: MarginDoc | None
    delivery: float | None
    deepest: int | None
    deepest_delivered: int | None


class GoodsDoc(BaseModel):
    """counted_days: of the history."""

    goods: list[GoodDoc]
    counted_days: int
    tax_classes: list[str]


class LevelDoc(BaseModel):
    label: str
    margin: MarginDoc | None


class LevelsDoc(BaseModel):
    """costs: the parts of the unit cost, minor units, in order."""

    sku: str
    levels: list[LevelDoc]
    costs: list[float | None]


class ChangeBody(BaseModel):
    """A change to many SKUs; what the fields mean is in `changing_goods.Change`. raise: value in basis points."""

    model_config = ConfigDict(extra="forbid")

    skus: Annotated[list[str], Field(min_length=1, max_length=MOST_SKUS)]
    field: Literal[
        "list_price", "reduced_price", "purchase_cost", "freight_cost", "duty_cost", "packaging_cost", "other_cost",
        "assembly_cost", "weight", "length", "width", "height", "stock", "return_bp", "commission_bp",
        "insured", "gift_only", "never_discounted", "counted_by_product", "tags", "categories", "tax_class", "brand",
    ]  # fmt: skip
    how: Literal["set", "raise", "add", "remove"]
    value: Annotated[float, Field(ge=-1e9, le=1e9, allow_inf_nan=False)] | None = None
    name: Annotated[str, Field(max_length=200)] = ""
    flag: bool = False

    def change(self) -> Change:
        return Change(self.field, self.how, self.value, self.name.strip(), self.flag)


class ChangedDoc(BaseModel):
    """before, after: the field as text or number."""

    sku: str
    product: str
    option: str
    before: str | float | bool | list[str] | None
    after: str | float | bool | list[str] | None


class PreviewDoc(BaseModel):
    """profit_before, profit_after: over the days counted, minor units, no offer running. changed: the first ones."""

    count: int
    changed: list[ChangedDoc]
    profit_before: int
    profit_after: int
    counted_days: int


class SkuQuery(BaseModel):
    """In the query and not the path: a SKU may hold a slash."""

    sku: Sku


class GoodsChangedDoc(BaseModel):
    """How many SKUs are now otherwise, and the version of the shop's data that has them so."""

    changed: int
    version: int


SHOWN_CHANGES = 200


@api.get("/goods", responses={200: GoodsDoc})
def get_goods():
    at = context()
    held = at.room.current(orders_needed=False)
    return goods_doc(held).model_dump_json(), 200, {"Content-Type": "application/json"}


def goods_doc(held: Counted) -> GoodsDoc:
    shop, loaded = held.loaded.shop, held.loaded
    batch = loaded.batch.on_day(date.today())
    goods = batch.goods
    size, days = len(goods.skus), loaded.counted_days
    units = np.bincount(batch.sku_by_line, weights=batch.quantity_by_line, minlength=size)
    standing = np.where(goods.list_price == NO_PRICE, NO_PRICE, goods.standing_price)
    at_standing = margins(shop, goods, standing)
    delivery = _delivery(held)
    deepest = deepest_discount(shop, goods, standing)
    delivered = deepest_discount(shop, goods, standing, delivery)
    a_month = units / days * DAYS_A_MONTH
    weeks = np.where(units > 0, goods.stock / np.maximum(units / days * 7, 1e-9), np.nan)
    found = []
    for place in range(size):
        record = loaded.table.record(place)
        found.append(
            GoodDoc.model_construct(
                **_told(record),
                unit_cost=_known(goods.unit_cost[place]),
                all_weight=_known(goods.weight[place] / MILLIGRAMS),
                all_stock=_known(goods.stock[place]),
                units=int(units[place]),
                units_a_month=float(a_month[place]),
                stock_weeks=_known(weeks[place]),
                standing=None if standing[place] == NO_PRICE else int(standing[place]),
                margin=_margin(at_standing, place),
                delivery=_known(delivery[place]),
                deepest=_bp(deepest[place]),
                deepest_delivered=_bp(delivered[place]),
            )
        )
    return GoodsDoc.model_construct(
        goods=found, counted_days=days, tax_classes=[one.name for one in shop.taxes.classes]
    )


def _told(record: GoodRecord) -> dict[str, Any]:
    told = asdict(record) | {"categories": list(record.categories), "tags": list(record.tags)}
    told["quantity_prices"] = [QuantityPriceDoc(units=units, price=price) for units, price in record.quantity_prices]
    told["group_prices"] = [
        GroupPriceDoc(group=group, units=units, price=price) for group, units, price in record.group_prices
    ]
    told["kit"] = [KitPartDoc(sku=sku, units=units) for sku, units in record.kit]
    return told


def _delivery(held: Counted) -> np.ndarray:
    bare = held.forecaster.outlook.on_day(date.today())
    return delivery_of_a_unit(bare.mix.batch, bare.by_cart[LEDGER])


def _known(value: float) -> float | None:
    return None if np.isnan(value) else float(value)


def _bp(share: float) -> int | None:
    return None if np.isnan(share) else round(max(share, -1.0) * 10_000)


def _margin(found: Margins, place: int) -> MarginDoc | None:
    parts = [float(part[place]) for part in (found.tax, found.cost, found.fees, found.kept)]
    if np.isnan(parts).any():
        return None
    tax, cost, fees, kept = foot(parts)
    return MarginDoc(price=int(found.price[place]), tax=tax, cost=cost, fees=fees, kept=kept)


@api.get("/goods/prices", responses={200: LevelsDoc})
def get_prices(query: SkuQuery):
    """Every price a SKU has, and what a unit leaves at it."""
    held = context().room.current(orders_needed=False)
    shop, goods = held.loaded.shop, held.loaded.batch.goods
    place = _place(held, query.sku)
    told = []
    for level in levels(goods, place):
        price = np.full(len(goods.skus), level.price)
        told.append(LevelDoc(label=level.label, margin=_margin(margins(shop, goods, price), place)))
    record = held.loaded.table[query.sku]
    costs = [getattr(record, name) for name in COST_PARTS]
    return LevelsDoc(sku=query.sku, levels=told, costs=costs).model_dump(mode="json")


def _place(held: Counted, sku: str) -> int:
    place = held.loaded.batch.goods.index_of(sku)
    if place is None:
        raise ApiError(404, "No such SKU", f"The shop has no SKU “{sku}”. Choose one that Goods has.")
    return place


@api.put("/goods/one", responses={200: GoodsChangedDoc})
def put_one(query: SkuQuery, body: GoodBody):
    """Save a SKU as it is told here, whether the shop has it already or not."""
    saved = put_good(context().shop_file, body.record(query.sku))
    return GoodsChangedDoc(changed=saved.changed, version=saved.version).model_dump()


@api.post("/goods/preview", responses={200: PreviewDoc})
def post_preview(body: ChangeBody):
    """What a change to many SKUs would do; nothing is saved."""
    at = context()
    held = at.room.current(orders_needed=False)
    with at.turn("long", "preview"):
        found: Previewed = preview(at.shop_file, held.loaded, held.forecaster.outlook, body.skus, body.change())
    doc = PreviewDoc(
        count=len(found.changed),
        changed=[
            ChangedDoc(
                sku=after.sku,
                product=after.product,
                option=after.option,
                before=_plain(getattr(before, body.field)),
                after=_plain(getattr(after, body.field)),
            )
            for before, after in found.changed[:SHOWN_CHANGES]
        ],
        profit_before=shown(found.profit_before),
        profit_after=shown(found.profit_after),
        counted_days=held.loaded.counted_days,
    )
    return doc.model_dump(mode="json")


def _plain(value: Any) -> Any:
    return list(value) if isinstance(value, tuple) else value


@api.post("/goods/change", responses={200: GoodsChangedDoc})
def post_change(body: ChangeBody):
    """Change many SKUs at once, as one undoable change."""
    saved = make_change(context().shop_file, body.skus, body.change(), f"Change {len(body.skus)} goods")
    return GoodsChangedDoc(changed=saved.changed, version=saved.version).model_dump()
