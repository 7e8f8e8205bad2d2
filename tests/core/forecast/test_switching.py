"""Goods of extra orders bought in place of others, against plain sums over carts priced by the slow pricer."""

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow, slow_costs
from tests.core.forecast.test_forecast import COUNTED_DAYS, forecaster
from tests.worlds import CATEGORIES, PLAIN, World, make_world, plain_shop
from yellow_abacus.core.clauses.response import Ranged
from yellow_abacus.core.forecast.check import check_plan
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.ranges import range_of
from yellow_abacus.core.forecast.working import Working
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.offers import Response

FIRST, LAST = date(2026, 3, 2), date(2026, 3, 8)
PRICES = {"A": 900, "B": 400, "C": 2500, "D": 150}
KINDS = {"A": "pots", "B": "seeds", "C": "pots", "D": "tools"}
GOODS = {sku: slow.SlowGood(price, None, price * 0.6, {KINDS[sku]}, 100, sku) for sku, price in PRICES.items()}
OFF = {"kind": "percent_off", "percent_bp": 1000, "with_delivery": False}

carts = st.lists(st.lists(st.sampled_from("ABCD"), min_size=1, max_size=5), min_size=1, max_size=6)
scopes = st.lists(st.sampled_from(CATEGORIES), unique=True, max_size=2)
shares = st.integers(0, 10_000)


def world_of(found: list[list[str]], on: list[str], n: int) -> World:
    condition = {"kind": "spend", "n": n, "bound": "at_least", "of": {}}
    offer = {**PLAIN, "gives": [OFF], "conditions": [condition], "on": {"categories": on}}
    units = [slow.SlowCart([(sku, PRICES[sku]) for sku in cart], "home") for cart in found]
    return make_world(plain_shop(GOODS, home=(300,), far=(0,)), units, [offer])


def plan_of(world: World, of: list[str], **response: object) -> Plan:
    told = Response(**response, switched_of=Scope(categories=tuple(of)))
    return Plan(FIRST, LAST, (replace(world.offers[0], response=told),))


@settings(max_examples=70, deadline=None)
@given(carts, scopes, scopes, st.integers(100, 3000), st.integers(0, 20_000), shares)
def test_each_unit_bought_instead_costs_what_one_of_the_others_keeps(found, on, of, n, extra, switched):
    world = world_of(found, on, n)
    room, plan = forecaster(world), plan_of(world, of, extra_bp=extra, switched_bp=switched)

    def meant(sku: str, names: list[str]) -> bool:
        return not names or KINDS[sku] in names

    others = [sku for cart in found for sku in cart if meant(sku, of) and not meant(sku, on)]
    each = sum(PRICES[sku] * 0.4 for sku in others) / len(others) if others else 0.0
    kept = lost = 0.0
    for cart in world.slow_carts:
        priced = slow.price(world.slow_shop, cart, world.slow_offers)
        here = extra / 10_000 if 0 in priced.effective() else 0.0
        ((_, option),) = slow_costs.options_of(world.slow_shop, cart)
        priced = slow.price(world.slow_shop, cart, world.slow_offers, option=option)
        kept += (1 + here) * float(sum(slow_costs.ledger(world.slow_shop, priced, cart).values()))
        lost += here * switched / 10_000 * sum(meant(sku, on) for sku, _ in cart.units) * each
    result, days = room.forecast(plan), plan.days / COUNTED_DAYS
    assert result.planned.profit == pytest.approx((kept - lost) * days, rel=1e-9, abs=1e-6)
    assert room.impact(plan) == pytest.approx(result.impact, abs=1e-6)
    steps = {step.key: step.amount for step in result.bridge}
    assert steps["switched"] == pytest.approx(-lost * days, abs=1e-6)
    assert sum(steps.values()) == pytest.approx(result.impact, abs=1e-6)
    figure = Working(room, plan).figure("bridge/switched")
    assert figure.value == pytest.approx(steps["switched"], abs=1e-6)


def test_it_has_a_range_and_a_break_even():
    """On paper: 30 orders of a pot at €9 and seeds at €4 a month, half as many more with 10 % off pots. A pot bought
    in place of seeds costs the €1.60 those keep."""
    world = world_of([["A", "B"]] * COUNTED_DAYS, ["pots"], 100)
    told = {"extra_bp": 5_000, "switched_bp": 4_000, "ranges": (Ranged("switched_bp", 0, 10_000),)}
    room, plan = forecaster(world), plan_of(world, ["seeds"], **told)
    found = room.forecast(plan)
    assert found.bridge[-3].key == "switched"
    assert found.bridge[-3].amount == pytest.approx(-7 * 0.5 * 0.4 * 160)
    assert found.offers[0].break_evens["switched_bp"].verdict == "always"
    (swing,) = range_of(room, plan).swings
    assert swing.impact_at_low - swing.impact_at_high == pytest.approx(7 * 0.5 * 160)


def test_goods_nobody_has_are_told():
    world = world_of([["A"]], ["pots"], 100)
    plan = plan_of(world, ["lamps"], extra_bp=100, switched_bp=100)
    (problem,) = check_plan(plan, world.shop, world.batch.goods)
    assert problem.path == ("offers", 0, "response", "switched_of", "categories")
