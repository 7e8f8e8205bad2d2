"""What a plan does to profit over its window, held against today.

Today is the same time and the same carts with no offer running. Every distinct set of available offers is
priced once; response figures and spans are weights on those results. docs/sums.md, "A forecast".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date
from functools import cached_property

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.forecast.break_even import LARGEST_EXTRA, BreakEven, on_a_line
from yellow_abacus.core.forecast.bridge import BridgeStep, bridge
from yellow_abacus.core.forecast.chances import available_sets
from yellow_abacus.core.forecast.expected import Expected, Source
from yellow_abacus.core.forecast.former import Former
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.forecast.plan import Opened, Plan
from yellow_abacus.core.forecast.rods import Rod, make_rods
from yellow_abacus.core.forecast.states import State
from yellow_abacus.core.forecast.sums import AT, FIGURES, LEDGER
from yellow_abacus.core.forecast.volume import Volume
from yellow_abacus.core.ground.money import WHOLE_BP, Floats
from yellow_abacus.core.offers import Offer


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
    bridge: tuple[BridgeStep, ...]
    offers: tuple[OfferFigures, ...]
    reached: float
    more_orders: BreakEven
    rods: dict[str, tuple[Rod, ...]]
    missing_costs: int

    @property
    def impact(self) -> float:
        return self.planned.profit - self.today.profit


@dataclass(frozen=True, eq=False)
class Period:
    """Days of a plan on which orders are of the same carts at the same prices. volume: of those orders alone."""

    source: Source
    mix: Mix
    volume: Volume
    days: list[date]


class Forecaster:
    """Forecasts plans over one shop's carts to expect.

    former: what is known of them from when some were otherwise. Safe to share between threads.
    """

    def __init__(self, expected: Expected, former: Former | None = None, outlook: Outlook | None = None) -> None:
        """outlook: over the same history, where one is at hand."""
        history = expected.history
        self.expected, self.shop, self.batch = expected, history.shop, history.batch
        self.outlook = Outlook(self.shop, history.mix, former) if outlook is None else outlook

    def expecting(self, expected: Expected) -> "Forecaster":
        """A forecaster of another mix of the same history, with all that was found of its carts."""
        return Forecaster(expected, outlook=self.outlook)

    @property
    def mix(self) -> Mix:
        """The history, every cart as likely as any other."""
        return self.outlook.mix

    @property
    def batches(self) -> list[CartBatch]:
        """All carts orders may be of: of the history, and sketched."""
        sketched = self.expected.sketched
        return [self.batch, *([] if sketched is None else [sketched.drawn.batch])]

    def periods(self, plan: Plan) -> list[Period]:
        """The plan's days by what carts come and what prices are in date."""
        found: dict[tuple[object, ...], Period] = {}
        for day in plan.window():
            for source in self.expected.sources(day):
                mix = source.mix.on_day(day)
                volume = self.expected.volume.times(source.share)
                period = found.setdefault((source.come, source.share, mix.key), Period(source, mix, volume, []))
                period.days.append(day)
        return list(found.values())

    def available(self, plan: Plan) -> Iterator[tuple[Opened, float, Mix]]:
        """Each set of offers shoppers may meet, how many orders do, and the mix of those."""
        for period in self.periods(plan):
            for available, by_weekday in available_sets(plan, period.days, period.volume):
                yield available, *period.source.weighed(period.mix, by_weekday)

    def states(self, plan: Plan) -> Iterator[State]:
        """What shoppers may meet while the plan runs."""
        for available, orders, mix in self.available(plan):
            sums = self.outlook.sums(mix, [offer for _, offer in available], plan.apply)
            yield State(orders, tuple(number for number, _ in available), sums)

    def find_together(self, plans: Sequence[Plan]) -> None:
        """Find what plans come to that differ in one figure, quicker than one after another, and keep it."""
        alike: dict[tuple[object, ...], tuple[Mix, Plan, list[tuple[Offer, ...]]]] = {}
        for plan in plans:
            for available, _, mix in self.available(plan):
                key = (mix.key, mix.weights, plan.apply, *(number for number, _ in available))
                offers = tuple(offer for _, offer in available)
                alike.setdefault(key, (mix, plan, []))[2].append(offers)
        for mix, plan, many in alike.values():
            self.outlook.find_together(mix, many, plan.apply)

    def impact(self, plan: Plan) -> float:
        """Plan minus today, minor units over the window; the short way, without what explains it."""
        today = sum(state.orders * state.sums.profit for state in self.states(plan.today))
        return sum(state.orders * _with_extra(plan, state) for state in self.states(plan)) - today

    def forecast(self, plan: Plan) -> Forecast:
        today_states, states = list(self.states(plan.today)), list(self.states(plan))
        today, planned = _figures(plan, today_states), _figures(plan, states)
        existing = _figures(replace(plan, offers=_without_response(plan.offers)), states)
        reached, given, kept = _by_offer(plan, states)
        impact = planned.profit - today.profit
        offers = tuple(
            self._offer_figures(plan, at, impact, float(reached[at]), float(given[at]), float(kept[at]))
            for at in range(len(plan.offers))
        )
        return Forecast(
            plan=plan,
            today=today,
            planned=planned,
            bridge=bridge(today.ledger, existing.ledger, planned.ledger - existing.ledger),
            offers=offers,
            reached=sum(state.orders * state.sums.any_reached for state in states),
            more_orders=_more_orders(
                existing.profit - today.profit, float(kept.sum()), float(reached.sum()), today.orders
            ),
            rods={way: make_rods(way, plan, today_states, states) for way in _ways([*today_states, *states])},
            missing_costs=self.missing_costs,
        )

    @cached_property
    def missing_costs(self) -> int:
        """SKUs that were ordered and have no unit cost."""
        return self._missing(self.batch.goods.unit_cost)

    @cached_property
    def missing_weights(self) -> int:
        """SKUs that were ordered and have no weight."""
        return self._missing(self.batch.goods.weight)

    def _missing(self, figures: Floats) -> int:
        ordered = np.zeros(len(figures), dtype=np.bool_)
        for batch in self.batches:
            ordered[batch.sku_by_line] = True
        return int((np.isnan(figures) & ordered).sum())

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


def _ways(states: Sequence[State]) -> list[str]:
    """The ways to sort carts that serve for all of them."""
    return [way for way in states[0].sums.by_type if all(way in one.sums.by_type for one in states)] if states else []


def _figures(plan: Plan, states: Sequence[State]) -> Figures:
    """What the states come to over the window, extra orders as the plan's offers bring them."""
    with_extra = [state.sums.total + state.extra(plan) @ state.sums.reached for state in states]
    whole = np.sum([state.orders * one for state, one in zip(states, with_extra, strict=True)], axis=0)
    told = {name: float(whole[AT[name]]) for name in FIGURES}
    return Figures(
        orders=told["orders"],
        units=told["units"],
        ledger=whole[LEDGER],
        goods_with_tax=told["goods_with_tax"],
        goods_off=told["goods_off"],
        goods_before_offers=told["goods_before_offers"],
        orders_losing_money=told["losing"],
    )


def _with_extra(plan: Plan, state: State) -> float:
    """What an order keeps, on average, extra orders included, minor units."""
    return state.sums.profit + float(state.extra(plan) @ state.sums.kept_if_reached)


def _by_offer(plan: Plan, states: Sequence[State]) -> tuple[Floats, Floats, Floats]:
    """Of each offer of the plan: existing orders reached, given away on them, what they keep."""
    reached, given, kept = np.zeros((3, len(plan.offers)))
    for state in states:
        at = np.array(state.available, dtype=np.intp)
        reached[at] += state.orders * state.sums.reached[:, AT["orders"]]
        given[at] += state.orders * state.sums.given
        kept[at] += state.orders * state.sums.kept_if_reached
    return reached, given, kept


def _without_response(offers: Sequence[Offer]) -> tuple[Offer, ...]:
    return tuple(replace(offer, response=replace(offer.response, extra_bp=None)) for offer in offers)


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
