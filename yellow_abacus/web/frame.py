"""What stands around the places: the shop's name, what is still missing at each place, undo and redo."""

from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel
from sqlalchemy import func, select

from yellow_abacus.demo import fill_with_demo_shop, is_empty
from yellow_abacus.store.models import KeptForecastRow, PlanRow
from yellow_abacus.store.settings import shop_row
from yellow_abacus.web.context import context
from yellow_abacus.web.problems import ApiError
from yellow_abacus.web.routes import Routes

api = Routes("frame", __name__, "Frame")


class MissingDoc(BaseModel):
    """What keeps a place from being complete; `count` is what its bead shows."""

    count: int
    says: str


class KnownDoc(BaseModel):
    """What the orders name: groups and tags of shoppers, channels, ways of paying."""

    groups: list[str]
    tags: list[str]
    channels: list[str]
    payments: list[str]


class UnknownClassDoc(BaseModel):
    """goods: how many SKUs name it."""

    name: str
    goods: int


Board = Literal["tax", "payment"]


class FrameDoc(BaseModel):
    """empty: nothing was brought in yet. data_version changes when forecasts have to be made again.

    has_carts: whether there are carts to forecast from, ordered or sketched. past: offers said to have run before.
    kept: forecasts kept. unknown_tax_classes: those that goods name and the shop does not have. to_say: the boards of
    Delivery where something is not said yet. round_amount: of what an order usually comes to a sixtieth or somewhat
    more, minor units: figures of new offers begin with some of it, and thresholds move by it.
    """

    name: str
    currency: str
    minor_digits: int
    round_amount: int
    goods: int
    orders: int
    plans: int
    past: int
    kept: int
    empty: bool
    has_carts: bool
    data_version: int
    categories: list[str]
    brands: list[str]
    tags: list[str]
    zones: list[str]
    options: list[str]
    tax_classes: list[str]
    unknown_tax_classes: list[UnknownClassDoc]
    shoppers: KnownDoc
    missing_goods: MissingDoc
    missing_delivery: MissingDoc
    to_say: list[Board]


class UndoneDoc(BaseModel):
    """label: what was taken back or made again; empty where there was nothing."""

    label: str


@api.get("/frame", responses={200: FrameDoc})
def get_frame():
    at = context()
    loaded = at.room.current().loaded
    shop, batch = loaded.shop, loaded.batch
    incomplete = int((batch.goods.unknown | batch.goods.unpriced).sum())
    with at.shop_file.reading() as session:
        row, empty = shop_row(session), is_empty(at.shop_file)
        unset = [zone.name for zone in shop.zones if not zone.options or not all(o.tariffs for o in zone.options)]
        unknown = shop.taxes.unknown_to(batch.goods)
        to_say = list[tuple[Board, str]]()
        if not (row.tax_said or empty):
            to_say.append(("tax", "what tax is in your prices"))
        if unknown:
            one, *more = unknown
            to_say.append(
                ("tax", f"the rates of {len(unknown)} tax classes" if more else f"the rate of tax class {one}")
            )
        if batch.facts.payment.names and not shop.payments:
            to_say.append(("payment", "what being paid costs you"))
        doc = FrameDoc(
            name=row.name,
            currency=row.currency,
            minor_digits=row.minor_digits,
            round_amount=loaded.round_amount,
            goods=len(batch.goods.skus),
            orders=len(loaded.orders.ids),
            plans=session.scalars(select(func.count()).select_from(PlanRow)).one(),
            past=len(loaded.past),
            kept=session.scalars(select(func.count()).select_from(KeptForecastRow)).one(),
            empty=empty,
            has_carts=batch.axes.carts > 0 or any(one.sketched for one in loaded.mixes.values()),
            data_version=row.data_version,
            categories=list(batch.goods.categories),
            brands=sorted(batch.goods.known("brands")),
            tags=sorted(batch.goods.known("tags")),
            zones=list(shop.zone_names),
            options=list(dict.fromkeys(option.name for _, option in shop.delivery.options)),
            tax_classes=[one.name for one in shop.taxes.classes],
            unknown_tax_classes=[UnknownClassDoc(name=name, goods=len(skus)) for name, skus in unknown.items()],
            shoppers=KnownDoc(
                groups=sorted({*batch.facts.group.names, *batch.goods.price_list.by_group}, key=str.casefold),
                tags=list(batch.facts.tags.names),
                channels=list(batch.facts.channel.names),
                payments=list(dict.fromkeys([one.name for one in shop.payments] + list(batch.facts.payment.names))),
            ),
            missing_goods=MissingDoc(count=incomplete, says="without a cost, weight or list price"),
            missing_delivery=_missing_delivery(len(unset), [says for _, says in to_say]),
            to_say=list(dict.fromkeys(board for board, _ in to_say)),
        )
    return doc.model_dump(mode="json")


def _missing_delivery(zones: int, to_say: Sequence[str]) -> MissingDoc:
    """zones: without an option or tariff."""
    lacks = f"{'zone' if zones == 1 else 'zones'} without an option or tariff"
    if not to_say:
        return MissingDoc(count=zones, says=lacks)
    count = zones + len(to_say)
    says = [*to_say, f"{zones} {lacks}"] if zones else to_say
    return MissingDoc(count=count, says=f"{'thing' if count == 1 else 'things'} to say: {', '.join(says)}")


@api.post("/undo", responses={200: UndoneDoc})
def post_undo():
    return UndoneDoc(label=context().shop_file.undo() or "").model_dump()


@api.post("/redo", responses={200: UndoneDoc})
def post_redo():
    return UndoneDoc(label=context().shop_file.redo() or "").model_dump()


@api.post("/demo", responses={200: UndoneDoc})
def post_demo():
    """Fill an empty shop with the demo shop."""
    if not fill_with_demo_shop(context().shop_file):
        raise ApiError(409, "The shop is not empty", "The demo shop only goes into a shop with nothing in it yet.")
    return UndoneDoc(label="Demo shop").model_dump()
