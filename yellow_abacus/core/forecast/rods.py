"""Rods: where an average order's money goes, for each cart type.

What the shopper pays is the cost of goods, delivery, fees and handling, tax, and what you keep; given away
stands beside it. docs/sums.md, "Rods".
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.forecast.cart_types import NO_CATEGORY, OTHERS
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.states import State
from yellow_abacus.core.forecast.sums import AT, FIGURES, LEDGER, OfType
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


def make_rods(way: str, plan: Plan, today: Sequence[State], states: Sequence[State]) -> tuple[Rod, ...]:
    """One rod a type that has orders. way: of sorting carts. today, states: over the plan's time."""
    labels = _labels([state.sums.by_type[way].labels for state in (*today, *states)])

    def summed(states: Sequence[State], figures: Callable[[State, OfType], Floats]) -> Floats:
        """Figures by type (last axis), of all labels."""
        found: Floats | None = None
        for state in states:
            of_type = state.sums.by_type[way]
            part = state.orders * figures(state, of_type)
            found = np.zeros((*part.shape[:-1], len(labels))) if found is None else found
            found[..., [labels.index(one) for one in of_type.labels]] += part
        return np.zeros((len(FIGURES), len(labels))) if found is None else found

    now, then = (summed(some, lambda _, one: one.total) for some in (today, states))
    given = summed(states, lambda _, one: one.given)
    extra = summed(states, lambda state, one: state.extra(plan) @ one.kept_if_reached)
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


def _labels(many: Iterable[tuple[str, ...]]) -> list[str]:
    """All labels in the order they are met, those for what is left at the end."""
    found = list(dict.fromkeys(label for labels in many for label in labels))
    return sorted(found, key=lambda label: label in (NO_CATEGORY, OTHERS))
