"""A plan day by day beside today, and what it needs of the goods in stock.

docs/sums.md, "Day by day".
"""

from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.forecast.chances import Drawn
from yellow_abacus.core.forecast.course import Course, by_day
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.needed import Needed
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.forecast.takings import takings_of
from yellow_abacus.core.goods.goods import Goods
from yellow_abacus.core.ground.money import Floats, Ints

MOST_NEEDS = 200
"""So many goods are told, those of which the plan needs the largest part of the stock."""


@dataclass(frozen=True)
class Day:
    """day: an ordinal. kept_today, kept: minor units; what a plan costs once is on its first day."""

    day: int
    orders_today: float
    orders: float
    kept_today: float
    kept: float


@dataclass(frozen=True)
class Need:
    """Units of a SKU (index) that the plan's days need, today and under the plan, things put in and what goes with
    kits included, as if there were enough.

    ends_today, ends: the ordinal of the day on which the stock no longer lasts, None where it does.
    """

    sku: int
    stock: float
    today: float
    plan: float
    ends_today: int | None
    ends: int | None


@dataclass(frozen=True)
class OverTime:
    """needs: of the SKUs whose stock is known, those of which it needs the largest part first. others: how many more
    it needs some of."""

    days: tuple[Day, ...]
    needs: tuple[Need, ...]
    others: int


def over_time(forecaster: Forecaster, plan: Plan) -> OverTime:
    now, then = _days(forecaster.stands, plan.today), _days(forecaster, plan)
    days = []
    for number, day in enumerate(then.courses):
        before, after = (_kept(one.courses[day], one.drawn, first=number == 0) for one in (now, then))
        days.append(Day(day, before[0], after[0], before[1], after[1]))
    goods = forecaster.batch.goods
    stocked = np.flatnonzero(goods.stock >= 0)
    if plan.as_if_enough is not plan:
        now, then = _days(forecaster.stands, plan.as_if_enough.today), _days(forecaster, plan.as_if_enough)
    return OverTime(tuple(days), *_told(goods, stocked, list(then.courses), now.needs(stocked), then.needs(stocked)))


@dataclass(frozen=True, eq=False)
class _Days:
    """courses: by day, an ordinal. drawn: of one value each."""

    room: Forecaster
    plan: Plan
    drawn: Drawn
    courses: dict[int, Course]

    def needs(self, skus: Ints) -> Floats:
        """Units of the SKUs, one row a day."""
        needed = Needed(self.room.outlook, self.plan, self.drawn, skus)
        return np.array([needed.of(course)[0] for course in self.courses.values()])


def _days(room: Forecaster, plan: Plan) -> _Days:
    drawn = room.drawn(plan)
    return _Days(room, plan, drawn, dict(by_day(room, plan, room.spans(plan), drawn)))


def _kept(course: Course, drawn: Drawn, first: bool) -> tuple[float, float]:
    """Orders of a day, and what they keep."""
    takings = takings_of(course, drawn)
    paid = sum(map(drawn.plan.paid_for, drawn.plan.offers))
    orders = float(takings.all_orders[0, AT["orders"]])
    return orders, float(takings.profit[0]) + (0.0 if first else paid)


def _told(goods: Goods, stocked: Ints, days: list[int], today: Floats, plan: Floats) -> tuple[tuple[Need, ...], int]:
    """The first needs, and how many more there are. today, plan: units of the SKUs whose stock is known by day."""
    if not len(days) or not len(stocked):
        return (), 0
    stock = goods.stock[stocked]
    gone, gone_today = (np.cumsum(goods.kits.with_kits(one, stocked), axis=0) for one in (plan, today))
    needed = np.flatnonzero((gone[-1] != 0) | (gone_today[-1] != 0))
    part = gone[-1] / np.maximum(stock, 1.0)
    order = needed[np.lexsort((stocked[needed], -part[needed]))][:MOST_NEEDS]
    of_each = (stocked, stock, gone_today[-1], gone[-1])
    ends = (goods.kits.as_parts(_ends(units, stock, days), stocked)[order] for units in (gone_today, gone))
    told = zip(
        *(each[order].tolist() for each in of_each), *([_day(one) for one in by_sku] for by_sku in ends), strict=True
    )
    return tuple(Need(*one) for one in told), len(needed) - len(order)


def _ends(gone: Floats, stock: Floats, days: list[int]) -> Floats:
    """The day on which each stock no longer lasts, an ordinal; nan where it does. gone: [day, SKU], units gone by
    the end of the day."""
    over = gone > stock + 1e-9
    return np.where(over[-1], np.array(days)[over.argmax(axis=0)], np.nan)


def _day(ordinal: float) -> int | None:
    return None if np.isnan(ordinal) else int(ordinal)
