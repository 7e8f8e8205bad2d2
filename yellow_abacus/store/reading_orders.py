"""All orders of a shop file, read in columns."""

import json
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import date
from itertools import compress

import numpy as np
from sqlalchemy.orm import Session

from yellow_abacus.core.carts.facts import UNKNOWN, Facts, Labels, labels
from yellow_abacus.core.carts.order_facts import OrderColumns, facts_of
from yellow_abacus.core.forecast.volume import ordinals
from yellow_abacus.core.ground.money import Bools, Ints
from yellow_abacus.store.imports import all_live, live_ids
from yellow_abacus.store.in_columns import UNITS, Columns, Read, read_line_orders, read_lines, read_orders

BY_ORDER = ("ids", "zone_id", "day", "delivery_paid", "delivery_cost", "payment_cost")
OF_LINES = ("good_id", "quantity", "asked", "paid", "charged", "returned")


@dataclass(frozen=True, eq=False)
class LoadedOrders:
    """All orders that count, as they were brought in.

    ids: of the orders, rising. zone_id: of each order's row. day: the ordinal of each order's. delivery_paid,
    delivery_cost, payment_cost: minor units, UNKNOWN where it was not said. status: how they went, as files say it.

    One entry a line, in order of carts: cart, good_id, quantity; asked: for one unit, minor units, 0 where that was
    not said; paid: for all of them, UNKNOWN where it was not; charged: the same, UNKNOWN also where only the price
    asked was said, of which something may have come off (see `_charged`); returned: units sent back.
    """

    ids: Ints
    zone_id: Ints
    day: Ints
    delivery_paid: Ints
    delivery_cost: Ints
    payment_cost: Ints
    cart: Ints
    good_id: Ints
    quantity: Ints
    asked: Ints
    paid: Ints
    charged: Ints
    returned: Ints
    facts: Facts
    status: Labels
    currency: str

    def before(self, day: int) -> "LoadedOrders":
        """The orders before a day, an ordinal, alone."""
        kept = self.day < day
        lines, number = kept[self.cart], np.cumsum(kept) - 1
        carts = np.flatnonzero(kept)
        of_orders = {name: getattr(self, name)[carts] for name in BY_ORDER}
        of_lines = {name: getattr(self, name)[lines] for name in OF_LINES}
        facts, status = self.facts.some(carts), self.status.some(carts)
        return replace(self, cart=number[self.cart[lines]], facts=facts, status=status, **of_orders, **of_lines)

    def without(self, lines: Bools | None) -> "LoadedOrders":
        """All orders, less some of their lines, never all of one's; None for none of them."""
        if lines is None:
            return self
        return replace(self, **{name: getattr(self, name)[~lines] for name in ("cart", *OF_LINES)})

    @property
    def last_day(self) -> date | None:
        """Of the last order; None where there is none."""
        return date.fromordinal(int(self.day.max())) if len(self.day) else None

    @property
    def counted_days(self) -> int:
        """From the first order's day to the last one's, both included; 1 where there are none."""
        return int(self.day.max() - self.day.min()) + 1 if len(self.day) else 1


def loaded_orders(session: Session, currency: str, columns: Callable[[Read], Columns]) -> LoadedOrders:
    """The orders that count. currency: the shop's own, meant where an order names none. columns: of a large table;
    lines are asked for last, as they take longest to be read."""
    orders = columns(read_orders)
    every = _numbers(orders["id"])
    live = None if all_live(session) else np.isin(every, list(session.scalars(live_ids())))
    ids = every if live is None else every[live]

    def numbers(name: str) -> Ints:
        found = _numbers(orders[name])
        return found if live is None else found[live]

    def texts(name: str) -> list[str]:
        found: list[str] = json.loads(orders[name])
        return found if live is None else list(compress(found, live))

    moments, tags = np.array(texts("placed_at"), dtype="datetime64[us]"), texts("tags")
    known = {text: json.loads(text) for text in set(tags)}
    told = OrderColumns(
        placed_at=moments,
        shopper=texts("shopper"),
        first_order=numbers("first_order"),
        group=texts("shopper_group"),
        tags=[known[text] for text in tags],
        channel=texts("channel"),
        payment=texts("payment"),
        currency=texts("currency"),
        option=texts("option"),
        code=texts("code"),
    )
    facts = facts_of(told, currency)
    order_id, lines = _numbers(columns(read_line_orders)["order_id"]), columns(read_lines)
    good_id, units, asked, paid = (_numbers(lines[name]) for name in ("good_id", "units", "asked", "paid"))
    if live is not None or not len(ids):
        counts = np.isin(order_id, ids)
        order_id, good_id, units, asked, paid = (one[counts] for one in (order_id, good_id, units, asked, paid))
    returned, quantity = np.divmod(units, UNITS)
    cart = places_of(order_id, ids)
    return LoadedOrders(
        ids=ids,
        zone_id=numbers("zone_id"),
        day=ordinals(moments),
        delivery_paid=numbers("delivery_paid"),
        delivery_cost=numbers("delivery_cost"),
        payment_cost=numbers("payment_cost"),
        cart=cart,
        good_id=good_id,
        quantity=quantity,
        asked=asked,
        paid=paid,
        charged=_charged(numbers("import_id")[cart], asked * quantity, paid),
        returned=returned,
        facts=facts,
        status=labels(texts("status")),
        currency=currency,
    )


def places_of(wanted: Ints, ids: Ints) -> Ints:
    """Where among ids, none of which stands twice, each of those wanted does."""
    if not len(ids):
        return wanted
    span = int(ids.max()) + 1
    if span > WIDEST * len(ids) + len(wanted):
        in_order = np.argsort(ids)
        return in_order[np.searchsorted(ids, wanted, sorter=in_order)]
    place = np.zeros(span, dtype=np.int64)  # a look into it takes a tenth of a search
    place[ids] = np.arange(len(ids))
    return place[wanted]


WIDEST = 8
"""Ids up to so many times as many as there are are looked up."""


def _numbers(text: str) -> Ints:
    return np.fromstring(text, dtype=np.int64, sep=" ")


def _charged(import_by_line: Ints, asked: Ints, paid: Ints) -> Ints:
    """What lines were charged, told by the imports of which some line paid otherwise than it was asked: a file that
    tells the price asked alone says nothing of what came off. asked: of all units."""
    telling = np.unique(import_by_line[(paid != UNKNOWN) & (paid != asked)])
    return np.where(np.isin(import_by_line, telling), paid, UNKNOWN)
