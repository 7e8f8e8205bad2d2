"""Rods: where an average order's money goes, for each cart type.

What the shopper pays is the cost of goods, delivery, fees and handling, tax, and what you keep; given away
stands beside it. docs/sums.md, "Rods".
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.groups import Groups
from yellow_abacus.core.ledger import INDEX
from yellow_abacus.core.money import Floats, Ints


class Costed(Protocol):
    @property
    def rows(self) -> Floats: ...
    @property
    def profit_by_cart(self) -> Floats: ...
    @property
    def given_away(self) -> Floats: ...
    @property
    def tax_by_cart(self) -> Floats: ...


@dataclass(frozen=True)
class Rod:
    """Averages an existing order of one cart type under the plan, minor units.

    goods + delivery + fees + tax + kept is what the shopper pays. today: kept today. change: what the whole
    type keeps more or less than today over the window, extra orders included.
    """

    label: str
    orders: float
    share: float
    goods: float
    delivery: float
    fees: float
    tax: float
    given_away: float
    kept: float
    today: float
    change: float


def make_rods(
    batch: CartBatch,
    groups: Groups,
    days: float,
    today: Sequence[tuple[Floats, Costed, Floats]],
    states: Sequence[tuple[Floats, Costed, Floats]],
) -> tuple[Rod, ...]:
    """One rod a group that has orders.

    days: the window's length in counted days of history, so each cart stands for that many orders. today, states:
    weight by cart (adding up to `days`), result, extra orders by cart.
    """
    size = len(groups.labels)

    def total(by_cart: Floats | Ints) -> Floats:
        return np.bincount(groups.group_by_cart, weights=by_cart, minlength=size).astype(np.float64)

    def expected(part: str) -> Floats:
        return total(np.sum([weight * result.rows[INDEX[part]] for weight, result, _ in states], axis=0))

    orders = total(np.full(batch.axes.carts, days))
    kept = total(np.sum([weight * result.profit_by_cart for weight, result, _ in states], axis=0))
    extra = total(np.sum([weight * extra * result.profit_by_cart for weight, result, extra in states], axis=0))
    tax = total(np.sum([weight * result.tax_by_cart for weight, result, _ in states], axis=0))
    given = total(np.sum([weight * result.given_away.sum(axis=0) for weight, result, _ in states], axis=0))
    kept_today = total(np.sum([weight * result.profit_by_cart for weight, result, _ in today], axis=0))
    goods = -expected("goods_cost") - expected("put_in_cost")
    delivery = -expected("delivery_cost")
    fees = -sum((expected(row) for row in ("picking", "payment", "commission", "returns")), start=np.zeros(size))
    all_orders = float(orders.sum())
    return tuple(
        Rod(
            label=groups.labels[at],
            orders=float(orders[at]),
            share=float(orders[at]) / all_orders,
            goods=float(goods[at] / orders[at]),
            delivery=float(delivery[at] / orders[at]),
            fees=float(fees[at] / orders[at]),
            tax=float(tax[at] / orders[at]),
            given_away=float(given[at] / orders[at]),
            kept=float(kept[at] / orders[at]),
            today=float(kept_today[at] / orders[at]),
            change=float(kept[at] + extra[at] - kept_today[at]),
        )
        for at in range(size)
        if orders[at] > 0
    )
