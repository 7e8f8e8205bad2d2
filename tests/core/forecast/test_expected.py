"""The carts to expect, against plain loops over carts and days."""

from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.pricing.test_why import SHOP
from tests.worlds import World, make_world, worlds
from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.forecast.expected import History, LeftOut, MixTerms, Segment, Source, expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan

FIRST = date(2025, 1, 6)
some = settings(max_examples=50)


def history(world: World, days: list[int]) -> History:
    """The world's carts, each on a day of its own weekday where it has one."""
    weekday = world.batch.facts.weekday_by_cart
    return History(
        world.shop,
        world.batch,
        np.array([FIRST.toordinal() + day * 7 + max(int(kind), 0) for day, kind in zip(days, weekday, strict=True)]),
    )


@st.composite
def histories(draw: st.DrawFn) -> tuple[World, History]:
    world = draw(worlds(most_carts=8))
    carts = world.batch.axes.carts
    return world, history(world, draw(st.lists(st.integers(0, 11), min_size=carts, max_size=carts)))


segments = st.one_of(
    st.builds(Segment, of=st.sampled_from(["first", "returning"]), times_bp=st.integers(0, 30_000)),
    st.builds(Segment, of=st.just("zone"), times_bp=st.integers(0, 30_000), name=st.sampled_from(["home", "far"])),
    st.builds(Segment, of=st.just("away"), times_bp=st.integers(0, 30_000), days=st.integers(1, 60)),
)
left_out = st.builds(
    lambda start, length: LeftOut(FIRST + timedelta(start), FIRST + timedelta(start + length)),
    st.integers(0, 80),
    st.integers(0, 10),
)
terms = st.builds(
    MixTerms,
    counted=st.sampled_from(["all", "last", "range"]),
    last_days=st.integers(20, 80),
    first_day=st.just(FIRST + timedelta(5)),
    last_day=st.just(FIRST + timedelta(70)),
    left_out=st.lists(left_out, max_size=2).map(tuple),
    growth_bp=st.integers(-5_000, 5_000),
    segments=st.lists(segments, max_size=2).map(tuple),
)


def plain_weights(world: World, told: History, terms: MixTerms) -> list[float]:
    """The weight of each cart, from the terms as they read."""
    days = [date.fromordinal(int(day)) for day in told.day_by_cart]
    facts = world.batch.facts
    open_days = [min(days) + timedelta(number) for number in range((max(days) - min(days)).days + 1)] if days else []
    open_days = [day for day in open_days if not any(one.first_day <= day <= one.last_day for one in terms.left_out)]
    if terms.counted == "last" and open_days:
        open_days = [day for day in open_days if day > open_days[-1] - timedelta(terms.last_days)]
    if terms.counted == "range":
        open_days = [day for day in open_days if terms.first_day <= day <= terms.last_day]
    found = []
    for cart, day in enumerate(days):
        weight = float(day in open_days)
        for one in terms.segments:
            before, since = facts.orders_before_by_cart[cart], facts.days_since_by_cart[cart]
            zone = world.shop.zone_names[world.batch.zone_by_cart[cart]]
            meant = {
                "first": before == 0,
                "returning": before > 0,
                "zone": zone == one.name,
                "away": since >= (one.days or 0) and since != UNKNOWN,
            }[one.of]
            weight *= one.times_bp / 10_000 if meant else 1
        found.append(weight)
    return found


@some
@given(histories(), terms, st.integers(0, 60), st.integers(1, 20))
def test_carts_share_the_orders_of_their_weekday(case, terms, start, length):
    world, told = case
    found = expect(told, terms)
    weights = plain_weights(world, told, terms)
    assert found.weight_by_cart.tolist() == pytest.approx(weights)
    days = [FIRST + timedelta(start + number) for number in range(length)]
    orders, mix = Source(found, told.mix, 1.0, None).weighed(told.mix, found.volume.by_weekday(days))
    assert orders == pytest.approx(sum(found.volume.on(day) for day in days))
    if not sum(weights) or not orders:
        return
    weekday = world.batch.facts.weekday_by_cart
    expected = np.zeros(len(weights))
    known = sum(weight for weight, kind in zip(weights, weekday, strict=True) if kind != UNKNOWN)
    for day in days:
        for cart, weight in enumerate(weights):
            mine = [w for w, kind in zip(weights, weekday, strict=True) if kind == day.weekday()]
            if not found.counted.tells_weekdays or weekday[cart] == UNKNOWN or not sum(mine):
                share = weight / sum(weights)
            elif weekday[cart] == day.weekday():
                share = weight / sum(mine) * known / sum(weights)
            else:
                share = 0.0
            expected[cart] += share * found.volume.on(day)
    assert (mix.share_by_cart * orders).tolist() == pytest.approx(expected.tolist(), abs=1e-9)


@some
@given(histories(), st.lists(segments, min_size=1, max_size=3))
def test_segments_shift_shares_and_never_volume(case, segments):
    _, told = case
    plain, weighed = expect(told), expect(told, MixTerms(segments=tuple(segments)))
    assert weighed.volume == plain.volume
    if weighed.weight_by_cart.any():
        _, mix = Source(weighed, told.mix, 1.0, None).weighed(told.mix, weighed.volume.by_weekday([FIRST]))
        assert mix.share_by_cart.sum() == pytest.approx(1)


@some
@given(histories(), terms)
def test_forecasts_of_other_mixes_over_the_same_carts_are_as_if_made_anew(case, terms):
    world, told = case
    plan = Plan(FIRST, FIRST + timedelta(13), world.offers)
    first = Forecaster(expect(told))
    first.forecast(plan)
    expected = expect(told, terms)
    if not expected.weight_by_cart.any():
        return
    found, anew = first.expecting(expected).forecast(plan), Forecaster(expected).forecast(plan)
    np.testing.assert_allclose(found.planned.ledger, anew.planned.ledger, rtol=1e-9, atol=1e-6)
    np.testing.assert_allclose(found.today.ledger, anew.today.ledger, rtol=1e-9, atol=1e-6)
    assert found.today.orders == pytest.approx(anew.today.orders)


def test_the_plans_weeks_a_year_ago_are_counted_with_two_more_on_either_side(a_year):
    window = (date(2026, 3, 2), date(2026, 3, 8))
    found = expect(a_year, MixTerms(counted="year_ago"), window)
    assert date.fromordinal(int(found.counted.days[0])) == date(2025, 2, 17)
    assert date.fromordinal(int(found.counted.days[-1])) == date(2025, 3, 23)


@pytest.fixture
def a_year():
    """One cart a day."""
    world = make_world(SHOP, [], [])
    days = np.arange(date(2025, 1, 1).toordinal(), date(2025, 12, 31).toordinal() + 1)
    return History(world.shop, world.batch, days)


@pytest.mark.parametrize(
    ("terms", "path"),
    [
        (MixTerms(counted="last", last_days=0), ("last_days",)),
        (MixTerms(counted="range", first_day=FIRST), ("first_day",)),
        (MixTerms(counted="range", first_day=FIRST, last_day=FIRST - timedelta(1)), ("last_day",)),
        (MixTerms(weekday_bp=(1, 2)), ("weekday_bp",)),
        (MixTerms(month_bp=(0,) * 12), ("month_bp",)),
        (MixTerms(growth_bp=-10_001), ("growth_bp",)),
        (MixTerms(left_out=(LeftOut(FIRST, FIRST - timedelta(1)),)), ("left_out", 0, "last_day")),
        (MixTerms(segments=(Segment(of="zone", times_bp=10_000),)), ("segments", 0, "name")),
        (MixTerms(segments=(Segment(of="away", times_bp=10_000),)), ("segments", 0, "days")),
    ],
)
def test_what_makes_no_sense_is_told(terms, path):
    assert [problem.path for problem in terms.problems()] == [path]
    assert not list(MixTerms().problems())
