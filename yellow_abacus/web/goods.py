"""The Goods place."""

from dataclasses import asdict
from datetime import date
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, StringConstraints
from pydantic_core import to_json

from yellow_abacus.changing_goods import Change, Previewed, make_change, preview, put_good
from yellow_abacus.core.costing.margins import Margins, levels, margins
from yellow_abacus.core.forecast.shelf import By, Shelf, Show
from yellow_abacus.core.goods.goods import NO_PRICE
from yellow_abacus.core.goods.records import COST_PARTS, GoodRecord
from yellow_abacus.core.ground.money import LARGEST_CART, MILLIGRAMS, foot, shown
from yellow_abacus.core.ground.naming import LONGEST_NAME
from yellow_abacus.counting import Counted, CountingRoom
from yellow_abacus.files.values import HEAVIEST, LONGEST
from yellow_abacus.web.context import context
from yellow_abacus.web.problems import ApiError
from yellow_abacus.web.routes import Routes

api = Routes("goods", __name__, "Goods")

MOST_SKUS = 20_000
MOST_AT_ONCE = 500
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
    going_price: Whole | None = None
    reduced_price: Whole | None = None
    reduced_from: date | None = None
    reduced_to: date | None = None
    least_advertised: Whole | None = None
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
    """units: expected of the usual carts, over as many days as the history has. unit_cost: all its parts, a kit's
    from its own parts; so too weight and stock.

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
    """Some of the goods that are shown. first: place of the first of them; found: how many are shown in all.

    goods_in_all: of the shop. lacking: how many lack a figure. counted_days: of the history.
    """

    goods: list[GoodDoc]
    first: int
    found: int
    goods_in_all: int
    lacking: int
    counted_days: int
    tax_classes: list[str]


class NamesDoc(BaseModel):
    """What all goods are called and where they belong: one list a field, one entry a SKU, in SKU order.

    standing: price today; reduced: whether that is the reduced price. units: as in GoodDoc.
    """

    sku: list[str]
    product: list[str]
    option: list[str]
    brand: list[str]
    categories: list[list[str]]
    tags: list[list[str]]
    tax_class: list[str]
    list_price: list[int | None]
    standing: list[int | None]
    reduced: list[bool]
    unit_cost: list[float | None]
    units: list[int]
    stock: list[float | None]
    never_discounted: list[bool]
    gift_only: list[bool]


class ShownQuery(BaseModel):
    """Which goods are shown: those that hold the text, that `show` means, and of one category, if one is named."""

    text: Annotated[str, Field(max_length=200)] = ""
    show: Show = "all"
    category: Annotated[str, Field(max_length=LONGEST_NAME)] = ""


class GoodsQuery(ShownQuery):
    """by: in what order. first, count: the places of those that are asked for."""

    by: By = "product"
    first: Annotated[int, Field(ge=0, le=LARGEST_CART)] = 0
    count: Annotated[int, Field(ge=1, le=MOST_AT_ONCE)] = 100


class NextQuery(BaseModel):
    after: Annotated[str, Field(max_length=LONGEST_NAME)] = ""


class NextDoc(BaseModel):
    """sku: null where no SKU lacks a figure. place: among all goods in order of name."""

    sku: str | None
    place: int


class LevelDoc(BaseModel):
    label: str
    margin: MarginDoc | None


class LevelsDoc(BaseModel):
    """costs: the parts of the unit cost, minor units, in order."""

    sku: str
    levels: list[LevelDoc]
    costs: list[float | None]


class ChangeBody(BaseModel):
    """A change to many SKUs, named or as they are shown; what the fields mean is in `changing_goods.Change`.

    raise: value in basis points.
    """

    model_config = ConfigDict(extra="forbid")

    skus: Annotated[list[str], Field(max_length=MOST_SKUS)] = []
    shown: ShownQuery | None = None
    field: Literal[
        "list_price", "going_price", "reduced_price", "least_advertised", "purchase_cost", "freight_cost",
        "duty_cost", "packaging_cost",
        "other_cost", "assembly_cost", "weight", "length", "width", "height", "stock", "return_bp", "commission_bp",
        "insured", "gift_only", "never_discounted", "counted_by_product", "tags", "categories", "tax_class", "brand",
    ]  # fmt: skip
    how: Literal["set", "raise", "add", "remove"]
    value: Annotated[float, Field(ge=-1e9, le=1e9, allow_inf_nan=False)] | None = None
    name: Annotated[str, Field(max_length=200)] = ""
    flag: bool = False

    def meant(self, room: CountingRoom) -> list[str]:
        """The SKUs to change."""
        skus = self.skus
        if self.shown is not None:
            held = room.current()
            skus = [held.loaded.table.skus[place] for place in held.shelf.found(**self.shown.model_dump())]
        if not skus:
            raise ApiError(422, "No goods", "No goods are shown. Show those that are to change.")
        if len(skus) > MOST_SKUS:
            raise ApiError(422, "Too many goods", f"{len(skus)} are shown. Show {MOST_SKUS} at most.")
        return skus

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


class GoodSavedDoc(BaseModel):
    """The SKU as it is now, and the version of the shop's data that has it so. What its delivery takes is as it was
    last counted."""

    good: GoodDoc
    version: int


class GoodsChangedDoc(BaseModel):
    """How many SKUs are now otherwise, and the version of the shop's data that has them so."""

    changed: int
    version: int


SHOWN_CHANGES = 200


@api.get("/goods", responses={200: GoodsDoc})
def get_goods(query: GoodsQuery):
    """Some of the goods that are shown, in order."""
    shelf = context().room.shelf()
    found = shelf.found(query.text, query.show, query.category, query.by)
    return GoodsDoc(
        goods=[good_doc(shelf, int(place)) for place in found[query.first : query.first + query.count]],
        first=query.first,
        found=len(found),
        goods_in_all=len(shelf.table),
        lacking=int(shelf.lacking.sum()),
        counted_days=shelf.counted_days,
        tax_classes=[one.name for one in shelf.shop.taxes.classes],
    ).model_dump(mode="json")


@api.get("/goods/one", responses={200: GoodDoc})
def get_one(query: SkuQuery):
    """One SKU."""
    room = context().room
    return good_doc(room.shelf(), _place(room.current(), query.sku)).model_dump(mode="json")


@api.get("/goods/names", responses={200: NamesDoc})
def get_names():
    """What all goods are called."""
    shelf = context().room.shelf()
    columns, goods = shelf.table.columns, shelf.goods
    as_kept = ("sku", "product", "option", "brand", "categories", "tags", "tax_class", "list_price")
    names: dict[str, Any] = {name: columns[name] for name in (*as_kept, "never_discounted", "gift_only")}
    names |= {
        "standing": [None if price == NO_PRICE else price for price in shelf.standing.tolist()],
        "reduced": (goods.reduced_price == shelf.standing).tolist(),
        "unit_cost": _all_known(goods.unit_cost),
        "units": np.rint(shelf.units).astype(np.int64).tolist(),
        "stock": _all_known(goods.stock),
    }
    return to_json(names), 200, {"Content-Type": "application/json"}  # as NamesDoc has it


@api.get("/goods/lacking", responses={200: NextDoc})
def get_lacking(query: NextQuery):
    """The next SKU that lacks a figure, by name, after the one that is told; the first where none is."""
    shelf = context().room.shelf()
    every = shelf.found()
    places = np.flatnonzero(shelf.lacking[every])
    if not len(places):
        return NextDoc(sku=None, place=0).model_dump()
    skus = [shelf.table.skus[at] for at in every[places]]
    at = (skus.index(query.after) + 1 if query.after in skus else 0) % len(skus)
    return NextDoc(sku=skus[at], place=int(places[at])).model_dump()


def good_doc(shelf: Shelf, place: int) -> GoodDoc:
    """One SKU of those on the shelf."""
    goods, standing = shelf.goods, int(shelf.standing[place])
    return GoodDoc.model_construct(
        **_told(shelf.table.record(place)),
        unit_cost=_known(goods.unit_cost[place]),
        all_weight=_known(goods.weight[place] / MILLIGRAMS),
        all_stock=_known(goods.stock[place]),
        units=round(float(shelf.units[place])),
        units_a_month=float(shelf.a_month[place]),
        stock_weeks=_known(shelf.weeks[place]),
        standing=None if standing == NO_PRICE else standing,
        margin=_margin(shelf.margins, place),
        delivery=_known(shelf.delivery[place]),
        deepest=_bp(shelf.deepest[place]),
        deepest_delivered=_bp(shelf.deepest_delivered[place]),
    )


def _told(record: GoodRecord) -> dict[str, Any]:
    told = asdict(record) | {"categories": list(record.categories), "tags": list(record.tags)}
    told["quantity_prices"] = [QuantityPriceDoc(units=units, price=price) for units, price in record.quantity_prices]
    told["group_prices"] = [
        GroupPriceDoc(group=group, units=units, price=price) for group, units, price in record.group_prices
    ]
    told["kit"] = [KitPartDoc(sku=sku, units=units) for sku, units in record.kit]
    return told


def _known(value: float) -> float | None:
    return None if np.isnan(value) else float(value)


def _all_known(figures: np.ndarray) -> list[float | None]:
    return [None if value != value else value for value in figures.tolist()]  # nan differs from itself


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
    held = context().room.current()
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


@api.put("/goods/one", responses={200: GoodSavedDoc})
def put_one(query: SkuQuery, body: GoodBody):
    """Save a SKU as it is told here, whether the shop has it already or not."""
    at = context()
    shelf, record = at.room.last_shelf(), body.record(query.sku)
    saved = put_good(at.shop_file, record)
    alone = shelf.of_one(saved.record, saved.parts, date.today())
    good = good_doc(alone, alone.table.skus.index(query.sku))
    return GoodSavedDoc.model_construct(good=good, version=saved.version).model_dump(mode="json")


@api.post("/goods/preview", responses={200: PreviewDoc})
def post_preview(body: ChangeBody):
    """What a change to many SKUs would do; nothing is saved."""
    at = context()
    held = at.room.current()
    with at.turn("long", "preview"):
        outlook, skus = held.forecaster.outlook, body.meant(at.room)
        found: Previewed = preview(at.shop_file, held.loaded, outlook, skus, body.change())
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
    at = context()
    skus = body.meant(at.room)
    saved = make_change(at.shop_file, skus, body.change(), f"Change {len(skus)} goods")
    return GoodsChangedDoc(changed=saved.changed, version=saved.version).model_dump()
