"""What a plan does to profit over its window, held against today.

Today is the same time and the same carts with the offers that run already. Every distinct set of available offers is
priced once; response figures and spans are weights on those results. docs/sums.md, "A forecast".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date

import numpy as np

from yellow_abacus.core.carts.carts import CartBatch
from yellow_abacus.core.clauses.response import Ranging
from yellow_abacus.core.forecast.break_even import BreakEven, Figure, figures_of, try_all
from yellow_abacus.core.forecast.bridge import BridgeStep, Sides, bridge
from yellow_abacus.core.forecast.chances import Available, Drawn, available_sets, open_sets
from yellow_abacus.core.forecast.course import Course, Flow, run
from yellow_abacus.core.forecast.expected import Expected, Source
from yellow_abacus.core.forecast.former import Former
from yellow_abacus.core.forecast.may_end import Limit, limits_of, open_after, stocks_put_in
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.most_it_costs import Bound, most_it_costs
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.forecast.plan import Opened, Plan
from yellow_abacus.core.forecast.rods import Rod, make_rods
from yellow_abacus.core.forecast.selling_out import may_sell_out
from yellow_abacus.core.forecast.sharp import of_every_order
from yellow_abacus.core.forecast.shifting import shifted
from yellow_abacus.core.forecast.states import Span, State, by_cell
from yellow_abacus.core.forecast.staying import those_that_stay
from yellow_abacus.core.forecast.sums import AT, Sums
from yellow_abacus.core.forecast.switching import lost_an_order
from yellow_abacus.core.forecast.takings import Takings, depth_of, following, profit_of, takings_of
from yellow_abacus.core.forecast.topping_up import taken_up, topped_up, try_together
from yellow_abacus.core.forecast.trying import Setup
from yellow_abacus.core.forecast.volume import Volume
from yellow_abacus.core.ground.keeper import Keeper
from yellow_abacus.core.ground.money import WHOLE_BP, Bools, Floats
from yellow_abacus.core.ground.once import cached_property
from yellow_abacus.core.offers import Offer

EXTRA: tuple[Ranging, ...] = ("extra_bp", "extra_first_bp")
SELLING_OUT_KEPT = 200_000
"""Bytes of what was found of which goods plans may sell out, without the plans."""


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
    """One offer's part. reached: existing orders it takes effect on; topped_up: more of them, that are topped up.
    given_away: on those, things put in at what shoppers save, minor units. uses: in all, extra orders and those
    brought by messages included.

    extra_orders: orders it adds. kept_if_doubled: what the reached orders would keep once more, minor units. depth:
    what it gives away, as a share of goods at standing prices. later: what first-time shoppers it wins keep later.
    break_evens: by figure of the response, shares.
    """

    reached: float
    topped_up: float
    given_away: float
    uses: float
    extra_orders: float
    kept_if_doubled: float
    depth: float
    later: float
    break_evens: dict[Ranging, BreakEven]


@dataclass(frozen=True)
class End:
    """What runs out while the plan runs. day: an ordinal; None where it lasts. used: how much of `limit.most`."""

    limit: Limit
    day: int | None
    used: float


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
    ends: tuple[End, ...]
    most: Bound
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


@dataclass(frozen=True, eq=False)
class Now:
    """What a plan's days come to as things stand: how they go, and what is taken in."""

    course: Course
    takings: Takings


class Forecaster:
    """Forecasts plans over one shop's carts to expect.

    former: what is known of them from when some were otherwise. stands: where this is of a shop with something
    otherwise, the forecaster of the shop as it stands, which *today* is then of. Safe to share between threads.
    """

    def __init__(
        self,
        expected: Expected,
        former: Former | None = None,
        outlook: Outlook | None = None,
        stands: "Forecaster | None" = None,
    ) -> None:
        """outlook: over the same history, where one is at hand."""
        history = expected.history
        self._stands = stands  # not itself, which would keep all of it from going with its last use
        self.expected, self.shop, self.batch = expected, history.shop, history.batch
        self.outlook = Outlook(self.shop, history.mix, former) if outlook is None else outlook
        self._selling_out = Keeper(SELLING_OUT_KEPT)
        self._now, self._spans = Keeper.of_newest(), Keeper.of_newest()  # of the plan asked for last

    @property
    def stands(self) -> "Forecaster":
        """Of the shop as it stands."""
        return self if self._stands is None else self._stands

    def expecting(self, expected: Expected) -> "Forecaster":
        """A forecaster of another mix of the same history, with all that was found of its carts."""
        return Forecaster(expected, outlook=self.outlook)

    def held_against(self, stands: "Forecaster") -> "Forecaster":
        """The same, held against another shop's today."""
        return Forecaster(self.expected, outlook=self.outlook, stands=stands)

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
        """Each set of offers that is open, how many orders come then, and the mix of those."""
        for period in self.periods(plan):
            for opened, by_weekday in open_sets(plan, period.days, period.volume):
                yield opened, *period.source.weighed(period.mix, by_weekday)

    def spans(self, plan: Plan) -> list[Span]:
        """The plan's days by what carts come at what prices, and which offers are open."""
        return self._spans.get(plan, lambda: self._find_spans(plan))

    def _find_spans(self, plan: Plan) -> list[Span]:
        if plan.as_if_enough is not plan:
            return self._spans_short_of(plan, self.may_sell_out(plan))
        found: list[Span] = []
        first: dict[object, Mix] = {}
        for period in self.periods(plan):
            mix = period.source.grouped(period.mix)
            mix = mix.watching(stocks_put_in(plan, mix.batch.goods))
            mix = mix.beside(first.setdefault(period.source.come, mix))
            for opened, days in plan.open_over(period.days):
                orders = np.array([period.volume.on(day) for day in days])
                ordinals = np.array([day.toordinal() for day in days])
                today = tuple(offer for _, offer in plan.today.opened_on(days[0]))
                staying = those_that_stay(self.outlook, mix, plan, today) if plan.dropped else mix
                found.append(Span(period.source, staying, opened, today, ordinals, orders))
        return found

    def _spans_short_of(self, plan: Plan, skus: tuple[int, ...]) -> list[Span]:
        """skus: the goods (index) that may sell out, and no others."""
        spans, lost = self.spans(plan.as_if_enough), plan.lost_if_sold_out_bp
        if lost is None or not skus:
            return spans
        return [replace(one, mix=one.mix.selling_out(skus, lost / WHOLE_BP)) for one in spans]

    def may_sell_out(self, plan: Plan) -> tuple[int, ...]:
        """Goods (index) that sell out while the plan runs, or may."""
        if plan.as_if_enough is plan:
            return ()
        return self._selling_out.get(plan, lambda: may_sell_out(self, plan))

    def state(self, span: Span, available: Available, plan: Plan) -> State:
        """What orders of a span come to that meet these offers."""
        numbers, offers = [at for at, _ in available.offers], tuple(offer for _, offer in available.offers)
        if available.sharp and plan.sharp is not None:
            own = plan.sharp.mix(self.shop, span.mix.batch.goods).watching(span.mix.watched)
            built = self.outlook.sums(own, offers, plan.apply, span.today)
            return State(span, available, built, of_every_order(built), {}, {})
        sums = self.outlook.sums(span.mix, offers, plan.apply, span.today)
        met, of_offer, of_shift = by_cell(span.source, sums), dict[int, Sums](), dict[int, Sums]()
        of_others: dict[int, Floats] = {}
        topping = [place for place, offer in enumerate(offers) if offer.response.top_up_bp is not None]
        shifting = [place for place, offer in enumerate(offers) if offer.response.shift_bp is not None]
        switching = [place for place, offer in enumerate(offers) if offer.response.switched_bp is not None]
        if topping or shifting or switching or available.added:
            branched = span.mix.branched((*offers, *span.today))
            setup = Setup(self.outlook, branched, offers, plan.apply, span.today)
            more = taken_up(setup, [numbers.index(at) for at in available.added])
            met = met if more is None else met + by_cell(span.source, more)
            of_offer, of_shift = (
                {numbers[place]: by_cell(span.source, change) for place, change in found.items()}
                for found in (topped_up(setup, topping), shifted(setup, shifting))
            )
            of_others = {
                numbers[place]: lost_an_order(setup, span.source, place, met.reached[:, place, AT["orders"]])
                for place in switching
            }
        return State(span, available, sums, met, of_offer, of_shift, of_others)

    def course(self, plan: Plan, drawn: Drawn) -> Course:
        return run(self, plan, self.spans(plan), drawn)

    def course_short_of(self, plan: Plan, skus: tuple[int, ...], drawn: Drawn) -> Course:
        """How the plan goes if these goods (index) and no others may sell out."""
        return run(self, plan, self._spans_short_of(plan, skus), drawn)

    def drawn(self, plan: Plan) -> Drawn:
        """The likely value of every figure, top-ups and extra orders following what offers give."""
        drawn = Drawn(plan, not_used_up=self.not_used_up(plan))
        if all(offer.response.depth_bp is None for offer in plan.offers):
            return drawn
        return replace(drawn, following=following(self.course(plan, drawn), drawn))

    def not_used_up(self, plan: Plan) -> dict[int, tuple[float, float]]:
        """By offers with a limit of uses a shopper: of orders, those of a shopper who may use it yet, of first orders
        and others."""
        return {
            at: self.expected.history.within_uses(offer.limits.uses_per_shopper, plan.days)
            for at, offer in enumerate(plan.offers)
            if offer.limits.uses_per_shopper is not None
        }

    def find_together(self, plans: Sequence[Plan]) -> None:
        """Find what plans come to that differ in one figure, quicker than one after another, and keep it.

        What is left of their offers once limits have ended is what is left of the first one's.
        """
        if not plans:
            return
        alike: dict[tuple[object, ...], tuple[Span, Plan, list[tuple[Offer, ...]]]] = {}
        whole = [(number, frozenset[int]()) for number in range(len(self.spans(plans[0])))]
        met = dict.fromkeys([*whole, *self.course(plans[0], self.drawn(plans[0])).met])
        for plan in plans:
            drawn, spans = Drawn(plan, not_used_up=self.not_used_up(plan)), self.spans(plan)
            limits = limits_of(plan, spans)
            for number, ended in met:
                if number >= len(spans) or max(ended, default=-1) >= len(limits):
                    continue  # its days are cut, or its offers limited, in another way
                span = spans[number]
                for one in available_sets(open_after(span, limits, ended), drawn):
                    key = (
                        number,
                        ended,
                        span.mix.key,
                        span.mix.weights,
                        span.today,
                        plan.apply,
                        *(at for at, _ in one.offers),
                    )
                    offers = tuple(offer for _, offer in one.offers)
                    alike.setdefault(key, (span, plan, []))[2].append(offers)
        for span, plan, many in alike.values():
            self.outlook.find_together(span.mix, many, plan.apply, span.today)
            topping = [place for place, offer in enumerate(many[0]) if offer.response.top_up_bp is not None]
            branched = ((span.mix.branched((*offers, *span.today)), offers) for offers in dict.fromkeys(many))
            try_together(
                [Setup(self.outlook, mix, offers, plan.apply, span.today) for mix, offers in branched], topping
            )

    def impact(self, plan: Plan) -> float:
        """Plan minus today, minor units over the window; the short way, without what explains it."""
        return float(self.impacts(plan, self.drawn(plan))[0])

    def impacts(self, plan: Plan, drawn: Drawn) -> Floats:
        """Plan minus today, minor units over the window, one entry a draw."""
        stands = self.stands
        nothing = replace(stands.as_it_stands(plan), draws=drawn.draws, orders=drawn.orders)
        today = (
            profit_of(stands.course(plan.today, nothing), nothing)
            if drawn.orders is not None and (plan.running or plan.lost_if_sold_out_bp is not None)
            else self.today(plan) * drawn.volume
        )
        return profit_of(self.course(plan, drawn), drawn) - today

    def as_it_stands(self, plan: Plan) -> Drawn:
        """The plan's days with nothing changed."""
        return Drawn(plan.today, not_used_up=self.not_used_up(plan.today))

    def sides(self, plan: Plan) -> Sides:
        """All that the bridge of a plan stands on."""
        drawn = self.drawn(plan)
        return self._sides(plan, self.course(plan, drawn), drawn)

    def _sides(self, plan: Plan, then: Course, drawn: Drawn) -> Sides:
        """then: the plan's course. drawn: its likely values."""
        otherwise = self.now(plan).takings  # with nothing but what is otherwise in this shop
        return Sides(self.stands.now(plan).takings, otherwise, self.staying(plan, otherwise), takings_of(then, drawn))

    def staying(self, plan: Plan, today: Takings) -> Takings:
        """What the plan's days come to today, without the orders that dropped offers bring."""
        if not plan.dropped:
            return today
        drawn = replace(self.as_it_stands(plan), plan=plan.staying)
        return takings_of(self.course(plan.staying, drawn), drawn)

    def today(self, plan: Plan) -> float:
        """What the plan's days keep as things stand, minor units."""
        stands = self.stands
        return float(profit_of(stands.now(plan).course, stands.as_it_stands(plan))[0])

    def now(self, plan: Plan) -> Now:
        """What the plan's days come to as things stand."""
        return self._now.get(plan.today, lambda: self._find_now(plan))

    def _find_now(self, plan: Plan) -> Now:
        nothing = self.as_it_stands(plan)
        course = self.course(plan.today, nothing)
        return Now(course, takings_of(course, nothing))

    def forecast(self, plan: Plan) -> Forecast:
        drawn = self.drawn(plan)
        now, then = self.stands.now(plan).course, self.course(plan, drawn)
        found = self._sides(plan, then, drawn)
        enough = found if plan.as_if_enough is plan else self.sides(plan.as_if_enough)
        after, today, planned = found.planned, _figures(found.today), _figures(found.planned)
        figures = figures_of(plan.offers)
        together: Figure = tuple((at, name) for at in plan.own for name in EXTRA)
        curved = bool(then.limits)
        tried = try_all(
            drawn,
            [*figures, *([together] if together else [])],
            lambda many: profit_of(self.course(plan, many), many) - today.profit,
            curved,
        )
        ways = _ways([*now.flows, *then.flows])
        return Forecast(
            plan=plan,
            today=today,
            planned=planned,
            bridge=bridge(found, enough),
            offers=tuple(
                _of_offer(
                    after,
                    drawn,
                    at,
                    {name: tried[one].even for one, name in figures.items() if at in {number for number, _ in one}},
                )
                for at in range(len(plan.offers))
            ),
            reached=float(after.any_reached[0]),
            more_orders=_of_all_orders(
                tried[together].even if together else BreakEven("no_matter"),
                float((after.reached + after.topped)[0, list(plan.own)].sum()),
                today.orders,
            ),
            rods={way: make_rods(way, now, then, drawn) for way in ways},
            ends=tuple(_ends(then, plan)),
            most=most_it_costs(plan, self.shop, self.batch.goods.on_day(plan.first_day)),
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
        return int((np.isnan(figures) & self.ordered).sum())

    @cached_property
    def ordered(self) -> Bools:
        """By SKU, whether it is in some cart."""
        ordered = np.zeros(len(self.batch.goods.skus), dtype=np.bool_)
        for batch in self.batches:
            ordered[batch.sku_by_line] = True
        return ordered


def _ways(flows: Sequence[Flow]) -> list[str]:
    """The ways to sort carts that serve for all of them."""
    all_of = [flow.state.sums.by_type for flow in flows]
    return [way for way in all_of[0] if all(way in one for one in all_of)] if all_of else []


def _figures(takings: Takings) -> Figures:
    """What the window comes to, of one value of every figure."""
    whole = takings.all_orders[0]
    return Figures(
        orders=float(whole[AT["orders"]]),
        units=float(whole[AT["units"]]),
        ledger=takings.ledger[0],
        goods_with_tax=float(whole[AT["goods_with_tax"]]),
        goods_off=float(whole[AT["goods_off"]]),
        goods_before_offers=float(whole[AT["goods_before_offers"]]),
        orders_losing_money=float(whole[AT["losing"]]),
    )


def _of_offer(takings: Takings, drawn: Drawn, at: int, break_evens: dict[Ranging, BreakEven]) -> OfferFigures:
    return OfferFigures(
        reached=float(takings.reached[0, at]),
        topped_up=float(takings.topped[0, at]),
        given_away=float(takings.given[0, at]),
        uses=float(takings.uses[0, at]),
        extra_orders=float(takings.extra_orders[0, at]),
        kept_if_doubled=float(takings.kept[0, at]),
        depth=depth_of(takings, at),
        later=float(takings.won_first[0, at]) * drawn.plan.offers[at].response.later,
        break_evens=break_evens,
    )


def _of_all_orders(found: BreakEven, reached: float, orders: float) -> BreakEven:
    """Break-even of one `extra` share common to all offers, told as a share of all orders."""
    if found.value is None:
        return found
    return BreakEven(found.verdict, found.value * reached / orders if orders else 0.0)


def _ends(course: Course, plan: Plan) -> Iterator[End]:
    """Of offers' limits and what they put in, all; of goods that may sell out, those that do."""
    first = plan.first_day.toordinal()
    for limit, ends, used in zip(course.limits, course.ends, course.used, strict=True):
        day = None if np.isnan(ends[0]) else max(int(np.ceil(ends[0]) - 1), first)
        if limit.of != "stock" or limit.put_in or day is not None:
            yield End(limit, day, min(float(used[0]), limit.most))
