"""Sharp-eyed shoppers bring the cart they built: the forecast against plain sums of what each cart keeps."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.advice.test_all_snags import code, offer, spend
from tests.core.advice.test_leaks import EACH, FIRST, LAST, on, world_of
from tests.core.forecast.test_forecast import forecaster
from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.costing.costs import cost
from yellow_abacus.core.forecast.check import check_plan
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.ranges import range_of
from yellow_abacus.core.forecast.sharp import Sharp
from yellow_abacus.core.forecast.working import Working
from yellow_abacus.core.offers import AmountOff, Limits, Offer, PercentOff, Response, When
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.rows import rows_of

REPEATS = offer(AmountOff(500), earned=replace(spend(700), **EACH), on=on("POT", "POT-S"))
CODED = offer(PercentOff(1000), name="two", given=code("FRONDLET"), response=Response(uptake_bp=2500))
SHARP = Sharp(300, (("POT", 12),), "home", "Post", offers=("one",))


def plan(*offers: Offer, sharp: Sharp | None = SHARP) -> Plan:
    return Plan(FIRST, LAST, offers, sharp=sharp)


def kept_of(world, offers: tuple[Offer, ...], sharp: Sharp, opened: bool = True) -> float:
    """What the cart they build keeps by itself."""
    goods = world.batch.goods
    sku = np.array([goods.skus.index(one) for one, _ in sharp.lines])
    units = np.array([count for _, count in sharp.lines])
    zone = np.array([world.shop.zone_names.index(sharp.zone)])
    batch = make_batch(goods, zone, np.zeros_like(sku), sku, units, np.zeros_like(sku))
    rows = rows_of(world.shop, batch, offers)
    there = np.array([[opened and (one.given.key is None or one.given.key in sharp.codes)] for one in offers])
    priced = price(world.shop, rows, offers, "best", there)
    return float((cost(world.shop, rows, priced).sum(axis=0) * rows.share_by_row).sum())


@pytest.mark.parametrize("codes", [frozenset(), frozenset({"frondlet"})])
def test_a_share_of_orders_keeps_what_their_cart_keeps(codes):
    world, offers = world_of(), (REPEATS, CODED)
    sharp = replace(SHARP, codes=codes)
    without, found = (forecaster(world).forecast(plan(*offers, sharp=one)) for one in (None, sharp))
    orders = found.today.orders
    of_sharp = sharp.share * orders * kept_of(world, offers, sharp)
    assert found.planned.profit == pytest.approx((1 - sharp.share) * without.planned.profit + of_sharp)
    assert found.planned.orders == pytest.approx(orders)
    assert found.today.profit == without.today.profit
    assert sum(step.amount for step in found.bridge) == pytest.approx(found.impact)


def test_nobody_builds_it_while_its_offers_are_not_open():
    world = world_of()
    half = replace(REPEATS, when=When(last_day=FIRST.replace(day=7)))
    without, found = (forecaster(world).forecast(plan(half, sharp=one)) for one in (None, SHARP))
    orders = found.today.orders / 2
    first_half = forecaster(world).forecast(replace(plan(half, sharp=None), last_day=FIRST.replace(day=7)))
    lost = SHARP.share * first_half.planned.profit - SHARP.share * orders * kept_of(world, (half,), SHARP)
    assert found.planned.profit == pytest.approx(without.planned.profit - lost)


def test_they_use_limits_up_and_the_working_and_the_range_hold():
    world = world_of()
    limited = replace(REPEATS, limits=Limits(spending=40_000))
    without, found = (forecaster(world).forecast(plan(limited, sharp=one)) for one in (None, SHARP))
    assert found.ends[0].used > without.ends[0].used
    told = plan(limited)
    working = Working(forecaster(world), told)
    impact = working.figure("impact")
    parts = [sign * working.figure(key).value for sign, key in impact.parts]
    assert sum(parts) == pytest.approx(impact.value) == pytest.approx(found.impact)
    assert range_of(forecaster(world), told).likely == pytest.approx(found.impact)


def test_what_they_bring_must_be_there_to_be_bought():
    world = world_of()
    shop, goods = world.shop, world.batch.goods
    for wrong, path in (
        (replace(SHARP, share_bp=0), ("sharp", "share_bp")),
        (replace(SHARP, lines=(("GONE", 1),)), ("sharp", "cart", "lines", 0, "sku")),
        (replace(SHARP, zone="moon"), ("sharp", "cart", "zone")),
    ):
        assert [one.path for one in check_plan(plan(REPEATS, sharp=wrong), shop, goods)] == [path]
    assert check_plan(plan(REPEATS), shop, goods) == []
