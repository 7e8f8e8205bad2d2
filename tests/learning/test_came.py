"""Real orders of a plan's days: priced as the plan should have, held against the forecast's own cents; and outcomes
whose ranges hold what is drawn."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from tests.learning.made_shops import (
    DAYS,
    FIRST_DAY,
    GOODS,
    OF_THE_WEEK,
    OF_THE_YEAR,
    SHOP,
    Truth,
    coded,
    from_spend,
    made_shop,
)
from yellow_abacus.core.carts.carts import make_batch
from yellow_abacus.core.clauses.conditions import Earned, Spend
from yellow_abacus.core.clauses.response import Ranged
from yellow_abacus.core.delivery.charges import FlatCharge
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.forecast.expected import Expected, History, MixTerms, expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.outcome import outcome_of
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.volume import Volume
from yellow_abacus.core.ground.money import rhu
from yellow_abacus.core.offers import Offer, PutIn, Response, When
from yellow_abacus.core.shop.shop import Settings, Shop
from yellow_abacus.learning.came import came

START, LONG = 200, 21
FIRST, LAST = (date.fromordinal(FIRST_DAY.toordinal() + at) for at in (START, START + LONG - 1))
NOTHING_MORE = Truth(extra=0.0, borrowed=0.0)


def orders_of(seed: int, offer, truth: Truth = NOTHING_MORE) -> History:
    past = made_shop(np.random.default_rng(seed), 8_000, offer, truth).past
    batch = past.batch
    lines = (batch.axes.cart_by_line, batch.sku_by_line, batch.quantity_by_line, batch.standing_by_line)
    return History(SHOP, make_batch(GOODS, batch.zone_by_cart, *lines, batch.facts), past.day_by_cart, "EUR")


def paid_as(history: History, off_bp: int) -> np.ndarray:
    """By raw line: what orders with the code paid, so much less; others in full."""
    raw, batch = history.batch.raw, history.batch
    whole = batch.goods.list_price[raw.sku] * raw.quantity
    coded_orders = batch.facts.code.number_by_cart[raw.cart] >= 0
    return whole - np.where(coded_orders, rhu(whole * off_bp, 10_000), 0)


def as_plan(offer) -> Plan:
    return Plan(FIRST, LAST, (replace(offer, when=When()),))


def test_each_order_is_priced_as_its_code_says():
    offer = coded(START, LONG)
    history = orders_of(1, offer)
    found = came(history, paid_as(history, 1_000), as_plan(offer))
    days = history.day_by_cart
    assert (found.carts == np.flatnonzero((days >= FIRST.toordinal()) & (days <= LAST.toordinal()))).all()
    used = history.batch.facts.code.number_by_cart[found.carts] >= 0
    assert (found.used[0] == used).all()
    assert found.off == pytest.approx(
        np.where(used, rhu(history.batch.worth_by_cart[found.carts] * 1_000, 10_000), 0)
    )
    assert (found.as_today[~used] == found.planned[~used]).all()
    assert (found.as_today[used] > found.planned[used]).all()


def test_what_was_charged_as_the_plan_says_leaves_nothing_over():
    offer = coded(START, LONG)
    history = orders_of(1, offer)
    alike = came(history, paid_as(history, 1_000), as_plan(offer))
    assert np.abs(alike.goods_paid - alike.goods_should).max() <= 3  # lines are rounded one by one
    twice = came(history, paid_as(history, 2_000), as_plan(offer))
    assert twice.charged.sum() < alike.charged.sum()
    assert (twice.charged - twice.planned).sum() == pytest.approx((twice.goods_paid - twice.goods_should).sum())
    unsaid = came(history, np.full(len(history.batch.raw.sku), -1), as_plan(offer))
    assert not unsaid.told.any()
    assert (unsaid.charged == unsaid.planned).all()


def test_what_came_off_is_told_from_what_is_usual_where_nobody_pays_what_is_asked():
    offer = coded(START, LONG)
    history = orders_of(1, offer)
    paid = rhu(paid_as(history, 1_000) * 8_500, 10_000)  # everybody pays 15 % less than the list
    from_list = came(history, paid, as_plan(offer))
    usual = rhu(GOODS.list_price * 8_500, 10_000)
    told = came(history, paid, as_plan(offer), usual=usual)
    used = told.used[0]
    assert (from_list.off_charged[~used] > 0).all()
    assert np.abs(told.off_charged[~used]).max() <= 12  # cents of rounding, a line each
    assert told.off_charged[used] == pytest.approx(told.goods_paid[used] / 9, abs=12)
    none = came(history, paid, as_plan(offer), usual=np.full(len(usual), -1))
    assert (none.off_charged == from_list.off_charged).all()


def test_delivery_is_charged_as_orders_say_and_held_between_the_ways_they_may_go():
    """A parcel at 4.90, or a locker at 2.50 and no longer asked from 30.00 of goods."""
    offer = coded(START, LONG)
    history = with_delivery(orders_of(3, offer))
    worth = history.batch.worth_by_cart
    nothing = np.full(len(history.batch.raw.sku), -1)
    unsaid = came(history, nothing, as_plan(offer))
    locker = np.where(worth >= 3_000, 0, 250)[unsaid.carts]
    used = unsaid.used[0]
    assert unsaid.delivery_paid[~used] == pytest.approx(0.6 * 490 + 0.4 * locker[~used])
    assert (unsaid.delivery == unsaid.delivery_paid).all()  # no tax here
    for paid, should in ((490, 490), (600, 490), (300, 300)):
        told = came(history, nothing, as_plan(offer), None, np.full(len(worth), paid))
        assert (told.delivery_should == should).all()
        assert told.delivery == pytest.approx(unsaid.delivery + paid - should)
        assert told.charged == pytest.approx(unsaid.charged + paid - should)
    free = came(history, nothing, as_plan(offer), None, np.zeros(len(worth), dtype=np.int64))
    assert (free.delivery_should[~used] == locker[~used]).all()


def with_delivery(history: History) -> History:
    options = (
        Option("Parcel", FlatCharge(490), share_bp=6_000),
        Option("Locker", FlatCharge(250), free_from=3_000, share_bp=4_000),
    )
    shop = Shop(Settings(), (Zone("home", options),))
    return History(shop, history.batch, history.day_by_cart, "EUR")


PACKET = Offer(gives=(PutIn(skus=("SKU-1",)),), earned=Earned((Spend(n=4_000),)), id="packet")


def with_packets(history: History, orders: np.ndarray) -> tuple[History, np.ndarray]:
    """The history as a shop writes it down that puts a packet, at no price, in some orders; and what lines paid."""
    raw, batch = history.batch.raw, history.batch
    cart, many = np.concatenate((raw.cart, orders)), len(orders)
    sku, quantity = np.concatenate((raw.sku, np.ones(many, dtype=int))), np.concatenate((raw.quantity, np.ones(many)))
    asked = np.concatenate((raw.asked, np.full(many, GOODS.list_price[1])))
    paid = np.concatenate((GOODS.list_price[raw.sku] * raw.quantity, np.zeros(many, dtype=int)))
    made = make_batch(GOODS, batch.zone_by_cart, cart, sku, quantity.astype(int), asked, batch.facts)
    return History(SHOP, made, history.day_by_cart, "EUR"), paid


def test_what_was_put_in_counts_once_however_it_is_written_down():
    history = orders_of(2, coded(300, 3))
    plan = as_plan(PACKET)
    unwritten = came(history, GOODS.list_price[history.batch.raw.sku] * history.batch.raw.quantity, plan)
    earns = unwritten.put_in > 0
    assert 0 < earns.sum() < len(earns)
    assert unwritten.put_in[earns] == pytest.approx(GOODS.unit_cost[1])
    written = came(*with_packets(history, unwritten.carts[earns]), plan)
    for name in ("as_today", "planned", "charged", "off", "off_charged", "goods_paid", "put_in"):
        assert getattr(written, name) == pytest.approx(getattr(unwritten, name)), name


def test_what_was_put_in_where_it_should_not_have_been_costs_and_where_it_was_not_costs_nothing():
    history = orders_of(2, coded(300, 3))
    plan = as_plan(PACKET)
    should = came(history, GOODS.list_price[history.batch.raw.sku] * history.batch.raw.quantity, plan)
    earns, some = should.put_in > 0, np.arange(len(should.carts)) % 3 == 0
    found = came(*with_packets(history, should.carts[some]), plan)
    cost = GOODS.unit_cost[1]
    assert found.planned == pytest.approx(should.planned)
    assert found.put_in == pytest.approx(np.where(some, cost, 0))
    assert found.charged - found.planned == pytest.approx(cost * (earns.astype(int) - some))


def test_later_days_can_be_left_out():
    offer = coded(START, LONG)
    history = orders_of(1, offer)
    found = came(history, paid_as(history, 1_000), as_plan(offer), date.fromordinal(FIRST.toordinal() + 6))
    assert found.day.max() == FIRST.toordinal() + 6


def test_with_certain_figures_an_outcome_is_the_forecasts_own():
    offer = replace(from_spend(START, LONG), response=Response(top_up_bp=3_000, top_up_reach=1_200))
    history = orders_of(2, from_spend(0, 1), Truth(extra=0.0, borrowed=0.0, top_up=0.0))
    room, plan = Forecaster(expect(history, MixTerms(orders_a_day=22.0))), as_plan(offer)
    found, said = outcome_of(room, plan), room.forecast(plan)
    assert found.orders.likely == pytest.approx(said.planned.orders)
    assert found.profit.likely == pytest.approx(said.planned.profit)
    assert found.off.likely == pytest.approx(said.planned.goods_off)
    assert found.offers[0].uses.likely == pytest.approx(said.offers[0].uses)
    assert found.offers[0].given_away.likely == pytest.approx(said.offers[0].given_away)
    assert found.today_each == pytest.approx(said.today.profit / said.today.orders)
    assert found.orders.high - found.orders.low == pytest.approx(2 * 1.645 * said.planned.orders**0.5, rel=0.01)


def test_ranges_of_outcomes_hold_nine_times_in_ten():
    """Forecast from days before, with the volume of the made shop known, held against what was drawn."""
    held = dict.fromkeys(("orders", "sales", "delivery", "profit", "uses", "given"), 0)
    shops = 24
    ranges = (Ranged("uptake_bp", 1_100, 1_300), Ranged("uptake_first_bp", 450, 550))
    told = Response(uptake_bp=1_200, uptake_first_bp=500, ranges=ranges)
    for seed in range(shops):
        history = with_delivery(orders_of(seed, coded(START, LONG)))
        room = Forecaster(known_volume(history))
        plan = Plan(FIRST, LAST, (replace(coded(START, LONG), when=When(), response=told),))
        expects = outcome_of(room, plan)
        real = came(history, np.full(len(history.batch.raw.sku), -1), plan)
        came_to = {
            "orders": (expects.orders, len(real.carts)),
            "sales": (expects.sales, real.sales.sum()),
            "delivery": (expects.delivery, real.delivery.sum()),
            "profit": (expects.profit, real.planned.sum()),
            "uses": (expects.offers[0].uses, real.used[0].sum()),
            "given": (expects.offers[0].given_away, real.given[0].sum()),
        }
        for name, (expectation, value) in came_to.items():
            held[name] += expectation.holds(float(value))
    assert min(held.values()) >= shops - 6


def known_volume(history: History) -> Expected:
    """The mix of the history before the plan's days, at the volume orders were drawn with."""
    found = expect(
        history, MixTerms(counted="range", first_day=FIRST_DAY, last_day=date.fromordinal(FIRST.toordinal() - 1))
    )
    days = [date.fromordinal(FIRST_DAY.toordinal() + at) for at in range(DAYS)]
    shape = sum(OF_THE_WEEK[day.weekday()] * OF_THE_YEAR[day.month - 1] for day in days)
    volume = Volume(8_000 / shape, tuple(OF_THE_WEEK.tolist()), tuple(OF_THE_YEAR.tolist()))
    return replace(found, volume=volume)
