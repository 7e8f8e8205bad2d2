"""Fetching new orders from a feed over HTTP, page by page: what comes is a file of orders like any other.

docs/files.md, "Order feed".
"""

import csv
import io
from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import dataclass
from datetime import datetime, timedelta
from time import sleep
from typing import Annotated, Any

from pydantic import BaseModel, Field, ValidationError
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yellow_abacus.files.fields import ORDERS
from yellow_abacus.outside import Asking, ServiceDownError, where_wrong
from yellow_abacus.store.imports import of_live
from yellow_abacus.store.models import OrderRow

SERVICE = "http://127.0.0.1:8412"
AGAIN = "Nothing was brought in. Try again in a while, or bring orders in from a file."
MOST_PAGES = 2_000
PAUSES = (0.3, 1.0, 2.0)
"""Seconds before a page that did not come is asked for once more."""
OVERLAP = timedelta(days=30)
"""Orders are asked for from so long before the newest there is: what was cancelled or sent back since is told anew,
nothing is doubled."""

Count = Annotated[int, Field(ge=0, le=10**12)]
Text = Annotated[str, Field(max_length=80)]


class _Line(BaseModel):
    sku: Text
    quantity: Count
    unit_price: Count | None = None
    paid: Count | None = None
    returned: Count = 0


class FeedOrder(BaseModel):
    """One order as the feed tells it, amounts in minor units."""

    number: Annotated[Text, Field(min_length=1)]
    placed_at: datetime
    zone: Text = ""
    shopper: Text = ""
    code: Text = ""
    channel: Text = ""
    payment: Text = ""
    option: Text = ""
    status: Text = ""
    delivery_paid: Count | None = None
    delivery_cost: Count | None = None
    payment_cost: Count | None = None
    refunded: Count = 0
    lines: Annotated[list[_Line], Field(min_length=1, max_length=1000)]


class _Page(BaseModel):
    currency: str
    total: Count = 0
    orders: list[FeedOrder]
    next: Count | None


@dataclass(frozen=True)
class Feed:
    """The order feed at `address`."""

    address: str = SERVICE

    def orders(self, since: datetime | None, currency: str, progress: Callable[[float], None]) -> list[FeedOrder]:
        """All orders since a moment, or all there are. progress is told the share done. Raises ServiceDownError."""
        asking, found, first = Asking("The order feed", self.address, AGAIN), list[FeedOrder](), 0
        for _ in range(MOST_PAGES):
            query = {"first": str(first)} | ({} if since is None else {"since": since.isoformat()})
            page = self._page(asking, query)
            if page.currency != currency:
                raise asking.down(f"The orders of the feed are in {page.currency[:20]}, the shop's in {currency}.")
            found += page.orders
            progress(min(len(found) / max(page.total, 1), 1.0))
            if page.next is None:
                return found
            if page.next <= first:
                break
            first = page.next
        raise asking.down("The order feed does not come to an end.")

    def _page(self, asking: Asking, query: dict[str, str]) -> _Page:
        try:
            return _Page.model_validate(self._ask(asking, query))
        except ValidationError as error:
            raise asking.down(f"The answer of the order feed cannot be used ({where_wrong(error)}).") from error

    def _ask(self, asking: Asking, query: dict[str, str]) -> dict[str, Any]:
        """A page, asked for again where it does not come."""
        for pause in PAUSES:
            with suppress(ServiceDownError):
                return asking.ask("/orders", **query)
            sleep(pause)
        return asking.ask("/orders", **query)


def newest_order(session: Session) -> datetime | None:
    """When the newest order was placed that counts, None where there is none."""
    found: datetime | None = session.scalars(of_live(session, select(func.max(OrderRow.placed_at)))).one()
    return found


LABELS = {one.key: one.label for one in ORDERS}
OF_ORDER = (
    "number",
    "date",
    "zone",
    "shopper",
    "code",
    "channel",
    "payment",
    "option",
    "status",
    "delivery_paid",
    "delivery_cost",
    "payment_cost",
    "refunded",
)
OF_LINE = ("sku", "quantity", "unit_price", "line_total", "returned")


def as_file(orders: Sequence[FeedOrder], digits: int) -> bytes:
    """The orders as a CSV file that the shop reads like any other. digits: of the currency."""
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow([LABELS[key] for key in (*OF_ORDER, *OF_LINE)])

    def money(amount: int | None) -> str:
        return "" if amount is None else f"{amount / 10**digits:.{digits}f}"

    for order in orders:
        told = (order.zone, order.shopper, order.code, order.channel, order.payment, order.option, order.status)
        placed = order.placed_at.isoformat(" ", "seconds")
        asked = (order.delivery_paid, order.delivery_cost, order.payment_cost, order.refunded or None)
        amounts = [*map(money, asked)]
        for line in order.lines:
            row = (line.sku, line.quantity, money(line.unit_price), money(line.paid), line.returned or "")
            writer.writerow([order.number, placed, *told, *amounts, *row])
    return out.getvalue().encode()
