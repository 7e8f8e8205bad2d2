"""Rods: where an average order's money goes, for each cart type.

What the shopper pays is the cost of goods, delivery, fees and handling, tax, and what you keep; given away
stands beside it. docs/sums.md, "Rods".
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.states import State
from yellow_abacus.core.forecast.sums import AT, LEDGER
from yellow_abacus.core.ground.money import Floats


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
    way: str, labels: Sequence[str], plan: Plan, today: Sequence[State], states: Sequence[State]
) -> tuple[Rod, ...]:
    """One rod a type that has orders. way: of sorting carts, with its labels. today, states: over the plan's time."""

    def total(states: Sequence[State]) -> Floats:
        found: Floats = np.sum([state.orders * state.sums.by_type[way].total for state in states], axis=0)
        return found

    now, then = total(today), total(states)
    given = np.sum([state.orders * state.sums.by_type[way].given for state in states], axis=0)
    extra = np.sum(
        [state.orders * (state.extra(plan) @ state.sums.by_type[way].kept_if_reached) for state in states], axis=0
    )
    orders, kept, kept_today = then[AT["orders"]], then[LEDGER].sum(axis=0), now[LEDGER].sum(axis=0)

    def costs(*rows: str) -> Floats:
        found: Floats = -np.sum([then[AT[row]] for row in rows], axis=0)
        return found

    goods, delivery = costs("goods_cost", "put_in_cost"), costs("delivery_cost")
    fees, tax = costs("picking", "payment", "commission", "returns"), then[AT["tax"]]
    all_orders = float(orders.sum())
    return tuple(
        Rod(
            label=labels[at],
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
        for at in range(len(labels))
        if orders[at] > 0
    )
