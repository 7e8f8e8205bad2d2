"""What is known of each order besides its goods, from the order's own row and the shopper's earlier ones."""

from collections.abc import Sequence
from datetime import datetime
from typing import Protocol

import numpy as np

from yellow_abacus.core.facts import UNKNOWN, Facts, labels, tags
from yellow_abacus.core.money import Ints


class Order(Protocol):
    @property
    def placed_at(self) -> datetime: ...
    @property
    def shopper(self) -> str: ...
    @property
    def first_order(self) -> bool | None: ...
    @property
    def shopper_group(self) -> str: ...
    @property
    def tags(self) -> list[str]: ...
    @property
    def channel(self) -> str: ...
    @property
    def payment(self) -> str: ...
    @property
    def currency(self) -> str: ...
    @property
    def option(self) -> str: ...


def order_facts(orders: Sequence[Order], currency: str) -> Facts:
    """One entry an order. currency: the shop's own, meant where an order names none.

    How many orders a shopper placed before is counted from the orders at hand; what an order itself says of being
    the first wins. An order said not to be the first, of a shopper not seen before, counts one before it.
    """
    before, since = _history(orders)
    moments = [order.placed_at for order in orders]
    return Facts(
        weekday_by_cart=np.array([moment.weekday() for moment in moments], dtype=np.int64),
        minute_by_cart=np.array([moment.hour * 60 + moment.minute for moment in moments], dtype=np.int64),
        orders_before_by_cart=before,
        days_since_by_cart=since,
        shopper=labels([order.shopper for order in orders]),
        group=labels([order.shopper_group for order in orders]),
        tags=tags([order.tags for order in orders]),
        channel=labels([order.channel for order in orders]),
        payment=labels([order.payment for order in orders]),
        currency=labels([order.currency or currency for order in orders]),
        option=labels([order.option for order in orders]),
    )


def _history(orders: Sequence[Order]) -> tuple[Ints, Ints]:
    """Orders before each one, and days since the last, UNKNOWN where that cannot be told."""
    before = np.full(len(orders), UNKNOWN, dtype=np.int64)
    since = np.full(len(orders), UNKNOWN, dtype=np.int64)
    seen: dict[str, tuple[int, datetime]] = {}
    for at in sorted(range(len(orders)), key=lambda at: orders[at].placed_at):
        order = orders[at]
        count, last = seen.get(order.shopper, (0, None)) if order.shopper else (0, None)
        if order.first_order is not None or order.shopper:
            before[at] = 0 if order.first_order else max(count, int(order.first_order is False))
        if last is not None and before[at] > 0:
            since[at] = (order.placed_at.date() - last.date()).days
        if order.shopper:
            seen[order.shopper] = (count + 1, order.placed_at)
    return before, since
