"""A plan day by day beside today, and what it needs of the goods in stock.

docs/sums.md, "Day by day".
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from yellow_abacus.core.forecast.chances import Drawn
from yellow_abacus.core.forecast.course import CELLS, Course, Flow, by_day, parts_of
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.states import State, over_cells
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.forecast.takings import takings_of
from yellow_abacus.core.ground.axes import summed_by
from yellow_abacus.core.ground.money import Floats, Ints
from yellow_abacus.core.pricing.reached import reached


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
    """Units of a SKU (index) that the plan's days need, today and under the plan, things put in included.

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
    """needs: of the SKUs whose stock is known, those of which it needs the largest part first."""

    days: tuple[Day, ...]
    needs: tuple[Need, ...]


def over_time(forecaster: Forecaster, plan: Plan) -> OverTime:
    stands = forecaster.stands
    drawn, nothing = forecaster.drawn(plan), stands.as_it_stands(plan)
    now = dict(by_day(stands, plan.today, stands.spans(plan.today), nothing))
    then = dict(by_day(forecaster, plan, forecaster.spans(plan), drawn))
    days = []
    for number, day in enumerate(then):
        before, after = _kept(now[day], nothing, first=number == 0), _kept(then[day], drawn, first=number == 0)
        days.append(Day(day, before[0], after[0], before[1], after[1]))
    goods = forecaster.batch.goods
    stocked = np.flatnonzero(goods.stock >= 0)
    needs_now, needs = (
        np.array([each for each in _needs(room, one, of, told, stocked)])
        for room, one, of, told in ((stands, plan.today, now, nothing), (forecaster, plan, then, drawn))
    )
    return OverTime(tuple(days), tuple(_told(stocked, goods.stock[stocked], list(then), needs_now, needs)))


def _kept(course: Course, drawn: Drawn, first: bool) -> tuple[float, float]:
    """Orders of a day, and what they keep."""
    takings = takings_of(course, drawn)
    paid = sum(offer.response.paid for offer in drawn.plan.offers)
    orders = float(takings.all_orders[0, AT["orders"]])
    return orders, float(takings.profit[0]) + (0.0 if first else paid)


# --- units


def _needs(
    forecaster: Forecaster, plan: Plan, days: dict[int, Course], drawn: Drawn, stocked: Ints
) -> Iterator[Floats]:
    """Of each day, the units of each of the SKUs."""
    known: dict[int, _Units] = {}
    for course in days.values():
        whole = np.zeros(len(stocked))
        for flow in course.flows:
            state = flow.state
            if id(state) not in known:
                known[id(state)] = _Units(forecaster, plan, state, drawn, stocked)
            whole += known[id(state)].of(flow)
        yield whole


class _Units:
    """Units of some SKUs that orders of a state hold: of every order, and of those each offer takes effect on."""

    def __init__(self, forecaster: Forecaster, plan: Plan, state: State, drawn: Drawn, stocked: Ints) -> None:
        self.drawn, self.state, self.stocked = drawn, state, stocked
        self.brings = [at for at in state.numbers if drawn.extra_by_cell(at).any()]
        offers, span = tuple(offer for _, offer in state.available.offers), state.span
        if state.available.sharp and plan.sharp is not None:
            mix = plan.sharp.mix(forecaster.shop, span.mix.batch.goods)
            each = _by_group(mix, mix.share_by_cart, stocked).sum(axis=0)
            self.every = np.tile(each, (CELLS, 1))
            self.reached = {at: self.every for at in self.brings}
            return
        mix = span.mix.branched((*offers, *span.today))
        self.every = self._by_cell(mix, mix.share_by_cart)
        self.reached = {}
        if self.brings:
            carts = np.flatnonzero(np.logical_or.reduce(reached(offers, forecaster.shop, mix.batch), axis=0))
            rows = forecaster.outlook.costed(mix, offers, plan.apply, carts, span.today)
            for at in self.brings:
                took = rows.took_effect[state.numbers.index(at)] * rows.share_by_row
                by_cart = summed_by(rows.cart_by_row, took, mix.batch.axes.carts) * mix.share_by_cart
                self.reached[at] = self._by_cell(mix, by_cart)

    def _by_cell(self, mix: Mix, weight_by_cart: Floats) -> Floats:
        """[cell, SKU]."""
        result: Floats = over_cells(self.state.span.source, mix.groups) @ _by_group(mix, weight_by_cart, self.stocked)
        return result

    def of(self, flow: Flow) -> Floats:
        """By SKU, of the orders of a flow and those they bring."""
        orders = flow.orders[0]
        found: Floats = orders @ self.every
        extras = {at: orders * self.drawn.extra_by_cell(at)[0] for at in self.brings} if flow.wins else {}
        for at, extra in extras.items():
            found = found + extra @ self.reached[at]
        place = {int(sku): number for number, sku in enumerate(self.stocked)}
        for sums, share, _ in parts_of(self.state, self.drawn):
            for sku, units in sums.put_in.items():
                if sku in place:
                    found[place[sku]] += share[0] * (orders @ units[:, 0])
                    for at, extra in extras.items():
                        found[place[sku]] += share[0] * (extra @ units[:, 1 + self.state.numbers.index(at)])
        return found


def _by_group(mix: Mix, weight_by_cart: Floats, stocked: Ints) -> Floats:
    """Units of some SKUs by group of carts: [group, SKU]."""
    batch, groups = mix.batch, mix.groups
    place = np.full(len(batch.goods.skus), -1)
    place[stocked] = np.arange(len(stocked))
    lines = np.flatnonzero(place[batch.sku_by_line] >= 0)
    cart = batch.axes.cart_by_line[lines]
    cell = groups.number_by_cart[cart] * len(stocked) + place[batch.sku_by_line[lines]]
    units = weight_by_cart[cart] * batch.quantity_by_line[lines]
    return summed_by(cell, units, len(groups) * len(stocked)).reshape(len(groups), len(stocked))


def _told(stocked: Ints, stock: Floats, days: list[int], today: Floats, plan: Floats) -> Iterator[Need]:
    if not len(days) or not len(stocked):
        return
    gone, gone_today = np.cumsum(plan, axis=0), np.cumsum(today, axis=0)
    part = gone[-1] / np.maximum(stock, 1.0)
    for at in np.lexsort((stocked, -part)):
        if not gone[-1, at] and not gone_today[-1, at]:
            continue
        yield Need(
            int(stocked[at]),
            float(stock[at]),
            float(gone_today[-1, at]),
            float(gone[-1, at]),
            _ends(gone_today[:, at], stock[at], days),
            _ends(gone[:, at], stock[at], days),
        )


def _ends(gone: Floats, stock: float, days: list[int]) -> int | None:
    over = np.flatnonzero(gone > stock + 1e-9)
    return days[int(over[0])] if len(over) else None
