"""Which goods a plan may sell out: those of which its days may need more than is in stock.

Figures that have a range are taken at their highest, so that what sells out in any draw is among them. docs/sums.md,
"Goods that sell out".
"""

from dataclasses import replace
from typing import Protocol

import numpy as np

from yellow_abacus.core.forecast.chances import Drawn
from yellow_abacus.core.forecast.course import Course
from yellow_abacus.core.forecast.expected import Expected
from yellow_abacus.core.forecast.needed import Needed
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.forecast.plan import Plan

MOST_SOLD_OUT = 10
"""So many goods may sell out, those of whose stock most is needed first; of others there is enough."""


class Room(Protocol):
    """What forecasts a plan."""

    expected: Expected
    outlook: Outlook

    def drawn(self, plan: Plan) -> Drawn: ...
    def course(self, plan: Plan, drawn: Drawn) -> Course: ...
    def course_short_of(self, plan: Plan, skus: tuple[int, ...], drawn: Drawn) -> Course: ...


def may_sell_out(room: Room, plan: Plan) -> tuple[int, ...]:
    """SKUs (index), by index; none of the kits that go with their parts.

    First as if there were enough of everything. Once some have sold out, offers may reach other carts and bring more
    orders, which need more of others: so it is asked again until no more of them sell out.
    """
    goods = room.expected.history.batch.goods
    stocked = np.flatnonzero(goods.stock >= 0)
    if not len(stocked):
        return ()
    enough, stock = plan.as_if_enough, np.where(goods.has_own_stock, goods.stock, np.inf)[stocked]
    drawn, found = _at_most(room, enough), tuple[int, ...]()
    course = room.course(enough, drawn)
    while True:
        units = Needed(room.outlook, plan, drawn, stocked).of(course)
        needed = goods.kits.with_kits(units, stocked).max(axis=0)
        order = np.lexsort((stocked, -needed / np.maximum(stock, 1.0)))
        over = [sku for sku in stocked[order[needed[order] > stock[order]]].tolist() if sku not in found]
        found = tuple(sorted((*found, *over[: MOST_SOLD_OUT - len(found)])))
        if not over or len(found) == MOST_SOLD_OUT or not plan.offers:
            return found
        course = room.course_short_of(plan, found, drawn)


def _at_most(room: Room, plan: Plan) -> Drawn:
    """Two draws: the likely values, and the highest of every figure."""
    orders = room.expected.orders_between
    drawn = replace(room.drawn(plan), draws=2, orders=None if orders is None else np.array([1.0, orders[1]]))
    for (at, figure), (_, likely, high) in plan.ranged.items():
        drawn = drawn.otherwise(at, figure, np.array([likely, high]))
    return drawn
