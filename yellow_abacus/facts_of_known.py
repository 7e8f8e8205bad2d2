"""Files that tell something of orders the shop has already, and no goods of them: what a carrier asked for each, how
they were paid, what was given back. They are read as if brought in together with those orders.
"""

from collections.abc import Container, Sequence
from dataclasses import replace

import numpy as np
from sqlalchemy.orm import Session

from yellow_abacus.files.contents import columns_that_tell
from yellow_abacus.files.facts_apart import with_facts
from yellow_abacus.files.fields import OF_ORDERS, ORDERS
from yellow_abacus.files.lines_apart import bare_number
from yellow_abacus.files.returns_apart import with_returns
from yellow_abacus.files.rows import Coded, Rows, coded
from yellow_abacus.files.tables import Table
from yellow_abacus.store.goods import good_rows
from yellow_abacus.store.known_orders import COLUMN_OF, StoredOrders, known_orders, numbers_that_count

KNOWN = 0.5
"""Such a share of the orders that a file numbers must be those of the shop."""
APART = 0.5
"""Where no heading says that a column numbers orders, so many of its cells at least must be unlike all others."""
TOLD_ONCE = ("payment", "option", "code", "delivery_paid", "shopper", "group", "channel")
"""What is not told anew of orders that tell it."""
NEVER = ("order_discount", "line_discount")
"""What came off orders belongs to what they were asked and paid, which the shop has already."""


def with_their_orders(session: Session, files: Sequence[Sequence[Table]]) -> Table | None:
    """The orders of the shop that files tell something of, with that; None where one tells nothing of them. files:
    the tables of each, of no whole orders."""
    every = {bare_number(number): number for number in numbers_that_count(session)}
    numbered = [[_numbered(table, every) for table in tables] for tables in files]
    told = {number for tables in numbered for _, mine in tables for number in mine}
    orders = _orders(session, {every[number] for number in told}) if told else None
    for tables in numbered:
        before = orders
        for table, _ in tables:
            orders = orders and (_with(orders, table) or orders)
        if orders is before:
            return None
    return orders


def _with(orders: Table, table: Table) -> Table | None:
    named = replace(table, name=table.name or "the file")
    return with_returns(orders, named) or with_facts(orders, named)


def _numbered(table: Table, numbers: Container[str]) -> tuple[Table, set[str]]:
    """A table, and the numbers of the shop's orders it tells: in a column headed as such, or in the one that has most
    of them, which is then headed so. numbers: of all orders, bare."""
    for at in columns_that_tell(table, ORDERS).get("number", ()):
        if mine := _known(table.rows.columns[at], numbers):
            return table, mine
    by_column = [_known(column, numbers, APART) for column in table.rows.columns[: len(table.header)]]
    most = max(by_column, key=len, default=set[str]())
    if not most:
        return table, most
    header, at = [*table.header], by_column.index(most)
    header[at] = f"{OF_ORDERS['number'].label}: {header[at]}"
    return replace(table, header=header), most


def _known(column: Coded, numbers: Container[str], apart: float = 0.0) -> set[str]:
    """The numbers of orders in a column; none where more of its cells are others, or fewer than such a share unlike
    all others."""
    told = {bare_number(text.strip()) for text in column.used} - {""}
    mine = {one for one in told if one in numbers}
    return mine if len(mine) >= KNOWN * len(told) and len(told) >= apart * len(column) else set()


def _orders(session: Session, numbers: Container[str]) -> Table:
    """Orders of the shop, by number, as a table of their own."""
    known = known_orders(session, numbers).known
    goods, ids = good_rows(session)
    skus = dict(zip(ids, goods.skus, strict=True))
    columns = {
        "number": _of_lines(known, known.orders["number"]),
        "date": _of_lines(known, [text.removesuffix(".000000") for text in known.orders["placed_at"]]),
        "sku": coded([skus[one] for one in known.lines["good_id"].tolist()]),
        "quantity": coded([str(one) for one in known.lines["quantity"].tolist()]),
    }
    tells = {key for key in TOLD_ONCE if any(one not in ("", None) for one in known.orders[COLUMN_OF.get(key, key)])}
    if len(set(known.orders[COLUMN_OF["zone"]])) > 1:  # orders that tell none are all in the first
        tells.add("zone")
    return Table(
        [OF_ORDERS[key].label for key in columns],
        Rows(np.arange(len(known.lines["quantity"])) + 2, [*columns.values()], {}),
        "utf-8",
        ",",
        name="your orders",
        tells=frozenset([*tells, *NEVER]),
    )


def _of_lines(known: StoredOrders, texts: Sequence[str]) -> Coded:
    by_order = coded(texts)
    return Coded(by_order.texts, np.repeat(by_order.codes, known.lines_by_order))
