"""A forecast as JSON: what the API answers and `yellow-abacus forecast --json` prints. docs/files.md, "Forecast".

Shown figures are whole minor units, rounded by running total so that they add up; `exact` ones are not rounded.
"""

from collections.abc import Sequence
from datetime import date
from typing import Any, Literal

from pydantic import BaseModel

from yellow_abacus.core.clauses.response import Ranging
from yellow_abacus.core.costing.ledger import PLAN_ROWS, PROFIT, ROWS
from yellow_abacus.core.forecast.answer import Part, answer, aside
from yellow_abacus.core.forecast.break_even import BreakEven
from yellow_abacus.core.forecast.each_offer import Each
from yellow_abacus.core.forecast.forecast import End, Figures, Forecast
from yellow_abacus.core.forecast.ranges import Range
from yellow_abacus.core.forecast.rods import Rod
from yellow_abacus.core.ground.money import WHOLE_BP, foot, foot_beside, shown
from yellow_abacus.files.over_time_json import OverTimeDoc
from yellow_abacus.files.words import sentence

WHOLE_FROM = 1000
"""From how many units of the currency on the answer and the bridge leave the minor digits off."""
SHARE_DIGITS = 12
"""Of the share of orders that come on top."""


class LedgerLineDoc(BaseModel):
    """today, plan, change: shown, minor units over the window. today_each, plan_each: an average order's."""

    key: str
    label: str
    today: int
    plan: int
    change: int
    today_each: int
    plan_each: int
    exact_today: float
    exact_plan: float


class StepDoc(BaseModel):
    key: str
    label: str
    amount: int
    exact: float


class FiguresDoc(BaseModel):
    """orders, units and orders_losing_money are expectations; average_order_value is minor units with tax."""

    orders: float
    units: float
    average_order_value: float
    discount_depth: float
    orders_losing_money: float


class BreakEvenDoc(BaseModel):
    verdict: Literal["at_least", "at_most", "never", "always", "no_matter"]
    value: float | None


class FigureEvenDoc(BreakEvenDoc):
    """figure: of the offer's response."""

    figure: Ranging


class OfferFiguresDoc(BaseModel):
    """id: the offer's. reached, extra_orders: orders over the window; topped_up:
    orders it reaches because shoppers top up; uses: of all orders, those it brings included.
    given_away: minor units on those reached. depth_bp: what it gives away, as a share of their goods. later: minor
    units that first-time shoppers it wins keep later; in no other figure. break_evens: of each figure of the response
    by itself."""

    id: str
    reached: float
    topped_up: float
    uses: float
    given_away: int
    depth_bp: int
    extra_orders: float
    kept_per_reached: int
    later: int
    break_evens: list[FigureEvenDoc]


class EndDoc(BaseModel):
    """What is limited. offer: its id, for uses and spending; sku: for the stock of something that offers put in, or
    that sells out. day: on which it ends, null where it lasts. used: of `most`; spending in minor units."""

    of: Literal["uses", "spending", "stock"]
    offer: str | None
    sku: str | None
    put_in: bool
    most: float
    used: float
    day: date | None


class MostDoc(BaseModel):
    """amount: all it can give away, costs paid once and messages included, minor units; null where nothing bounds it:
    then the ids of the offers in question."""

    amount: int | None
    unbounded: list[str]


class SwingDoc(BaseModel):
    """offer, figure: null for how many orders come. low, high: shares, or times the likely orders; the impacts there,
    minor units."""

    offer: str | None
    figure: Ranging | None
    low: float
    high: float
    impact_at_low: int
    impact_at_high: int


class RangeDoc(BaseModel):
    """Of the impact, minor units: in 5, 50 and 95 of 100 draws it is less. likely_at: the share of draws below the
    likely impact. beats: the share in which the plan keeps more than today. luck, sampled: standard deviations by
    chance alone, and because the history is a sample."""

    low: int
    middle: int
    high: int
    likely: int
    likely_at: float
    beats: float
    luck: int
    sampled: int
    swings: list[SwingDoc]


class RodDoc(BaseModel):
    """An average order of a cart type, minor units: goods + delivery + fees + tax + kept = pays."""

    label: str
    orders: float
    share: float
    goods: int
    delivery: int
    fees: int
    tax: int
    kept: int
    pays: int
    given_away: int
    today: int
    change: int


class RodsDoc(BaseModel):
    """type: by the types of carts there are, empty where none are known."""

    type: list[RodDoc] = []
    category: list[RodDoc]
    zone: list[RodDoc]


class ForecastDoc(BaseModel):
    """start and end of the bridge are what today and the plan keep; precision says how those are rounded."""

    currency: str
    minor_digits: int
    precision: Literal["whole", "minor"]
    days: int
    counted_days: int
    answer: list[Part]
    aside: list[Part]
    answer_text: str
    impact: int
    start: int
    end: int
    bridge: list[StepDoc]
    ledger: list[LedgerLineDoc]
    today: FiguresDoc
    plan: FiguresDoc
    reached: float
    more_orders: BreakEvenDoc
    expected_more_orders: float
    offers: list[OfferFiguresDoc]
    ends: list[EndDoc]
    most: MostDoc
    rods: RodsDoc
    caveats: list[str]


class EachDoc(BaseModel):
    """adds: what the plan keeps more with the offer than without it; piled: what the offers up to this one keep more
    than today; if_everybody: what the plan keeps more than today if everybody had its code, null where that is not
    asked. Minor units."""

    id: str
    adds: int
    piled: int
    if_everybody: int | None


class EachOfferDoc(BaseModel):
    """The offers of the plan, in order."""

    offers: list[EachDoc]


class WholeForecastDoc(ForecastDoc):
    """A forecast, how sure it is, what each offer does, and how it goes over time: what `yellow-abacus forecast
    --json` prints."""

    range: RangeDoc
    each: list[EachDoc]
    over_time: OverTimeDoc


def forecast_schema() -> dict[str, Any]:
    """The JSON Schema of a forecast."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **WholeForecastDoc.model_json_schema()}


def forecast_doc(
    forecast: Forecast,
    offer_ids: list[str],
    skus: Sequence[str],
    currency: str,
    minor_digits: int,
    counted_days: int,
    caveats: list[str],
) -> ForecastDoc:
    """offer_ids: of the offers in the plan, in order. skus: of the goods, by index."""
    today, planned = forecast.today, forecast.planned
    whole = in_whole(today.profit, planned.profit, minor_digits)
    scale = 10**minor_digits if whole else 1
    parts = [today.profit, *(step.amount for step in forecast.bridge)]
    start, *steps = (part * scale for part in foot([part / scale for part in parts]))
    impact = sum(steps)
    told, besides = answer(forecast, impact, scale), aside(forecast, scale)
    return ForecastDoc(
        currency=currency,
        minor_digits=minor_digits,
        precision="whole" if whole else "minor",
        days=forecast.plan.days,
        counted_days=counted_days,
        answer=list(told),
        aside=list(besides),
        answer_text=" ".join(
            sentence(parts, currency, minor_digits, whole=whole) for parts in (told, besides) if parts
        ),
        impact=impact,
        start=start,
        end=start + impact,
        bridge=[
            StepDoc(key=step.key, label=step.label, amount=shown, exact=step.amount)
            for step, shown in zip(forecast.bridge, steps, strict=True)
        ],
        ledger=_ledger(today, planned),
        today=_figures(today),
        plan=_figures(planned),
        reached=forecast.reached,
        more_orders=_break_even(forecast.more_orders),
        expected_more_orders=_share_more(planned.orders, today.orders),
        offers=[
            OfferFiguresDoc(
                id=offer_id,
                reached=one.reached,
                topped_up=one.topped_up,
                uses=one.uses,
                given_away=shown(one.given_away),
                depth_bp=shown(one.depth * WHOLE_BP),
                extra_orders=one.extra_orders,
                kept_per_reached=_each(one.kept_if_doubled, one.reached + one.topped_up),
                later=shown(one.later),
                break_evens=[
                    FigureEvenDoc(figure=figure, verdict=even.verdict, value=even.value)
                    for figure, even in one.break_evens.items()
                ],
            )
            for offer_id, one in zip(offer_ids, forecast.offers, strict=True)
        ],
        most=MostDoc(
            amount=None if forecast.most.amount is None else shown(forecast.most.amount),
            unbounded=[offer_ids[at] for at in forecast.most.unbounded],
        ),
        ends=[_end(end, offer_ids, skus) for end in forecast.ends],
        rods=RodsDoc(**{way: [_rod(rod) for rod in rods] for way, rods in forecast.rods.items()}),
        caveats=caveats,
    )


def in_whole(today: float, planned: float, minor_digits: int) -> bool:
    """Whether so much is kept that the answer and the bridge leave the minor digits off."""
    return max(abs(today), abs(planned)) >= WHOLE_FROM * 10**minor_digits


def impact_shown(today: float, planned: float, minor_digits: int) -> int:
    """What a plan keeps more than today as its answer tells it: what both are told to keep, one from the other."""
    scale = 10**minor_digits if in_whole(today, planned, minor_digits) else 1
    return (shown(planned / scale) - shown(today / scale)) * scale


def range_doc(found: Range, offer_ids: list[str]) -> RangeDoc:
    """offer_ids: as in `forecast_doc`."""
    return RangeDoc(
        low=shown(found.low),
        middle=shown(found.middle),
        high=shown(found.high),
        likely=shown(found.likely),
        likely_at=found.likely_at,
        beats=found.beats,
        luck=shown(found.luck),
        sampled=shown(found.sampled),
        swings=[
            SwingDoc(
                offer=None if one.offer is None else offer_ids[one.offer],
                figure=one.figure,
                low=one.low,
                high=one.high,
                impact_at_low=shown(one.impact_at_low),
                impact_at_high=shown(one.impact_at_high),
            )
            for one in found.swings
        ],
    )


def each_doc(found: Sequence[Each], offer_ids: list[str]) -> EachOfferDoc:
    """offer_ids: as in `forecast_doc`."""
    told = zip(found, offer_ids, strict=True)
    return EachOfferDoc(
        offers=[
            EachDoc(
                id=one,
                adds=shown(each.adds),
                piled=shown(each.piled),
                if_everybody=None if each.if_everybody is None else shown(each.if_everybody),
            )
            for each, one in told
        ]
    )


def _share_more(plan: float, today: float) -> float:
    """The share by which orders are more; sums of days that come to the same differ behind the last digit told."""
    return round(plan / today - 1, SHARE_DIGITS) + 0.0 if today else 0.0


def _each(amount: float, orders: float) -> int:
    return shown(amount / orders) if orders else 0


def _end(end: End, offer_ids: list[str], skus: Sequence[str]) -> EndDoc:
    limit = end.limit
    return EndDoc(
        of=limit.of,
        offer=offer_ids[limit.offer] if limit.offer >= 0 else None,
        sku=skus[limit.sku] if limit.sku >= 0 else None,
        put_in=limit.put_in,
        most=limit.most,
        used=end.used,
        day=None if end.day is None else date.fromordinal(end.day),
    )


def _ledger(today: Figures, planned: Figures) -> list[LedgerLineDoc]:
    def beside(before: list[float], after: list[float]) -> tuple[list[int], list[int]]:
        shown_before = foot(before)
        shown_after = foot_beside(after, before, shown_before)
        return [*shown_before, sum(shown_before)], [*shown_after, sum(shown_after)]

    def each(figures: Figures) -> list[float]:
        return [float(value) / figures.orders if figures.orders else 0.0 for value in figures.ledger]

    exact_today, exact_plan = ([float(value) for value in figures.ledger] for figures in (today, planned))
    shown_today, shown_plan = beside(exact_today, exact_plan)
    each_today, each_plan = beside(each(today), each(planned))
    exact_today, exact_plan = [*exact_today, sum(exact_today)], [*exact_plan, sum(exact_plan)]
    return [
        LedgerLineDoc(
            key=row.key,
            label=row.label,
            today=shown_today[at],
            plan=shown_plan[at],
            change=shown_plan[at] - shown_today[at],
            today_each=each_today[at],
            plan_each=each_plan[at],
            exact_today=exact_today[at],
            exact_plan=exact_plan[at],
        )
        for at, row in enumerate((*ROWS, *PLAN_ROWS, PROFIT))
    ]


def _figures(figures: Figures) -> FiguresDoc:
    return FiguresDoc(
        orders=figures.orders,
        units=figures.units,
        average_order_value=figures.average_order_value,
        discount_depth=figures.discount_depth,
        orders_losing_money=figures.orders_losing_money,
    )


def _break_even(found: BreakEven) -> BreakEvenDoc:
    return BreakEvenDoc(verdict=found.verdict, value=found.value)


def _rod(rod: Rod) -> RodDoc:
    goods, delivery, fees, tax, kept = foot([rod.goods, rod.delivery, rod.fees, rod.tax, rod.kept])
    return RodDoc(
        label=rod.label,
        orders=rod.orders,
        share=rod.share,
        goods=goods,
        delivery=delivery,
        fees=fees,
        tax=tax,
        kept=kept,
        pays=goods + delivery + fees + tax + kept,
        given_away=shown(rod.given_away),
        today=shown(rod.today),
        change=shown(rod.change),
    )
