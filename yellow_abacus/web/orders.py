"""Single orders: found by what people remember of one, and opened with their lines and ledger."""

from datetime import date, datetime
from typing import Annotated

import numpy as np
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from yellow_abacus.core.costing.ledger import PROFIT, ROWS
from yellow_abacus.core.forecast.sums import LEDGER
from yellow_abacus.core.ground.money import Ints, foot
from yellow_abacus.store.finding_orders import (
    FoundOrders,
    find_orders,
    order_that_counts,
    orders_of_ids,
    values_meant,
)
from yellow_abacus.store.loading import LoadedShop
from yellow_abacus.store.models import OrderRow
from yellow_abacus.store.reading_orders import places_of
from yellow_abacus.web.context import context
from yellow_abacus.web.problems import missing
from yellow_abacus.web.routes import Routes

api = Routes("orders", __name__, "Orders")

SHOWN = 12


class FindQuery(BaseModel):
    """text: a number or how it begins, a shopper, a code, a SKU, a day as in 2026-03-01, or a value as in €40-60;
    empty for the newest."""

    text: Annotated[str, Field(max_length=80)] = ""


class OrderLineOfDoc(BaseModel):
    """price: what one unit stands at today. Minor units; of all its units: comes_to."""

    sku: str
    product: str
    quantity: int
    price: int
    comes_to: int


class LineApartDoc(BaseModel):
    """A line that is no goods ordered."""

    sku: str
    product: str
    quantity: int


class FoundOrderDoc(BaseModel):
    """at: on the shop's own clock. value: goods at today's prices, minor units."""

    id: int
    number: str
    at: str
    shopper: str
    zone: str
    units: int
    value: int


class FoundOrdersDoc(BaseModel):
    """The newest of those found, and how many there are."""

    orders: list[FoundOrderDoc]
    found: int


class OrderLedgerDoc(BaseModel):
    key: str
    label: str
    amount: int


class OrderDoc(FoundOrderDoc):
    """ledger: as such an order is expected today with no offer running, minor units; it adds up to what you keep.

    What it got, as it was told then: paid for goods, after discounts, and for delivery, null where that was not said;
    delivery_cost: what the carrier asked of the shop, without tax, and payment_cost: what being paid cost it, null
    where that was not; refunded; units sent back. put_in: what an offer put in, which is no goods ordered.
    told_twice: nor are parts of a kit beside it, or a kit beside its parts.
    """

    channel: str
    payment: str
    option: str
    code: str
    orders_before: int | None
    status: str
    paid: int | None
    delivery_paid: int | None
    delivery_cost: int | None
    payment_cost: int | None
    refunded: int
    sent_back: int
    lines: list[OrderLineOfDoc]
    put_in: list[LineApartDoc]
    told_twice: list[LineApartDoc]
    ledger: list[OrderLedgerDoc]


class OrderPath(BaseModel):
    order_id: Annotated[int, Field(ge=1, le=2**53)]


@api.get("/orders", responses={200: FoundOrdersDoc})
def get_orders(query: FindQuery):
    at = context()
    loaded = at.room.current().loaded
    values = values_meant(query.text, 10**loaded.minor_digits)
    with at.shop_file.reading() as session:
        found = find_orders(session, query.text, SHOWN)
        if values is not None and not found.found:
            found = _of_value(session, loaded, *values)
        told = [_found(loaded, row, cart) for row in found.rows if (cart := _cart(loaded, row.id)) is not None]
    return FoundOrdersDoc(orders=told, found=found.found).model_dump(mode="json")


@api.get("/orders/<int:order_id>", responses={200: OrderDoc})
def get_order(path: OrderPath):
    """One order at today's prices and costs."""
    at = context()
    held = at.room.current()
    with at.shop_file.reading() as session:
        row = order_that_counts(session, path.order_id)
        cart = None if row is None else _cart(held.loaded, row.id)
        if row is None or cart is None:
            raise missing("The order")
        with at.turn("quick", "order"):
            figures = held.forecaster.outlook.on_day(date.today()).figures.by_cart[LEDGER, cart]
        return _order(held.loaded, row, cart, figures.tolist()).model_dump(mode="json")


def _of_value(session: Session, loaded: LoadedShop, least: int, greatest: int) -> FoundOrders:
    """Orders by goods at standing prices, the newest first."""
    worth, orders = loaded.batch.worth_by_cart, loaded.orders
    here = np.flatnonzero((worth >= least) & (worth <= greatest))
    newest = here[np.lexsort((orders.ids[here], -orders.day[here]))][:SHOWN]
    return FoundOrders(orders_of_ids(session, orders.ids[newest].tolist()), len(here))


def _cart(loaded: LoadedShop, order_id: int) -> int | None:
    """Which cart an order is; None for one brought in after the shop was loaded."""
    ids = loaded.orders.ids
    at = int(np.searchsorted(ids, order_id))
    return at if at < len(ids) and ids[at] == order_id else None


def _found(loaded: LoadedShop, row: OrderRow, cart: int) -> FoundOrderDoc:
    batch = loaded.batch
    return FoundOrderDoc(
        id=row.id,
        number=row.number,
        at=_moment(row.placed_at),
        shopper=row.shopper,
        zone=loaded.shop.zone_names[int(batch.zone_by_cart[cart])],
        units=int(batch.units_by_cart[cart]),
        value=int(batch.worth_by_cart[cart]),
    )


def _moment(moment: datetime) -> str:
    return moment.isoformat(sep=" ", timespec="minutes")


def _put_in(loaded: LoadedShop, lines: Ints) -> list[tuple[int, int]]:
    """Index of the SKU and units of each of some lines that an offer put in."""
    free = loaded.lines.some(lines[loaded.lines.is_put_in[lines]])
    return list(zip(free.sku.tolist(), free.quantity.tolist(), strict=True))


def _told_twice(loaded: LoadedShop, cart: int) -> list[tuple[int, int]]:
    """Index of the SKU and units of each line of an order that tells a kit once more."""
    told, twice = loaded.told, loaded.told_twice
    if twice is None:
        return []
    lines = np.flatnonzero(twice & (told.cart == cart))
    skus = places_of(told.good_id[lines], loaded.good_ids)
    return list(zip(skus.tolist(), told.quantity[lines].tolist(), strict=True))


def _order(loaded: LoadedShop, row: OrderRow, cart: int, ledger: list[float]) -> OrderDoc:
    batch, before = loaded.batch, int(loaded.batch.facts.orders_before_by_cart[cart])
    goods = batch.goods
    first, last = batch.axes.first_line_by_cart[cart : cart + 2]
    shown = foot(ledger)
    mine = np.flatnonzero(loaded.orders.cart == cart)

    def apart(some: list[tuple[int, int]]) -> list[LineApartDoc]:
        return [LineApartDoc(sku=goods.skus[sku], product=goods.products[sku], quantity=units) for sku, units in some]

    paid = loaded.orders.paid[mine]
    return OrderDoc(
        **_found(loaded, row, cart).model_dump(),
        channel=row.channel,
        payment=row.payment,
        option=row.option,
        code=row.code,
        orders_before=before if before >= 0 else None,
        status=row.status,
        paid=int(paid.sum()) if (paid >= 0).all() else None,
        delivery_paid=row.delivery_paid,
        delivery_cost=row.delivery_cost,
        payment_cost=row.payment_cost,
        refunded=row.refunded,
        sent_back=int(loaded.orders.returned[mine].sum()),
        lines=[
            OrderLineOfDoc(
                sku=goods.skus[sku],
                product=goods.products[sku],
                quantity=int(batch.quantity_by_line[line]),
                price=int(batch.standing_by_line[line]),
                comes_to=int(batch.worth_by_line[line]),
            )
            for line in range(int(first), int(last))
            for sku in (int(batch.sku_by_line[line]),)
        ],
        put_in=apart(_put_in(loaded, mine)),
        told_twice=apart(_told_twice(loaded, cart)),
        ledger=[
            OrderLedgerDoc(key=one.key, label=one.label, amount=amount)
            for one, amount in zip((*ROWS, PROFIT), [*shown, sum(shown)], strict=True)
        ],
    )
