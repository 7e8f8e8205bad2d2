"""Rods: where an average order's money goes, for each cart type.

What the shopper pays is the cost of goods, delivery, fees and handling, tax, and what you keep; given away
stands beside it. docs/sums.md, "Rods".
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.forecast.cart_types import NO_CATEGORY, OTHERS
from yellow_abacus.core.forecast.chances import Drawn
from yellow_abacus.core.forecast.course import Course, Flow, parts_of
from yellow_abacus.core.forecast.sums import AT, FIGURES, OfType
from yellow_abacus.core.ground.axes import weighed_by
from yellow_abacus.core.ground.money import Floats


@dataclass(frozen=True)
class Rod:
    """Averages an existing order of one cart type under the plan, minor units.

    goods + delivery + fees + tax + kept is what the shopper pays. today: kept today. change: what the whole
    type keeps more or less than today over the window, extra orders included; what a plan costs besides its carts is
    of no type.
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


def make_rods(way: str, today: Course, planned: Course, drawn: Drawn) -> tuple[Rod, ...]:
    """One rod a type that has orders. way: of sorting carts. drawn: of one value each."""
    labels = _labels([flow.state.sums.by_type[way].labels for flow in (*today.flows, *planned.flows)])

    def summed(course: Course, figures: Callable[[Flow, OfType, Floats], Floats], only: bool) -> Floats:
        """Figures by type (first axis), of all labels. only: of orders that come anyway, as they are."""
        found: Floats | None = None
        for flow in course.flows:
            for sums, share, anyway in parts_of(flow.state, drawn):
                of_type = sums.by_type[way]
                part = figures(flow, of_type, flow.orders[0] * share[0])
                if found is None:
                    found = np.zeros((len(labels), *part.shape[1:]))
                if not only or (anyway and flow.wins):
                    found[[labels.index(one) for one in of_type.labels]] += part
        return np.zeros((len(labels), len(FIGURES))) if found is None else found

    def total(_: Flow, one: OfType, orders: Floats) -> Floats:
        return weighed_by(orders, one.total)

    def given_away(_: Flow, one: OfType, orders: Floats) -> Floats:
        result: Floats = orders @ one.given
        return result

    def kept_by_type(flow: Flow, one: OfType, orders: Floats) -> Floats:
        """All that is kept, extra orders included."""
        found: Floats = orders @ one.total[..., AT["kept"]]
        if flow.wins:
            for here, at in enumerate(flow.state.numbers):
                found = found + (orders * drawn.extra_by_cell(at)[0]) @ one.kept_if_reached[:, here]
        return found

    now, then = (summed(course, total, only=True).T for course in (today, planned))
    given = summed(planned, given_away, only=True)
    kept_planned = summed(planned, kept_by_type, only=False)
    orders, kept = then[AT["orders"]], then[AT["kept"]]
    orders_today, kept_today = now[AT["orders"]], now[AT["kept"]]

    def costs(*rows: str) -> Floats:
        found: Floats = -np.sum([then[AT[row]] for row in rows], axis=0)
        return found

    goods, delivery = costs("goods_cost", "put_in_cost", "funding"), costs("delivery_cost")
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
            today=float(kept_today[at] / orders_today[at]) if orders_today[at] else 0.0,
            change=float(kept_planned[at] - kept_today[at]),
        )
        for at in range(len(labels))
        if orders[at] > 0
    )


def _labels(many: Iterable[tuple[str, ...]]) -> list[str]:
    """All labels in the order they are met, those for what is left at the end."""
    found = list(dict.fromkeys(label for labels in many for label in labels))
    return sorted(found, key=lambda label: label in (NO_CATEGORY, OTHERS))
