"""Offers that run already: today, plans that keep or drop them, and the orders that stay away then."""

from dataclasses import dataclass, replace
from datetime import date

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow, slow_costs
from tests.core.forecast.test_forecast import FIRST, forecaster, open_then, orders_of, planned, responses, ways_of
from tests.worlds import World
from yellow_abacus.core.carts.facts import codes
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Dropped, Plan
from yellow_abacus.core.forecast.ranges import range_of
from yellow_abacus.core.forecast.working import Working
from yellow_abacus.core.offers import Response

share = st.floats(0, 3)


@dataclass(frozen=True)
class Case:
    """used: by cart, the code its order used. kept, dropped: numbers of the world's offers that run already."""

    world: World
    plan: Plan
    used: tuple[str, ...]
    kept: tuple[int, ...]
    dropped: tuple[int, ...]

    @property
    def room(self) -> Forecaster:
        return forecaster(self.world)


@st.composite
def running(draw: st.DrawFn) -> Case:
    """A plan whose first offers run already; those of them that are dropped brought some of the orders."""
    world, told = draw(planned())
    runs = draw(st.integers(0, len(told.offers)))
    dropped = tuple(at for at in range(runs) if draw(st.booleans()))
    kept = tuple(at for at in range(runs) if at not in dropped)
    every = ["", *{one["code"] for one in world.slow_offers}]
    used = tuple(draw(st.sampled_from(every)) for _ in world.slow_carts)
    facts = replace(world.batch.facts, code=codes(used))
    world = replace(world, batch=replace(world.batch, facts=facts))
    of_today = tuple(replace(one, runs=True, response=Response()) for one in told.offers[:runs])
    own = tuple(replace(one, response=draw(responses)) for one in told.offers[runs:])
    plan = replace(
        told,
        offers=(*(of_today[at] for at in kept), *own),
        running=of_today,
        dropped=tuple(Dropped(of_today[at], draw(share), draw(st.one_of(st.none(), share))) for at in dropped),
    )
    return Case(world, plan, used, kept, dropped)


def slow_forecast(case: Case) -> tuple[float, float, float]:
    """Kept today, kept of that by the orders that come without the offers dropped, and kept under the plan."""
    world, plan = case.world, case.plan
    today = staying = under = 0.0
    for number in range(plan.days):
        day = date.fromordinal(FIRST.toordinal() + number)
        shop = slow.on_day(world.slow_shop, day)
        for cart, used in zip(world.slow_carts, case.used, strict=True):
            ways = list(ways_of(replace(world, slow_carts=[cart]), shop))
            told = [(share, *one_way(case, shop, day, used, way, option)) for share, way, option in ways]
            orders = orders_of(world, cart, day)
            come = orders * sum(share * stays for share, stays, _, _ in told)
            today += orders * sum(share * now for share, _, now, _ in told)
            staying += come * sum(share * now for share, _, now, _ in told)
            under += come * sum(share * then for share, _, _, then in told)
    return today, staying, under


def one_way(
    case: Case, shop: slow.SlowShop, day: date, used: str, cart: slow.SlowCart, option: dict | None
) -> tuple[float, float, float]:
    """How likely such an order comes without what is dropped; what it keeps today, and what under the plan."""
    plan, offers, runs = case.plan, case.world.slow_offers, len(case.plan.running)
    own = {runs + place: plan.offers[at] for place, at in enumerate(plan.own)}
    whens = [one.when for one in (*plan.running, *own.values())]
    code = [one["code"].casefold() for one in offers]
    opened = [at for at, when in enumerate(whens) if open_then(when, day, cart.minute)]
    of_today = [at for at in opened if at < runs and code[at] in ("", used.casefold())]
    now = slow.price(shop, cart, offers, plan.apply, of_today, option)
    stay = {at: one.stay_by_cohort for at, one in zip(case.dropped, plan.dropped, strict=True)}
    stays = np.prod([stay[at][0 if cart.before == 0 else 1] for at in now.effective() if at in stay])
    uptake: dict[str, float] = {}
    for at, offer in own.items():
        if code[at] and (whens[at].first_day or day) <= day <= (whens[at].last_day or day):
            uptake.setdefault(code[at], offer.response.uptake_bp / 10_000)
    then = 0.0
    for mask in range(2 ** len(uptake)):
        held = {"", *(one for bit, one in enumerate(uptake) if mask >> bit & 1)}
        chance = np.prod([one if key in held else 1 - one for key, one in uptake.items()])
        there = [at for at in opened if (at in case.kept and at in of_today) or (at in own and code[at] in held)]
        priced = slow.price(shop, cart, offers, plan.apply, there, option)
        more = sum(own[at].response.extra_bp / 10_000 for at in priced.effective() if at in own)
        then += chance * sum(slow_costs.ledger(shop, priced, cart).values()) * (1 + more)
    return float(stays), sum(slow_costs.ledger(shop, now, cart).values()), then


@settings(max_examples=40)
@given(running())
def test_today_those_that_stay_and_the_plan_against_a_slow_walk(case):
    found = case.room.forecast(case.plan)
    today, staying, under = slow_forecast(case)
    assert found.today.profit == pytest.approx(today, rel=1e-9, abs=1e-6)
    assert found.bridge[0].amount == pytest.approx(staying - today, rel=1e-9, abs=1e-6)
    assert found.planned.profit == pytest.approx(under, rel=1e-9, abs=1e-6)
    assert sum(step.amount for step in found.bridge) == pytest.approx(found.impact, rel=1e-9, abs=1e-6)
    assert case.room.impact(case.plan) == pytest.approx(found.impact, rel=1e-9, abs=1e-6)
    for rods in found.rods.values():
        assert sum(rod.change for rod in rods) == pytest.approx(found.impact, rel=1e-9, abs=1e-6)


@given(running())
def test_a_plan_that_keeps_all_and_adds_nothing_changes_nothing(case):
    plan = replace(case.plan, offers=case.plan.running, dropped=())
    found = case.room.forecast(plan)
    assert found.impact == 0
    assert (found.planned.ledger == found.today.ledger).all()
    assert {step.amount for step in found.bridge} == {0}
    sure = range_of(case.room, plan)
    assert (sure.low, sure.high, sure.luck, round(sure.sampled, 9)) == (0, 0, 0, 0)


@settings(max_examples=40)
@given(running())
def test_what_was_found_of_other_plans_changes_nothing(case):
    room, plan = case.room, case.plan
    for other in (replace(plan, dropped=(), running=()), replace(plan, offers=plan.running), plan.today, plan):
        found = room.forecast(other)
        assert found.planned.profit == pytest.approx(case.room.forecast(other).planned.profit, rel=1e-9, abs=1e-6)
        assert found.today.profit == pytest.approx(case.room.forecast(other).today.profit, rel=1e-9, abs=1e-6)


@settings(max_examples=40)
@given(running())
def test_the_working_adds_up(case):
    working = Working(case.room, case.plan)
    open_keys, seen = list(working.top), set()
    while open_keys:
        figure = working.figure(open_keys.pop())
        if figure.key in seen:
            continue
        seen.add(figure.key)
        parts = [(sign, working.figure(key)) for sign, key in figure.parts]
        if parts:
            assert sum(sign * part.value for sign, part in parts) == pytest.approx(figure.value, rel=1e-9, abs=1e-6)
        open_keys += [part.key for _, part in parts]
