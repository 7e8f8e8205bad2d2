"""Sketched carts, against plain loops over all that each may hold, where it goes and when it comes."""

from dataclasses import replace
from datetime import date, timedelta
from itertools import product

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.forecast.test_expected import FIRST, histories
from tests.core.pricing.test_why import SHOP
from tests.worlds import SKUS, make_world
from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.carts.facts import Labels, nothing_known
from yellow_abacus.core.carts.sketch import MOST_DRAWN, Sketch, SketchedLine, ZoneShare, drawn
from yellow_abacus.core.forecast.expected import History, MixTerms, expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.spread_of_mix import groups, spread
from yellow_abacus.core.goods.goods import NO_PRICE
from yellow_abacus.core.goods.scope import Scope

lines = st.builds(
    lambda skus, least, more: SketchedLine(Scope(skus=tuple(skus)), least, least + more),
    st.lists(st.sampled_from(SKUS), min_size=1, max_size=2, unique=True),
    st.integers(1, 3),
    st.integers(0, 1),
)
sketches = st.builds(
    Sketch,
    name=st.just("Sketch"),
    share_bp=st.integers(1, 4_000),
    lines=st.lists(lines, min_size=1, max_size=2).map(tuple),
    zones=st.sampled_from([(), (ZoneShare("far", 3_000), ZoneShare("home", 1_000)), (ZoneShare("home", 1),)]),
    first_bp=st.sampled_from([None, 0, 2_500, 10_000]),
)


def plain_carts(history, sketch):
    """Every cart a sketch may be, with its share: lines of (SKU, units), zone, orders before."""
    batch, goods, zones = history.batch, history.batch.goods, history.shop.zone_names
    ordered = dict.fromkeys(range(len(goods.skus)), 0)
    for sku, units in zip(batch.sku_by_line.tolist(), batch.quantity_by_line.tolist(), strict=True):
        ordered[sku] += units
    ways = []
    for line in sketch.lines:
        skus = [sku for sku in range(len(goods.skus)) if goods.skus[sku] in line.of.skus]
        skus = [sku for sku in skus if goods.list_price[sku] != NO_PRICE]
        whole = sum(ordered[sku] for sku in skus)
        numbers = range(line.least, line.most + 1)
        chances = {sku: ordered[sku] / whole if whole else 1 / len(skus) for sku in skus}
        ways.append([(sku, units, chances[sku] / len(numbers)) for sku in skus for units in numbers])
    told = {one.zone: one.share_bp for one in sketch.zones}
    zone_of = batch.zone_by_cart.tolist()
    to = [told.get(name, 0) if told else zone_of.count(at) for at, name in enumerate(zones)]
    before = [one for one in batch.facts.orders_before_by_cart.tolist() if one >= 0]
    if sketch.first_bp is not None:
        firsts = [(0, sketch.first_bp / 10_000), (1, 1 - sketch.first_bp / 10_000)]
    elif before:
        firsts = [(0, before.count(0) / len(before)), (1, 1 - before.count(0) / len(before))]
    else:
        firsts = [(-1, 1.0)]
    for chosen in product(*ways):
        for (zone, weight), (earlier, of_such) in product(enumerate(to), firsts):
            share = weight / sum(to) * of_such
            for _, _, chance in chosen:
                share *= chance
            if share:
                yield [(sku, units) for sku, units, _ in chosen], zone, earlier, share


def plain_mix(history, sketch, days):
    """All of them at each weekday and hour there may be, as carts whose times are known."""
    minutes = [one for one in history.batch.facts.minute_by_cart.tolist() if one >= 0]
    hours = [sum(one // 60 == hour for one in minutes) / len(minutes) if minutes else 1 / 24 for hour in range(24)]
    cart, sku, units, zones, earlier, weekdays, minute, weights = [], [], [], [], [], [], [], []
    for lines, zone, before, share in plain_carts(history, sketch):
        for day, hour in product(days, range(24)):
            if not hours[hour]:
                continue
            for one, many in lines:
                cart.append(len(zones)), sku.append(one), units.append(many)
            zones.append(zone), earlier.append(before), weekdays.append(day.weekday()), minute.append(hour * 60)
            weights.append(share * hours[hour] / len(days))
    home = Labels((history.currency,), np.zeros(len(zones), dtype=np.int64))
    facts = replace(
        nothing_known(len(zones)),
        weekday_by_cart=np.array(weekdays),
        minute_by_cart=np.array(minute),
        orders_before_by_cart=np.array(earlier),
        currency=home,
    )
    told = (np.array(one, dtype=np.int64) for one in (zones, cart, sku, units, [0] * len(cart)))
    batch = make_batch(history.batch.goods, *told, facts)
    return Mix(history.shop, batch, np.array(weights))


@settings(max_examples=40)
@given(histories(), sketches, st.integers(1, 9))
def test_sketches_come_to_what_all_their_carts_do_and_displace_the_history(case, sketch, length):
    world, told = case
    history = History(told.shop, told.batch, told.day_by_cart, "EUR")
    if list(sketch.problems_in(history.batch.goods, history.shop.zone_names)) or not history.batch.axes.carts:
        return
    offers = tuple(one for one in world.offers if one.given.key is None)
    plan = Plan(FIRST, FIRST + timedelta(length - 1), offers)
    terms = MixTerms(sketched=(sketch,), orders_a_day=10.0)
    plain = Forecaster(expect(history, MixTerms(orders_a_day=10.0))).forecast(plan)
    found = Forecaster(expect(history, terms)).forecast(plan)
    share = sketch.share_bp / 10_000
    assert found.today.orders == pytest.approx(plain.today.orders)
    by_hand = 0.0
    for day in plan.window():
        mix, there = plain_mix(history, sketch, [day]), tuple(offer for _, offer in plan.opened_on(day))
        orders = expect(history, terms).volume.on(day) * share
        by_hand += orders * Outlook(history.shop, mix).sums(mix.on_day(day), there).profit.sum()
    assert found.planned.profit == pytest.approx(plain.planned.profit * (1 - share) + by_hand, rel=1e-9, abs=1e-6)


def test_many_carts_are_drawn_so_that_each_sku_and_number_has_its_share(a_history):
    line = SketchedLine(Scope(), 1, 10)
    one = Sketch("Anything", 10_000, (line, line, line), first_bp=0)
    found = drawn([one], a_history.batch.goods, a_history.shop.zone_names, a_history.usual)
    raw, many = found.batch.raw, found.batch.axes.carts
    assert many == MOST_DRAWN * (a_history.usual.zone_shares > 0).sum()
    assert found.share_by_cart.sum() == pytest.approx(1)
    for number in range(1, 11):
        share = found.share_by_cart[raw.cart[raw.quantity == number]].sum() / 3
        assert share == pytest.approx(0.1, abs=1 / MOST_DRAWN)


@pytest.fixture
def a_history():
    world = make_world(SHOP, [], [])
    return History(world.shop, world.batch, np.zeros(0, dtype=np.int64), "EUR")


def nothing_but(history, *sketches):
    return Forecaster(expect(history, MixTerms(sketched=sketches, orders_a_day=20.0)))


def a_sketch(name="One", share_bp=6_000, **told):
    return Sketch(name, share_bp, (SketchedLine(Scope(), 1, 2),), **told)


def test_a_shop_without_orders_expects_what_is_sketched_and_nothing_else(a_history):
    forecaster = nothing_but(a_history, a_sketch(), a_sketch("Two", 1_000, first_bp=0))
    found = forecaster.forecast(Plan(FIRST, FIRST + timedelta(6), ()))
    assert found.today.orders == pytest.approx(140)
    window = (FIRST, FIRST + timedelta(6))
    assert spread(forecaster, window, "units").orders.sum() == pytest.approx(140)
    first, returning = groups(forecaster, window).shopper[0]
    assert (first, returning) == (pytest.approx(120), pytest.approx(20))


def test_a_sketch_comes_on_its_days_alone_and_others_have_its_share_on_the_rest(a_history):
    april = a_sketch("April", 5_000, first_day=date(2025, 4, 1), last_day=date(2025, 4, 30), first_bp=0)
    forecaster = nothing_but(a_history, a_sketch(share_bp=5_000), april)
    window = (date(2025, 3, 31), date(2025, 4, 1))
    first, returning = groups(forecaster, window).shopper[0]
    assert (first, returning) == (pytest.approx(30), pytest.approx(10))


@pytest.mark.parametrize(
    ("sketch", "path"),
    [
        (a_sketch(""), ("name",)),
        (a_sketch(share_bp=10_001), ("share_bp",)),
        (Sketch("One", 1, ()), ("lines",)),
        (Sketch("One", 1, (SketchedLine(Scope(), 3, 2),)), ("lines", 0, "most")),
        (a_sketch(zones=(ZoneShare("far", 0),)), ("zones",)),
        (a_sketch(first_bp=-1), ("first_bp",)),
        (a_sketch(first_day=FIRST, last_day=FIRST - timedelta(1)), ("last_day",)),
    ],
)
def test_what_makes_no_sense_is_told(sketch, path):
    assert [problem.path for problem in sketch.problems()] == [path]
    assert ("sketched", 0, *path) in [problem.path for problem in MixTerms(sketched=(sketch,)).problems()]


def test_two_of_one_name_and_goods_and_zones_the_shop_does_not_have_are_told(a_history):
    twice = MixTerms(sketched=(a_sketch("Pots"), a_sketch("pots")))
    assert [problem.path for problem in twice.problems()] == [("sketched", 1, "name")]
    goods, zones = a_history.batch.goods, a_history.shop.zone_names
    unknown = Sketch("One", 1, (SketchedLine(Scope(skus=("NO-SUCH",))),), (ZoneShare("moon", 1),))
    assert [problem.path for problem in unknown.problems_in(goods, zones)] == [
        ("lines", 0, "of"),
        ("zones", 0, "zone"),
    ]
