"""What is known of each order besides its goods, from the order itself and the shopper's earlier ones.

docs/sums.md, "Who, where, when".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellow_abacus.core.carts.facts import UNKNOWN, Facts, Labels, codes, labels, tags
from yellow_abacus.core.ground.axes import among, run_begins
from yellow_abacus.core.ground.money import Ints

Moments = NDArray[np.datetime64]


@dataclass(frozen=True, eq=False)
class OrderColumns:
    """One entry an order, names empty where nothing is known. placed_at: on the shop's own clock.

    first_order: 1 where the order is said to be the shopper's first, 0 where it is said not to be, else UNKNOWN.
    """

    placed_at: Moments
    shopper: Sequence[str]
    first_order: Ints
    group: Sequence[str]
    tags: Sequence[Sequence[str]]
    channel: Sequence[str]
    payment: Sequence[str]
    currency: Sequence[str]
    option: Sequence[str]
    code: Sequence[str]


def facts_of(orders: OrderColumns, currency: str) -> Facts:
    """One entry an order. currency: the shop's own, meant where an order names none.

    How many orders a shopper placed before is counted from the orders at hand; what an order itself says of being
    the first wins. An order said not to be the first, of a shopper not seen before, counts one before it. Where all
    orders stand at midnight, times of day are not known.
    """
    shopper = labels(orders.shopper)
    before, since = _before(orders, shopper)
    days = orders.placed_at.astype("datetime64[D]")
    minute = (orders.placed_at - days).astype("timedelta64[m]").astype(np.int64)
    if not minute.any():
        minute = np.full_like(minute, UNKNOWN)  # the files told days alone
    return Facts(
        weekday_by_cart=(days.astype(np.int64) + THURSDAY) % 7,
        minute_by_cart=minute,
        orders_before_by_cart=before,
        days_since_by_cart=since,
        shopper=shopper,
        group=labels(orders.group),
        tags=tags(orders.tags),
        channel=labels(orders.channel),
        payment=labels(orders.payment),
        currency=labels([one or currency for one in orders.currency]),
        option=labels(orders.option),
        code=codes(orders.code),
    )


THURSDAY = 3
"""Weekday of the day numbered 0; Monday is 0."""


def _before(orders: OrderColumns, shopper: Labels) -> tuple[Ints, Ints]:
    """Orders before each one, and days since the last, UNKNOWN where that cannot be told."""
    number, first = shopper.number_by_cart, orders.first_order
    in_time = np.lexsort((orders.placed_at, number))  # by shopper; of one moment, as they are told
    who = number[in_time]
    opens = run_begins(who) | (who == UNKNOWN)
    start = np.maximum.accumulate(np.where(opens, np.arange(len(who)), 0))
    count = np.empty(len(who), dtype=np.int64)
    count[in_time] = np.arange(len(who)) - start
    days = orders.placed_at.astype("datetime64[D]").astype(np.int64)
    last = np.full(len(who), UNKNOWN, dtype=np.int64)
    follows = np.flatnonzero(~opens)
    last[in_time[follows]] = days[in_time[follows - 1]]
    told = (first != UNKNOWN) | (number != UNKNOWN)
    before = np.where(first == 1, 0, np.maximum(count, first == 0))
    before = np.where(told, before, UNKNOWN)
    seen_before = among(in_time[follows], len(who))
    since = np.where(seen_before & (before > 0), days - last, UNKNOWN)
    return before, since
