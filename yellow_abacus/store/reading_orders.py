"""All orders of a shop file, read in columns."""

import json
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

import numpy as np
from sqlalchemy import Connection, Engine, select
from sqlalchemy.orm import Session

from yellow_abacus.core.carts.facts import UNKNOWN, Facts
from yellow_abacus.core.carts.order_facts import Moments, OrderColumns, facts_of
from yellow_abacus.core.forecast.volume import ordinals
from yellow_abacus.core.ground.money import Ints
from yellow_abacus.store.imports import all_live, live_ids
from yellow_abacus.store.models import ShopRow

ORDERS = """
    select id, zone_id, placed_at, shopper, coalesce(first_order, -1), shopper_group, tags, channel, payment,
    currency, option, code, coalesce(import_id, 0), coalesce(delivery_paid, -1) from orders {which} order by id
"""
LINES = """
    select group_concat(order_id, ' '), group_concat(good_id, ' '), group_concat(quantity, ' '),
    group_concat(coalesce(unit_price, (paid + quantity / 2) / quantity, 0), ' '),
    group_concat(coalesce(paid, unit_price * quantity, -1), ' '), group_concat(returned, ' ') from order_lines
"""
"""Each column as one text: a million lines take a third of a second so, and four times that row by row."""


@dataclass(frozen=True, eq=False)
class LoadedOrders:
    """All orders that count, as they were brought in.

    ids: of the orders, rising. zone_id: of each order's row. day: the ordinal of each order's. delivery_paid: minor
    units, UNKNOWN where it was not said.

    One entry a line, in order of carts: cart, good_id, quantity; asked: for one unit, minor units, 0 where that was
    not said; paid: for all of them, UNKNOWN where it was not; charged: the same, UNKNOWN also where only the price
    asked was said, of which something may have come off (see `_charged`); returned: units sent back.
    """

    ids: Ints
    zone_id: Ints
    day: Ints
    delivery_paid: Ints
    cart: Ints
    good_id: Ints
    quantity: Ints
    asked: Ints
    paid: Ints
    charged: Ints
    returned: Ints
    facts: Facts
    currency: str

    def before(self, day: int) -> "LoadedOrders":
        """The orders before a day, an ordinal, alone."""
        kept = self.day < day
        lines, number = kept[self.cart], np.cumsum(kept) - 1
        carts = np.flatnonzero(kept)
        of_orders = {name: getattr(self, name)[carts] for name in ("ids", "zone_id", "day", "delivery_paid")}
        of_lines = {
            name: getattr(self, name)[lines]
            for name in ("good_id", "quantity", "asked", "paid", "charged", "returned")
        }
        facts = self.facts.some(carts)
        return replace(self, cart=number[self.cart[lines]], facts=facts, **of_orders, **of_lines)

    @property
    def last_day(self) -> date | None:
        """Of the last order; None where there is none."""
        return date.fromordinal(int(self.day.max())) if len(self.day) else None

    @property
    def counted_days(self) -> int:
        """From the first order's day to the last one's, both included; 1 where there are none."""
        return int(self.day.max() - self.day.min()) + 1 if len(self.day) else 1


ReadLines = Callable[[], Sequence[Ints]]
"""Answers the columns of all lines."""


@contextmanager
def lines_beside(session: Session) -> Iterator[ReadLines]:
    """The lines, read on a connection of their own while the session reads the rest: they are more than all else."""
    with ThreadPoolExecutor(1) as beside:
        found = beside.submit(_lines_at, session.connection().engine, session.execute(VERSION).scalar_one())
        yield lambda: found.result() or _lines(session.connection())


def read_orders(session: Session, currency: str, read_lines: ReadLines) -> LoadedOrders:
    """currency: the shop's own, meant where an order names none."""
    some = not all_live(session)
    which = f"where id in ({live_ids()})" if some else ""
    columns: Sequence[Any] = list(zip(*_rows(session, ORDERS.format(which=which)), strict=True)) or [()] * 14
    (
        ids,
        zone_id,
        placed_at,
        shopper,
        first_order,
        group,
        tags,
        channel,
        payment,
        currencies,
        option,
        code,
        imported,
        delivery_paid,
    ) = columns
    moments: Moments = np.array(placed_at, dtype="datetime64[us]")
    known = {text: json.loads(text) for text in set(tags)}
    told = OrderColumns(
        placed_at=moments,
        shopper=shopper,
        first_order=np.array(first_order, dtype=np.int64),
        group=group,
        tags=[known[text] for text in tags],
        channel=channel,
        payment=payment,
        currency=currencies,
        option=option,
        code=code,
    )
    order_id, good_id, quantity, asked, paid, returned = read_lines()
    order_ids = np.array(ids, dtype=np.int64)
    counts = np.isin(order_id, order_ids) if some or not ids else slice(None)
    cart, asked, paid = np.searchsorted(order_ids, order_id[counts]), asked[counts], paid[counts]
    return LoadedOrders(
        ids=order_ids,
        zone_id=np.array(zone_id, dtype=np.int64),
        day=ordinals(moments),
        delivery_paid=np.array(delivery_paid, dtype=np.int64),
        cart=cart,
        good_id=good_id[counts],
        quantity=quantity[counts],
        asked=asked,
        paid=paid,
        charged=_charged(np.array(imported, dtype=np.int64)[cart], asked * quantity[counts], paid),
        returned=returned[counts],
        facts=facts_of(told, currency),
        currency=currency,
    )


def _lines_at(engine: Engine, version: int) -> Sequence[Ints] | None:
    """The columns of the lines, on a connection of their own; None where the shop has changed since."""
    with engine.connect() as connection:
        return _lines(connection) if connection.execute(VERSION).scalar_one() == version else None


def _lines(connection: Connection) -> Sequence[Ints]:
    found: Sequence[str | None] = connection.exec_driver_sql(LINES).one()
    return [np.fromstring(column or "", dtype=np.int64, sep=" ") for column in found]


VERSION = select(ShopRow.data_version)


def _charged(import_by_line: Ints, asked: Ints, paid: Ints) -> Ints:
    """What lines were charged, told by the imports of which some line paid otherwise than it was asked: a file that
    tells the price asked alone says nothing of what came off. asked: of all units."""
    telling = np.unique(import_by_line[(paid != UNKNOWN) & (paid != asked)])
    return np.where(np.isin(import_by_line, telling), paid, UNKNOWN)


def _rows(session: Session, query: str) -> Sequence[Any]:
    """Rows as the driver has them: a million of them take a second so, and ten through the mapper."""
    found: Sequence[Any] = session.connection().exec_driver_sql(query).cursor.fetchall()
    return found
