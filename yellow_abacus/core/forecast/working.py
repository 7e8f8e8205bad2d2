"""Show the working: every figure of the answer by key, with its formula in words and the figures it is made of.

The parts of a figure add up to it, sign by sign, all the way down to what the carts of one type come to, and from
there to single carts of the history. docs/sums.md, "The working".

>>> Figure("a", "A", "b less c", 5.0, "money", ((1, "b"), (-1, "c"))).parts
((1, 'b'), (-1, 'c'))
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yellow_abacus.core.costing.ledger import INDEX, PLAN_ROWS, ROWS
from yellow_abacus.core.forecast.bridge import STEPS, rows_of_step
from yellow_abacus.core.forecast.cart_types import BY_TYPE
from yellow_abacus.core.forecast.chances import Drawn
from yellow_abacus.core.forecast.course import Course, parts_of
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.forecast.takings import Takings, takings_of
from yellow_abacus.core.ground.axes import weighed_by
from yellow_abacus.core.ground.money import Floats
from yellow_abacus.core.ground.once import cached_property

Unit = Literal["money", "orders", "money_an_order"]
MOST_CARTS = 3

WHO = {
    "today": "today",
    "staying": "as today, without the orders that dropped offers bring",
    "anyway": "orders that come anyway, under the plan",
    "topped_up": "what changes where carts are topped up",
    "extra": "orders the offers bring",
    "sent": "orders that messages bring",
    "enough_today": "today, as if there were enough",
    "enough_staying": "as today, without the orders that dropped offers bring, as if there were enough",
    "enough_anyway": "orders that come anyway, under the plan, as if there were enough",
}
"""Whose figures are told row by row."""

PLANNED = ("anyway", "topped_up", "extra", "sent")
"""Those of them that are parts of the plan."""

ENOUGH = "enough_"

ROWS_BY_KEY = {row.key: row for row in (*ROWS, *PLAN_ROWS)}


@dataclass(frozen=True)
class Figure:
    """value: minor units, or orders. parts: signs and keys of the figures that add up to it; none where it is told as
    `orders` times `each` (minor units an order), or is said by the merchant.

    carts: numbers of carts of the history that are near it.
    """

    key: str
    name: str
    formula: str
    value: float
    unit: Unit
    parts: tuple[tuple[int, str], ...] = ()
    orders: float | None = None
    each: float | None = None
    carts: tuple[int, ...] = ()


class UnknownFigureError(KeyError):
    """There is no such figure."""


class Working:
    """The figures of one forecast, by key: those of `top`, and all they are made of."""

    top = ("impact", "today", "plan", "orders/today", "orders/plan")

    def __init__(self, forecaster: Forecaster, plan: Plan, names: Sequence[str] = ()) -> None:
        """names: of the plan's offers, in order; none for their numbers."""
        self.names = names or [f"Offer {number}" for number in range(1, len(plan.offers) + 1)]
        self.forecaster, self.plan = forecaster, plan
        self._courses = _Courses(forecaster, plan)
        self._enough = self._courses if plan.as_if_enough is plan else _Courses(forecaster, plan.as_if_enough)

    @property
    def _sells_out(self) -> bool:
        return self._enough is not self._courses

    @property
    def _before(self) -> Takings:
        return self._courses.now.takings

    @property
    def _after(self) -> Takings:
        return self._courses.after

    def figure(self, key: str) -> Figure:
        """Raises UnknownFigureError."""
        match key.split("/", 2):
            case ["impact"]:
                steps = tuple((1, f"bridge/{step}") for step in STEPS)
                value = float(self._after.profit[0] - self._before.profit[0])
                return Figure(key, "Plan minus today", "All steps of the bridge", value, "money", steps)
            case ["today"]:
                return self._all_rows(key, "You keep today", "today")
            case ["plan"]:
                rows = tuple((1, f"plan/{row}") for row in ROWS_BY_KEY)
                value = float(self._after.profit[0])
                return Figure(key, "You keep under the plan", "All rows of the ledger", value, "money", rows)
            case ["orders", who] if who in ("today", "plan"):
                return self._orders(key, who)
            case ["bridge", step] if step in STEPS:
                return self._step(key, step)
            case ["plan", row] if row in ROWS_BY_KEY:
                return self._plan_row(key, row)
            case [who, row] if who in WHO and row in INDEX and INDEX[row] < len(ROWS):
                return self._row(key, who, row)
            case ["extra", row, number] if row in INDEX and INDEX[row] < len(ROWS) and number.isdecimal():
                return self._brought(key, row, int(number))
            case [who, row, label] if who in WHO and row in INDEX and INDEX[row] < len(ROWS):
                return self._of_type(key, who, row, label)
            case ["borrowed" | "switched" | "winning" | "fixed" as what, number] if number.isdecimal():
                return self._of_offer(key, what, int(number))
        raise UnknownFigureError(key)

    # --- sums of rows

    def _all_rows(self, key: str, name: str, who: str) -> Figure:
        rows = tuple((1, f"{who}/{row.key}") for row in ROWS)
        value = sum(self._whole(who)[INDEX[row.key]] for row in ROWS)
        return Figure(key, name, "All rows of the ledger", float(value), "money", rows)

    def _whole(self, who: str) -> Floats:
        """By figure of FIGURES."""
        courses = self._enough if who.startswith(ENOUGH) else self._courses
        match who.removeprefix(ENOUGH):
            case "today":
                whole = courses.now.takings.existing
            case "staying":
                whole = courses.staying.existing
            case "anyway":
                whole = courses.after.existing
            case part:
                whole = getattr(courses.after, part)
        result: Floats = whole[0]
        return result

    def _orders(self, key: str, who: str) -> Figure:
        if who == "today":
            return Figure(
                key, "Orders today", "Each day’s expected orders", float(self._whole("today")[AT["orders"]]), "orders"
            )
        parts = (self._whole(one)[AT["orders"]] for one in PLANNED)
        return Figure(key, "Orders under the plan", "Orders that come anyway, and more", float(sum(parts)), "orders")

    def _step(self, key: str, step: str) -> Figure:
        name, rows = STEPS[step], rows_of_step(step)
        if rows:
            formula = "Of the orders that come anyway: under the plan, less today"
            before = "staying" if self.plan.dropped else "today"
            return self._change(key, name, formula, rows, *self._side("anyway", before))
        if step == "volume":
            formula = "Of the orders that come without the offers dropped: today, less all of today’s"
            all_rows = tuple(row.key for row in ROWS) if self.plan.dropped else ()
            return self._change(key, name, formula, all_rows, *self._side("staying", "today"))
        if step == "sold_out":
            return self._lost(key, name)
        if step in ("top_ups", "more_orders"):
            of = ("topped_up",) if step == "top_ups" else ("extra", "sent")
            parts = tuple((1, f"{who}/{row.key}") for who in of for row in ROWS)
            value = sum(self._whole(who)[INDEX[row.key]] for who in of for row in ROWS)
            return Figure(
                key, name, f"All rows of {' and of '.join(WHO[who] for who in of)}", float(value), "money", parts
            )
        value = -float(getattr(self._after, step)[0])
        return Figure(key, name, "Of each offer", value, "money", self._by_offer(step))

    def _change(self, key: str, name: str, formula: str, rows: tuple[str, ...], after: str, before: str) -> Figure:
        parts = tuple(part for row in rows for part in ((1, f"{after}/{row}"), (-1, f"{before}/{row}")))
        value = sum(self._whole(after)[INDEX[row]] - self._whole(before)[INDEX[row]] for row in rows)
        return Figure(key, name, formula, float(value), "money", parts)

    def _side(self, *whose: str) -> tuple[str, ...]:
        """As if there were enough, where goods sell out: what is lost then is a step of its own."""
        return tuple(f"{ENOUGH}{who}" for who in whose) if self._sells_out else whose

    def _lost(self, key: str, name: str) -> Figure:
        """What goods that sell out lose under the plan, less what they lose today."""
        formula = "Under the plan, less as if there were enough; less the same today"
        if not self._sells_out:
            return Figure(key, name, formula, 0.0, "money")
        signs = ((1, "anyway"), (-1, f"{ENOUGH}anyway"), (-1, "today"), (1, f"{ENOUGH}today"))
        parts = tuple((sign, f"{who}/{row.key}") for row in ROWS for sign, who in signs)
        value = sum(sign * float(self._whole(who)[AT["kept"]]) for sign, who in signs)
        return Figure(key, name, formula, value, "money", parts)

    def _by_offer(self, what: str) -> tuple[tuple[int, str], ...]:
        return tuple((-1, f"{what}/{at}") for at in range(len(self.plan.offers)))

    def _plan_row(self, key: str, row: str) -> Figure:
        name = ROWS_BY_KEY[row].label
        if INDEX[row] >= len(ROWS):
            value = -float(getattr(self._after, row)[0])
            return Figure(key, name, "Of each offer", value, "money", self._by_offer(row))
        parts = tuple((1, f"{who}/{row}") for who in PLANNED)
        value = sum(self._whole(who)[INDEX[row]] for who in PLANNED)
        return Figure(
            key, name, "Orders that come anyway, those topped up, and more orders", float(value), "money", parts
        )

    # --- by type of cart

    @cached_property
    def _way(self) -> str:
        sorts = [flow.state.sums.by_type for flow in (*self._courses.now.course.flows, *self._courses.planned.flows)]
        return next(way for way in (BY_TYPE, "category") if all(way in one for one in sorts))

    @cached_property
    def _by_type(self) -> dict[str, dict[str, Floats]]:
        """By whose and type, figures of FIGURES."""
        found: dict[str, dict[str, Floats]] = {who: {} for who in WHO}
        told = list(self._courses.by_type(self._way))
        if self._sells_out:
            told += [(f"{ENOUGH}{who}", label, figures) for who, label, figures in self._enough.by_type(self._way)]
        for who, label, figures in told:
            if who in found:
                known = found[who].get(label)
                found[who][label] = figures if known is None else known + figures
        return found

    def _row(self, key: str, who: str, row: str) -> Figure:
        name, value = f"{ROWS_BY_KEY[row].label}, {WHO[who]}", float(self._whole(who)[INDEX[row]])
        if who == "extra":
            offers = tuple((1, f"extra/{row}/{at}") for at in range(len(self.plan.offers)))
            return Figure(key, name, "Of each offer", value, "money", offers)
        parts = tuple(
            (1, f"{who}/{row}/{label}")
            for label, figures in self._by_type[who].items()
            if figures[AT["orders"]] or figures[INDEX[row]]
        )
        return Figure(key, name, "Of each type of cart", value, "money", parts)

    def _of_type(self, key: str, who: str, row: str, label: str) -> Figure:
        if label not in self._by_type[who]:
            raise UnknownFigureError(key)
        figures = self._by_type[who][label]
        orders, value = float(figures[AT["orders"]]), float(figures[INDEX[row]])
        each = value / orders if abs(orders) > 1e-12 else None
        formula = "So many orders, times what one of them comes to" if each is not None else "What changes on them"
        carts = self._carts(label, row, each) if who == "today" and each is not None else ()
        told = orders if each is not None else None
        return Figure(key, f"{ROWS_BY_KEY[row].label}, {label}", formula, value, "money", (), told, each, carts)

    def _carts(self, label: str, row: str, each: float) -> tuple[int, ...]:
        """Carts of the history of a type that are nearest to its average."""
        mix, outlook = self.forecaster.mix, self.forecaster.outlook
        types = mix.types.get(self._way)
        if types is None or label not in types.labels:
            return ()
        bare = outlook.on_day(self.plan.first_day)
        mine = np.flatnonzero(
            (types.type_by_cart == types.labels.index(label)) & (self.forecaster.expected.weight_by_cart > 0)
        )
        off = np.abs(bare.figures.by_cart[INDEX[row], mine] - each)
        return tuple(mine[np.argsort(off, kind="stable")[:MOST_CARTS]].tolist())

    def _brought(self, key: str, row: str, at: int) -> Figure:
        if at >= len(self.plan.offers):
            raise UnknownFigureError(key)
        figures = self._after.extra_of[0, at]
        orders, value = float(figures[AT["orders"]]), float(figures[INDEX[row]])
        formula = "The orders it brings, like those it reaches, times what one of them comes to"
        each = value / orders if orders else 0.0
        return Figure(key, f"{ROWS_BY_KEY[row].label}, {self.names[at]}", formula, value, "money", (), orders, each)

    # --- what a plan costs besides its carts

    def _of_offer(self, key: str, what: str, at: int) -> Figure:
        if at >= len(self.plan.offers):
            raise UnknownFigureError(key)
        told, after = self.plan.offers[at].response, self._after
        name = self.names[at]
        if what == "fixed":
            return Figure(key, name, "As it was said", float(told.fixed_cost), "money")
        if what == "borrowed":
            formula = "The extra orders that only came sooner, times what those keep today"
            return Figure(key, name, formula, float(after.borrowed_of[0, at]), "money")
        if what == "switched":
            formula = "The goods of extra orders that are bought in place of others, times what those keep"
            return Figure(key, name, formula, float(after.switched_of[0, at]), "money")
        formula = "Extra orders times what one costs to win, the partner’s share, and messages"
        return Figure(key, name, formula, float(after.winning_of[0, at]), "money")


class _Courses:
    """The courses of a plan, of today, and of as today without the orders that dropped offers bring."""

    def __init__(self, forecaster: Forecaster, plan: Plan) -> None:
        self.forecaster, self.plan = forecaster, plan
        self.drawn, self.nothing = forecaster.drawn(plan), forecaster.as_it_stands(plan)
        self.now = forecaster.now(plan)
        self.planned = forecaster.course(plan, self.drawn)

    @cached_property
    def stay(self) -> Course:
        return self.forecaster.course(self.plan.staying, self.nothing)

    @cached_property
    def staying(self) -> Takings:
        return takings_of(self.stay, self.nothing) if self.plan.dropped else self.now.takings

    @cached_property
    def after(self) -> Takings:
        return takings_of(self.planned, self.drawn)

    def by_type(self, way: str) -> Iterator[tuple[str, str, Floats]]:
        """By whose and type of cart, again and again: figures of FIGURES."""
        yield from self._of(self.now.course, "today", self.nothing, way)
        yield from self._of(self.planned, "anyway", self.drawn, way)
        if self.plan.dropped:
            yield from self._of(self.stay, "staying", self.nothing, way)

    def _of(self, course: Course, who: str, drawn: Drawn, way: str) -> Iterator[tuple[str, str, Floats]]:
        for flow in course.flows:
            for sums, share, anyway in parts_of(flow.state, drawn):
                of_type, orders = sums.by_type[way], flow.orders[0] * share[0]
                whole = weighed_by(orders, of_type.total)
                mine = "sent" if not flow.wins else who if anyway else "topped_up"
                for at, label in enumerate(of_type.labels):
                    yield mine, label, whole[at]
