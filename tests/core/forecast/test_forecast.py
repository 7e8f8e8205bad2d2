"""What is always true of a forecast, over generated shops and plans."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow, slow_costs
from tests.worlds import World, make_world, worlds
from yellow_abacus.core.costing.ledger import INDEX
from yellow_abacus.core.forecast.chances import Drawn, available_sets, open_sets
from yellow_abacus.core.forecast.expected import Expected, History, MixTerms
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.volume import Counted, Volume
from yellow_abacus.core.offers import Response, When

FIRST, LAST = date(2026, 3, 1), date(2026, 3, 10)
COUNTED_DAYS = 30

some = settings(max_examples=70)
responses = st.builds(Response, uptake_bp=st.integers(0, 10_000), extra_bp=st.integers(0, 20_000))
days = st.one_of(st.none(), st.dates(date(2026, 2, 25), date(2026, 3, 14)))
minutes = st.one_of(st.none(), st.sampled_from([0, 119, 120, 600, 1440]), st.integers(0, 1440))


@st.composite
def planned(draw: st.DrawFn) -> tuple[World, Plan]:
    world = draw(worlds(most_carts=6, most_offers=4))
    for good in world.slow_shop.goods.values():
        good.reduced_days = (draw(days), draw(days))
    world = make_world(world.slow_shop, world.slow_carts, world.slow_offers)
    offers = []
    for offer in world.offers:
        first, last = draw(days), draw(days)
        moments = {
            "first_day": first,
            "last_day": last,
            "first_minute": None if first is None else draw(minutes),
            "last_minute": None if last is None else draw(minutes),
        }
        offers.append(replace(offer, response=draw(responses), when=replace(offer.when, **moments)))
    return world, Plan(FIRST, LAST, tuple(offers), draw(st.sampled_from(["best", "first"])))


def forecaster(world: World) -> Forecaster:
    return Forecaster(flat(world, COUNTED_DAYS))


def flat(world: World, counted_days: int) -> Expected:
    """Every cart as likely as any other, every day alike."""
    carts = world.batch.axes.carts
    history = History(world.shop, world.batch, np.full(carts, 1))
    orders = np.bincount(np.zeros(carts, dtype=np.int64), minlength=counted_days)
    counted = Counted(np.arange(1, counted_days + 1), orders)
    return Expected(history, Volume(carts / counted_days), np.ones(carts), counted, MixTerms())


def open_then(when: When, day: date, minute: int) -> bool:
    """Whether an offer is open at a minute of a day of its own, hours after midnight counted to the day before."""
    if when.from_minute is not None and when.from_minute > when.to_minute and minute < when.to_minute:
        minute += 1440
    first, last = when.first_day or day, when.last_day or day
    if day == when.first_day and minute < (when.first_minute or 0):
        return False
    if day == when.last_day and when.last_minute is not None and minute >= when.last_minute:
        return False
    return first <= day <= last


def ways_of(world: World, shop: slow.SlowShop) -> Iterator[tuple[float, slow.SlowCart, dict | None]]:
    """Every cart, by every way it may be paid and delivered: how likely it is."""
    whole = sum(one["share_bp"] for one in shop.payments)
    for cart in world.slow_carts:
        paid = [(1, cart)] if cart.payment or not shop.payments else [
            (one["share_bp"] / whole, replace(cart, payment=one["name"])) for one in shop.payments
        ]  # fmt: skip
        for share, paying in paid:
            for chance, option in slow_costs.options_of(shop, paying):
                yield share * float(chance), paying, option


def orders_of(world: World, cart: slow.SlowCart, day: date, among: Sequence[slow.SlowCart] | None = None) -> float:
    """How many orders like a cart come on a day: those of a weekday share it, those of none share every day, and a
    weekday that has none of its own is shared by all that have one. among: the carts there are, None for all."""
    carts = world.slow_carts if among is None else among
    orders = len(world.slow_carts) / COUNTED_DAYS
    with_day = [one for one in carts if one.weekday is not None]
    if cart.weekday is None:
        return orders / len(carts)
    of_day = [one for one in with_day if one.weekday == day.weekday()]
    if not of_day:
        return orders / len(carts)
    return orders * len(with_day) / len(carts) / len(of_day) if cart.weekday == day.weekday() else 0.0


def slow_forecast(world: World, plan: Plan) -> tuple[float, float]:
    """Kept today and under the plan: day by day, state by state, cart by cart."""
    today = planned = 0.0
    for number in range(plan.days):
        day = date.fromordinal(FIRST.toordinal() + number)
        shop = slow.on_day(world.slow_shop, day)
        touched = [
            at for at, o in enumerate(plan.offers) if (o.when.first_day or day) <= day <= (o.when.last_day or day)
        ]
        uptake: dict[str, float] = {}
        for at in touched:
            code = world.slow_offers[at]["code"].casefold()
            if code:
                uptake.setdefault(code, plan.offers[at].response.uptake_bp / 10_000)
        for share, cart, option in ways_of(world, shop):
            share *= orders_of(world, cart, day)
            bare = slow.price(shop, cart, [], option=option)
            today += share * sum(slow_costs.ledger(shop, bare, cart).values())
            opened = [at for at in touched if open_then(plan.offers[at].when, day, cart.minute)]
            for mask in range(2 ** len(uptake)):
                held = {code for bit, code in enumerate(uptake) if mask >> bit & 1}
                chance = np.prod([share if code in held else 1 - share for code, share in uptake.items()])
                there = [at for at in opened if (c := world.slow_offers[at]["code"].casefold()) in held or not c]
                priced = slow.price(shop, cart, world.slow_offers, plan.apply, there, option)
                kept = share * sum(slow_costs.ledger(shop, priced, cart).values())
                extra = sum(plan.offers[at].response.extra_bp / 10_000 for at in priced.effective())
                planned += chance * kept * (1 + extra)
    return today, planned


@settings(max_examples=40)
@given(planned())
def test_a_slow_forecast_day_by_day_keeps_the_same(case):
    world, plan = case
    found = forecaster(world).forecast(plan)
    today, kept = slow_forecast(world, plan)
    assert found.today.profit == pytest.approx(today, rel=1e-9, abs=1e-6)
    assert found.planned.profit == pytest.approx(kept, rel=1e-9, abs=1e-6)


@some
@given(planned())
def test_ledger_adds_to_profit_bridge_and_rods_to_impact(case):
    world, plan = case
    room = forecaster(world)
    found = room.forecast(plan)
    assert len(found.planned.ledger) == len(INDEX)
    assert sum(step.amount for step in found.bridge) == pytest.approx(found.impact, rel=1e-9, abs=1e-6)
    for rods in found.rods.values():
        assert sum(rod.change for rod in rods) == pytest.approx(found.impact, rel=1e-9, abs=1e-6)
        assert sum(rod.share for rod in rods) == pytest.approx(1)
    assert room.impact(plan) == pytest.approx(found.impact, rel=1e-9, abs=1e-6)
    drawn = Drawn(plan)
    for opened, _ in open_sets(plan, plan.window(), Volume(base=2.0)):
        chances = [one.chance for one in available_sets(opened, drawn)]
        np.testing.assert_allclose(np.sum(chances, axis=0), 1.0)
    spans = open_sets(plan, plan.window(), Volume(base=1.0))
    assert sum(days.sum() for _, days in spans) == plan.days


@some
@given(planned())
def test_a_rod_is_what_the_shopper_pays(case):
    world, plan = case
    bare = replace(plan, offers=())
    for rod in forecaster(world).forecast(bare).rods["zone"]:
        assert rod.kept == pytest.approx(rod.today)
        assert rod.given_away == 0
        assert rod.change == pytest.approx(0, abs=1e-9)


@some
@given(planned())
def test_a_plan_without_offers_changes_nothing(case):
    world, plan = case
    found = forecaster(world).forecast(replace(plan, offers=()))
    assert found.impact == 0
    assert (found.planned.ledger == found.today.ledger).all()
    assert found.more_orders.verdict == "no_matter"


@some
@given(planned())
def test_at_the_break_even_of_a_figure_the_impact_is_0(case):
    world, plan = case
    room = forecaster(world)
    for at, figures in enumerate(room.forecast(plan).offers):
        value = figures.break_evens["extra_bp"].value
        if value is None:
            continue
        slope = figures.kept_if_doubled
        now = plan.offers[at].response.extra_bp / 10_000
        assert room.impact(plan) + (value - now) * slope == pytest.approx(0, abs=1e-5)


@some
@given(planned())
def test_an_offer_that_is_not_open_in_the_window_influences_nothing(case):
    world, plan = case
    if not plan.offers:
        return
    closed = replace(plan.offers[0], when=When(date(2027, 1, 1), None))
    with_it, without_it = replace(plan, offers=(closed, *plan.offers[1:])), replace(plan, offers=plan.offers[1:])
    room = forecaster(world)
    assert room.impact(with_it) == pytest.approx(room.impact(without_it), rel=1e-9, abs=1e-6)
