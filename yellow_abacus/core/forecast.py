"""What a plan does to profit over its window, held against today.

Today is the same time and the same carts with no offer running. Every distinct set of available offers is
priced once; response figures and spans are weights on those results. docs/sums.md, "A forecast".
"""

from collections import OrderedDict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date
from functools import cached_property

import numpy as np

from yellow_abacus.core.breakeven import LARGEST_EXTRA, BreakEven, on_a_line
from yellow_abacus.core.bridge import Step, bridge
from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.groups import WAYS, Groups, largest
from yellow_abacus.core.money import WHOLE_BP, Floats
from yellow_abacus.core.offers import Offer
from yellow_abacus.core.plan import Plan
from yellow_abacus.core.pricing import Apply
from yellow_abacus.core.response import available_sets
from yellow_abacus.core.results import Result, find_results
from yellow_abacus.core.rods import Rod, make_rods
from yellow_abacus.core.shop import Shop

KEPT_RESULTS = 96
"""Priced results kept by a forecaster; the least recently used go first."""


@dataclass(frozen=True)
class Figures:
    """What the window comes to, today or under the plan. Money in minor units, ledger as in `ledger.ROWS`."""

    orders: float
    units: float
    ledger: Floats
    goods_with_tax: float
    goods_off: float
    goods_before_offers: float
    orders_losing_money: float

    @property
    def profit(self) -> float:
        return float(self.ledger.sum())

    @property
    def profit_per_order(self) -> float:
        return self.profit / self.orders if self.orders else 0.0

    @property
    def average_order_value(self) -> float:
        return self.goods_with_tax / self.orders if self.orders else 0.0

    @property
    def discount_depth(self) -> float:
        """Given away on goods, as a share of goods before offers."""
        return self.goods_off / self.goods_before_offers if self.goods_before_offers else 0.0


@dataclass(frozen=True)
class OfferFigures:
    """One offer's part. reached: existing orders it takes effect on. given_away: on those, things
    put in at what shoppers save, minor units.

    extra_orders: orders it adds. kept_if_doubled: what the reached orders would keep once more, minor units.
    extra_break_even, uptake_break_even: shares; uptake only for offers with a code.
    """

    reached: float
    given_away: float
    extra_orders: float
    kept_if_doubled: float
    extra_break_even: BreakEven
    uptake_break_even: BreakEven | None


@dataclass(frozen=True)
class Forecast:
    """more_orders: the break-even of extra orders as a share of all orders, every reached order alike."""

    plan: Plan
    today: Figures
    planned: Figures
    bridge: tuple[Step, ...]
    offers: tuple[OfferFigures, ...]
    reached: float
    more_orders: BreakEven
    rods: dict[str, tuple[Rod, ...]]
    missing_costs: int

    @property
    def impact(self) -> float:
        return self.planned.profit - self.today.profit


class Forecaster:
    """Forecasts plans over one shop's carts.

    counted_days: days of history the carts were counted over, 1 or more. Safe to share between threads that
    only forecast: results are immutable and the cache tolerates a result computed twice.
    """

    def __init__(self, shop: Shop, batch: CartBatch, counted_days: int) -> None:
        self.shop, self.batch, self.counted_days = shop, batch, counted_days
        self._results: OrderedDict[tuple[object, ...], list[Result]] = OrderedDict()

    def periods(self, plan: Plan) -> list[tuple[CartBatch, list[date]]]:
        """The plan's days by what prices are in date: the carts at those prices, and the days."""
        found: dict[int, tuple[CartBatch, list[date]]] = {}
        for day in plan.window():
            batch = self.batch.on_day(day)
            found.setdefault(id(batch), (batch, []))[1].append(day)
        return list(found.values())

    def states(self, plan: Plan) -> Iterator[tuple[float, tuple[int, ...], Result]]:
        """What shoppers may meet: the chance of it, the offers available (indices in the plan), the priced result."""
        for batch, days in self.periods(plan):
            for available, chance in available_sets(plan, days):
                at = tuple(number for number, _ in available)
                for result in self.results(batch, [offer for _, offer in available], plan.apply):
                    yield chance, at, result

    def today(self, plan: Plan) -> list[tuple[float, Result]]:
        """The plan's time with no offer running: the share of it, and the result."""
        return [
            (len(days) / plan.days, result)
            for batch, days in self.periods(plan)
            for result in self.results(batch, ())
        ]

    def as_it_stands(self, day: date) -> tuple[CartBatch, list[Result]]:
        """The carts at the prices of a day, and their results with no offer running."""
        batch = self.batch.on_day(day)
        return batch, self.results(batch, ())

    def results(self, batch: CartBatch, offers: Sequence[Offer], apply: Apply = "best") -> list[Result]:
        """The carts with these offers available, priced and costed branch by branch; kept for the next time."""
        key = (id(batch), apply, *(offer.priced_part for offer in offers))
        found = self._results.get(key)
        if found is None:
            found = self._results[key] = find_results(self.shop, batch, offers, apply)
            while len(self._results) > KEPT_RESULTS:
                self._results.popitem(last=False)
        return found

    @cached_property
    def _units_by_cart(self) -> Floats:
        return self.batch.units_by_cart.astype(np.float64)

    @cached_property
    def groups(self) -> dict[str, Groups]:
        return {way: largest(sort(self.shop, self.batch)) for way, sort in WAYS.items()}

    @cached_property
    def missing_costs(self) -> int:
        """SKUs that were ordered and have no unit cost."""
        return self._missing(self.batch.goods.unit_cost)

    @cached_property
    def missing_weights(self) -> int:
        """SKUs that were ordered and have no weight."""
        return self._missing(self.batch.goods.weight)

    def _missing(self, figures: Floats) -> int:
        return int(np.isnan(figures[np.unique(self.batch.sku_by_line)]).sum())

    def impact(self, plan: Plan) -> float:
        """Plan minus today, minor units over the window; the short way, without what explains it."""
        today = sum(share * float(result.share @ result.profit_by_cart) for share, result in self.today(plan))
        total = 0.0
        for chance, available, result in self.states(plan):
            extra = _extra_by_cart(plan, available, result)
            total += chance * float(result.share @ (result.profit_by_cart * (1 + extra)))
        return (total - today) * plan.days / self.counted_days

    def forecast(self, plan: Plan) -> Forecast:
        batch, days = self.batch, plan.days / self.counted_days
        none = np.zeros(batch.axes.carts)
        today_states = [(share * days * result.share, result, none) for share, result in self.today(plan)]
        today = self._figures(today_states)
        states = []
        reached = np.zeros(len(plan.offers))
        given_away, kept = np.zeros_like(reached), np.zeros_like(reached)
        any_reached = 0.0
        for chance, available, result in self.states(plan):
            weight = chance * days * result.share
            states.append((weight, result, _extra_by_cart(plan, available, result)))
            at = np.array(available, dtype=np.intp)
            reached[at] += result.took_effect @ weight
            given_away[at] += result.given_away @ weight
            kept[at] += result.took_effect @ (weight * result.profit_by_cart)
            any_reached += float(weight @ result.took_effect.any(axis=0))
        existing = sum(result.rows @ weight for weight, result, _ in states)
        planned = self._figures(states)
        extra_rows = planned.ledger - existing
        without_extra = float(np.sum(existing)) - today.profit
        impact = planned.profit - today.profit
        offers = tuple(
            self._offer_figures(plan, at, impact, float(reached[at]), float(given_away[at]), float(kept[at]))
            for at in range(len(plan.offers))
        )
        return Forecast(
            plan=plan,
            today=today,
            planned=planned,
            bridge=bridge(today.ledger, np.asarray(existing), extra_rows),
            offers=offers,
            reached=any_reached,
            more_orders=_more_orders(without_extra, float(kept.sum()), float(reached.sum()), today.orders),
            rods={way: make_rods(batch, groups, days, today_states, states) for way, groups in self.groups.items()},
            missing_costs=self.missing_costs,
        )

    def _figures(self, states: Sequence[tuple[Floats, Result, Floats]]) -> Figures:
        """Sums over states of (weight by cart, result, extra orders by cart)."""
        scales = [(weight * (1 + extra), result) for weight, result, extra in states]
        return Figures(
            orders=sum(float(scale.sum()) for scale, _ in scales),
            units=sum(float(scale @ self._units_by_cart) for scale, _ in scales),
            ledger=np.sum([result.rows @ scale for scale, result in scales], axis=0),
            goods_with_tax=sum(float(scale @ result.goods_with_tax_by_cart) for scale, result in scales),
            goods_off=sum(float(scale @ result.goods_off_by_cart) for scale, result in scales),
            goods_before_offers=sum(float(scale @ result.worth_by_cart) for scale, result in scales),
            orders_losing_money=sum(float(scale @ (result.profit_by_cart < 0)) for scale, result in scales),
        )

    def _offer_figures(
        self, plan: Plan, at: int, impact: float, reached: float, given_away: float, kept: float
    ) -> OfferFigures:
        offer = plan.offers[at]
        expected = offer.response.extra
        at_zero = impact - expected * kept
        uptake = None
        if offer.given.key is not None:
            nobody, everybody = (self.impact(_with_uptake(plan, at, bp)) for bp in (0, WHOLE_BP))
            uptake = on_a_line(nobody, everybody, top=1.0)
        return OfferFigures(
            reached=reached,
            given_away=given_away,
            extra_orders=expected * reached,
            kept_if_doubled=kept,
            extra_break_even=on_a_line(at_zero, at_zero + LARGEST_EXTRA * kept, LARGEST_EXTRA),
            uptake_break_even=uptake,
        )


def _extra_by_cart(plan: Plan, available: tuple[int, ...], result: Result) -> Floats:
    """Extra orders as a share of each cart; the shares of the offers that took effect add up."""
    extra = np.array([plan.offers[at].response.extra for at in available])
    by_cart: Floats = extra @ result.took_effect if len(extra) else np.zeros(result.rows.shape[1])
    return by_cart


def _with_uptake(plan: Plan, at: int, uptake_bp: int) -> Plan:
    """The plan with the uptake of one offer's code changed, on every offer that shares the code."""
    key = plan.offers[at].given.key
    offers = tuple(
        replace(offer, response=replace(offer.response, uptake_bp=uptake_bp)) if offer.given.key == key else offer
        for offer in plan.offers
    )
    return replace(plan, offers=offers)


def _more_orders(without_extra: float, kept: float, reached: float, orders: float) -> BreakEven:
    """Break-even of one `extra` share common to all offers, told as a share of all orders."""
    found = on_a_line(without_extra, without_extra + LARGEST_EXTRA * kept, LARGEST_EXTRA)
    if found.value is None:
        return found
    return BreakEven(found.verdict, found.value * reached / orders if orders else 0.0)
