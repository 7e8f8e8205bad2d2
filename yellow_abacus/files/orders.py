"""An order file to records: one row a line, order columns on every row or only on an order's first.

An order is taken whole or not at all: half a cart would be a wrong cart.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from difflib import get_close_matches

from yellow_abacus.core.goods.records import OrderLineRecord, OrderRecord
from yellow_abacus.core.ground.money import LARGEST_CART
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.columns import ORDERS, Columns
from yellow_abacus.files.reading import Cells, Progress, cells_of
from yellow_abacus.files.rejected import Rejection
from yellow_abacus.files.tables import Table
from yellow_abacus.files.values import Reading, parse_count, parse_flag, parse_moment, rounded_money, split_names

MOST_UNITS = 1_000_000
MOST_HINTS = 10
"""For so many unknown SKUs a near one is looked for: each takes a look at all SKUs of the shop."""


class _Skus:
    """The SKUs a shop has, and which one somebody means who writes so."""

    def __init__(self, list_prices: Mapping[str, int | None]) -> None:
        self.list_prices = list_prices
        self._folded = {folded(sku): sku for sku in list_prices}
        self._mends: dict[str, str] = {}

    def meant_by(self, text: str) -> str | None:
        return text if text in self.list_prices else self._folded.get(folded(text))

    def mend(self, text: str) -> str:
        """What to do about an unknown one; looked for once for each, for a few, and never for bare numbers."""
        if text not in self._mends:
            hint = "Bring"
            if len(self._mends) < MOST_HINTS and not text.isdecimal():
                near = get_close_matches(folded(text), self._folded, n=1)
                hint = f"Did you mean “{self._folded[near[0]]}”? Otherwise bring" if near else hint
            self._mends[text] = f"{hint} in its product first."
        return self._mends[text]


@dataclass
class _Order:
    """An order while its rows are read. known: order columns given so far, with the row that gave them."""

    number: str
    rows: list[int] = field(default_factory=list)
    lines: list[OrderLineRecord] = field(default_factory=list)
    known: dict[str, tuple[object, int]] = field(default_factory=dict)
    worth: int = 0
    spoilt_by: int | None = None


def read_orders(
    table: Table,
    columns: Columns,
    reading: Reading,
    minor_digits: int,
    list_prices: Mapping[str, int | None],
    progress: Progress = lambda _: None,
) -> tuple[list[OrderRecord], list[Rejection]]:
    """The orders whose every row is good, and what is wrong with the rows of the others.

    list_prices: the shop's SKUs and their list prices. `progress` is told the share done.
    """
    skus = _Skus(list_prices)
    orders: dict[str, _Order] = {}
    rejected: list[Rejection] = []
    number = ""
    for done, row in enumerate(table.rows):
        if done % 2000 == 0:
            progress(done / len(table.rows))
        cells = cells_of(table, row, columns, ORDERS)
        number = cells.text("number") or number
        if not number:
            cells.reject("number", "The order number is missing.", "Write it on the order's first row.")
        order = orders.setdefault(number, _Order(number))
        order.rows.append(row.number)
        _read_order_columns(cells, order, reading)
        _read_line(cells, order, reading, minor_digits, skus)
        if cells.rejected:
            rejected += cells.rejected
            order.spoilt_by = order.spoilt_by or row.number
    for order in orders.values():
        if order.spoilt_by is None:
            rejected += _incomplete(order)
    told = {one.row for one in rejected}
    for order in orders.values():
        rejected += [_left_out(order, row) for row in order.rows if order.spoilt_by and row not in told]
    records = [_record(order) for order in orders.values() if order.spoilt_by is None]
    return records, sorted(rejected, key=lambda one: one.row)


def _read_order_columns(cells: Cells, order: _Order, reading: Reading) -> None:
    given: dict[str, object] = {
        "date": cells.read("date", lambda text: parse_moment(text, reading.date_order, cells.text("time"))),
        "zone": cells.text("zone") or None,
        "shopper": cells.text("shopper") or None,
        "first_order": cells.read("first_order", parse_flag),
        "code": cells.text("code") or None,
        "group": cells.text("group") or None,
        "tags": split_names(cells.text("tags")) or None,
        "channel": cells.text("channel") or None,
        "payment": cells.text("payment") or None,
        "option": cells.text("option") or None,
    }
    for key, value in given.items():
        if value is None:
            continue
        first, row = order.known.setdefault(key, (value, cells.row.number))
        if first != value:
            cells.reject(
                key,
                f"Order {order.number} says “{cells.text(key)}” here and otherwise in row {row}.",
                "Write the same in all rows of an order, or only in its first.",
            )


def _read_line(
    cells: Cells,
    order: _Order,
    reading: Reading,
    minor_digits: int,
    skus: "_Skus",
) -> None:
    mark = reading.decimal_mark
    quantity = cells.read("quantity", lambda text: parse_count(text, mark, least=1, largest=MOST_UNITS))
    paid = cells.read("unit_price", lambda text: rounded_money(text, mark, minor_digits, largest=LARGEST_CART))
    if not cells.text("quantity"):
        cells.reject("quantity", "The quantity is missing.", "Write how many units were ordered.")
    wanted = cells.text("sku")
    sku = skus.meant_by(wanted)
    if sku is None:
        what = f"Goods has no SKU “{wanted}”." if wanted else "The SKU is missing."
        cells.reject("sku", what, skus.mend(wanted) if wanted else "Write the SKU.")
    elif skus.list_prices[sku] is None and paid is None and not cells.rejected:
        cells.reject(
            "unit_price", f"SKU “{sku}” has no list price and the row no unit price.", "Write one of the two."
        )
    if sku is None or quantity is None or cells.rejected:
        return
    price = skus.list_prices[sku]
    order.worth += (paid or 0 if price is None else price) * quantity
    if order.worth > LARGEST_CART:
        cells.reject("quantity", f"Order {order.number} is worth more than any cart can be.", "Check the quantity.")
    order.lines.append(OrderLineRecord(sku, quantity, paid))


def _incomplete(order: _Order) -> list[Rejection]:
    if "date" in order.known:
        return []
    order.spoilt_by = order.rows[0]
    message = f"Order {order.number} has no date."
    return [Rejection(order.rows[0], "Date and time", message, "Write it like 2026-03-01.")]


def _left_out(order: _Order, row: int) -> Rejection:
    message = f"Order {order.number} is left out whole: row {order.spoilt_by} is not good."
    return Rejection(row, "Order number", message, f"Mend row {order.spoilt_by}.", order.spoilt_by)


def _record(order: _Order) -> OrderRecord:
    def known(key: str) -> object | None:
        return order.known.get(key, (None, 0))[0]

    placed_at, first = known("date"), known("first_order")
    assert isinstance(placed_at, datetime)
    return OrderRecord(
        number=order.number,
        placed_at=placed_at,
        lines=tuple(order.lines),
        zone=str(known("zone") or ""),
        shopper=str(known("shopper") or ""),
        first_order=first if isinstance(first, bool) else None,
        code=str(known("code") or ""),
        group=str(known("group") or ""),
        tags=known_tags if isinstance(known_tags := known("tags"), tuple) else (),
        channel=str(known("channel") or ""),
        payment=str(known("payment") or ""),
        option=str(known("option") or ""),
    )
