"""Goods that sell out, against a plain walk through the days with the slow pricer."""

from collections import Counter
from dataclasses import dataclass, field, replace
from datetime import date

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow, slow_costs
from tests.core.forecast.test_forecast import COUNTED_DAYS, FIRST, forecaster, open_then, orders_of, planned, ways_of
from tests.worlds import PLAIN, World, make_world, plain_shop
from yellow_abacus.core.forecast.over_time import over_time
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.ranges import impacts_of
from yellow_abacus.core.forecast.selling_out import MOST_SOLD_OUT
from yellow_abacus.core.forecast.working import Working
from yellow_abacus.core.goods.making_goods import table_of
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.offers import PutIn, Response

Kits = dict[str, dict[str, int]]


def stocked(world: World, stock: dict[str, float], kits: Kits | None = None) -> World:
    """The world with so many units of some goods; of the others nobody counts them. kits: the parts of each."""
    skus, parts = world.batch.goods.skus, kits or {}
    made = {sku: [stock[part] // units for part, units in of.items() if part in stock] for sku, of in parts.items()}
    counted = stock | {sku: min(many) for sku, many in made.items() if many}
    records = [GoodRecord(sku, kit=tuple(parts.get(sku, {}).items())) for sku in skus]
    goods = replace(
        world.batch.goods,
        stock=np.array([counted.get(sku, np.nan) for sku in skus]),
        kits=table_of(records).kit_parts,
    )
    return replace(world, batch=replace(world.batch, goods=goods))


@st.composite
def selling_out(draw: st.DrawFn) -> tuple[World, Plan, dict[str, float], Kits]:
    world, plan = draw(planned())
    here = [at for at, one in enumerate(plan.offers) if not any(isinstance(r, PutIn) for r in one.rewards())]
    world = make_world(world.slow_shop, world.slow_carts, [world.slow_offers[at] for at in here])
    extra = st.sampled_from([0, 5_000, 20_000])
    told = [
        replace(made, when=plan.offers[at].when, response=Response(extra_bp=draw(extra)))
        for made, at in zip(world.offers, here, strict=True)
    ]
    goods = list(world.slow_shop.goods)
    kit, *parts = draw(st.lists(st.sampled_from(goods), unique=True, max_size=3)) or [None]
    kits = {kit: {part: draw(st.integers(1, 2)) for part in parts}} if parts else {}
    skus = draw(st.lists(st.sampled_from(goods), unique=True))
    stock = {sku: float(draw(st.integers(0, 3))) for sku in skus if kits.get(sku, {}).keys().isdisjoint(skus)}
    lost = draw(st.sampled_from([0, 3_000, 10_000]))
    return world, replace(plan, offers=tuple(told), lost_if_sold_out_bp=lost), stock, kits


@dataclass
class Walk:
    """A slow walk through the days, kits taken from the stock of their parts where that is counted.

    used, ends: by SKU, what is gone of it, and when it ended.
    """

    world: World
    plan: Plan
    stock: dict[str, float]
    kits: Kits
    kept: float = 0.0
    orders: float = 0.0
    used: Counter = field(default_factory=Counter)
    ends: dict[str, float] = field(default_factory=dict)

    def run(self, there: bool) -> "Walk":
        """there: whether the plan's offers are."""
        for number in range(self.plan.days):
            day, gone = date.fromordinal(FIRST.toordinal() + number), 0.0
            while gone < 1 - 1e-12:
                kept, orders, units = self.one_day(day, there)
                left = {
                    sku: max(self.stock[sku] - self.used[sku], 0.0) / units[sku]
                    for sku in self.stock
                    if sku not in self.ends and units[sku] > 0
                }
                part = min([1 - gone, *left.values()])
                self.kept += kept * part
                self.orders += orders * part
                gone += part
                for sku, each in units.items():
                    self.used[sku] += each * part
                self.ends |= {
                    sku: day.toordinal() + gone for sku, until in left.items() if until <= part * (1 + 1e-9)
                }
        return self

    def one_day(self, day: date, there: bool) -> tuple[float, float, Counter]:
        """What a whole day keeps, its orders, and the units they take."""
        shop, kept, orders, units = slow.on_day(self.world.slow_shop, day), 0.0, 0.0, Counter()
        for cart in self.world.slow_carts:
            come = orders_of(self.world, cart, day)
            left = [one for one in cart.units if not any(sku in self.ends for sku in self.taken(one[0]))]
            if len(left) < len(cart.units):
                come *= 1 - self.plan.lost_if_sold_out_bp / 10_000 if left else 0
            open_now = [
                at for at, one in enumerate(self.plan.offers) if there and open_then(one.when, day, cart.minute)
            ]
            for chance, carried, option in ways_of(replace(self.world, slow_carts=[replace(cart, units=left)]), shop):
                found = slow.price(shop, carried, self.world.slow_offers, self.plan.apply, open_now, option)
                extra = sum(self.plan.offers[at].response.extra_bp / 10_000 for at in found.effective())
                many = come * chance * (1 + extra)
                kept += many * float(sum(slow_costs.ledger(shop, found, carried).values()))
                orders += many
                for sku, _ in left:
                    for part, each in self.taken(sku).items():
                        units[part] += many * each
        return kept, orders, units

    def taken(self, sku: str) -> dict[str, int]:
        parts = self.kits.get(sku, {})
        return {sku: 1} if parts.keys().isdisjoint(self.stock) else parts


@settings(max_examples=90, deadline=None)
@given(selling_out())
def test_a_slow_walk_keeps_the_same_and_runs_out_on_the_same_days(case):
    world, plan, stock, kits = case
    room = forecaster(stocked(world, stock, kits))
    found, needs = room.forecast(plan), over_time(room, plan).needs
    today, planned = (Walk(world, plan, stock, kits).run(there) for there in (False, True))
    assert found.today.profit == pytest.approx(today.kept, rel=1e-9, abs=1e-6)
    assert found.today.orders == pytest.approx(today.orders, rel=1e-9, abs=1e-9)
    assert found.planned.profit == pytest.approx(planned.kept, rel=1e-9, abs=1e-6)
    assert found.planned.orders == pytest.approx(planned.orders, rel=1e-9, abs=1e-9)
    skus = world.batch.goods.skus
    ends = {skus[one.limit.sku]: one.day for one in found.ends}
    just = {skus[one.sku] for one in needs if one.plan == pytest.approx(one.stock)}
    for sku, at in planned.ends.items():
        day = max(int(np.ceil(at - 1e-9) - 1), FIRST.toordinal())
        assert ends.pop(sku, day if sku in just else None) == day
    assert not ends
    assert sum(step.amount for step in found.bridge) == pytest.approx(found.impact, rel=1e-9, abs=1e-6)


@settings(max_examples=40, deadline=None)
@given(selling_out())
def test_days_and_the_working_add_up_to_what_is_kept(case):
    world, plan, stock, kits = case
    room = forecaster(stocked(world, stock, kits))
    found, days = room.forecast(plan), over_time(room, plan).days
    assert sum(one.kept for one in days) == pytest.approx(found.planned.profit, rel=1e-9, abs=1e-6)
    assert sum(one.kept_today for one in days) == pytest.approx(found.today.profit, rel=1e-9, abs=1e-6)
    working = Working(room, plan)
    for step in found.bridge:
        figure = working.figure(f"bridge/{step.key}")
        assert figure.value == pytest.approx(step.amount, abs=1e-6)
        assert sum(sign * working.figure(key).value for sign, key in figure.parts) == pytest.approx(
            figure.value, abs=1e-6
        )


@settings(max_examples=40, deadline=None)
@given(selling_out())
def test_where_there_is_enough_nothing_changes(case):
    world, plan, stock, kits = case
    room = forecaster(stocked(world, dict.fromkeys(stock, 1e9), kits))
    found, enough = room.forecast(plan), room.forecast(plan.as_if_enough)
    assert found.planned.profit == enough.planned.profit
    assert found.bridge == enough.bridge
    assert found.ends == ()


PRICES = {"A": 1000, "B": 400}
GOODS = {sku: slow.SlowGood(price, None, price // 2, {"All"}, 100, sku) for sku, price in PRICES.items()}
OFF = {"kind": "percent_off", "percent_bp": 1000, "with_delivery": False}


def shop_of(
    *carts: str, gives: list[dict] | None = None, conditions: list[dict] | None = None, stock: dict[str, float]
) -> World:
    """Carts of these goods, one an order, delivery free and at no cost."""
    units = [slow.SlowCart([(sku, PRICES[sku]) for sku in cart], "home") for cart in carts]
    offer = {**PLAIN, "gives": gives or [OFF], "conditions": conditions or []}
    shop = plain_shop(GOODS, home=(0,), far=(0,))
    return stocked(make_world(shop, units, [offer]), stock)


def plan_of(world: World, lost: int | None, **response: int) -> Plan:
    offer = replace(world.offers[0], response=Response(**response))
    return Plan(date(2026, 3, 1), date(2026, 3, 30), (offer,), lost_if_sold_out_bp=lost)


def test_a_good_that_sells_out_only_because_another_did_sells_out_too():
    """On paper: nothing of A is there, so every order has B alone. That is at most one unit, which an offer is for
    that brings two more such orders: 90 units of B are needed, not 30, and 45 of them are there on day 15."""
    at_most_one = {"kind": "units", "n": 1, "bound": "at_most", "of": {}}
    world = shop_of(*["AB"] * COUNTED_DAYS, conditions=[at_most_one], stock={"A": 0, "B": 45})
    found = forecaster(world).forecast(plan_of(world, 0, extra_bp=20_000))
    assert [(end.limit.sku, end.day) for end in found.ends] == [
        (0, date(2026, 3, 1).toordinal()),
        (1, date(2026, 3, 15).toordinal()),
    ]
    assert found.planned.orders == pytest.approx(45)


def test_what_is_sold_out_takes_the_line_along_or_the_order():
    """On paper: over 30 days 30 orders of A and B come. 15 of A are there: from day 16 on, orders have B alone; three
    in ten of them are not placed."""
    world = shop_of(*["AB"] * COUNTED_DAYS, stock={"A": 15})
    found = forecaster(world).forecast(plan_of(world, 3_000))
    (end,) = found.ends
    assert end.day == date(2026, 3, 15).toordinal()
    assert found.planned.orders == pytest.approx(15 + 15 * 0.7)
    assert found.planned.profit == pytest.approx(15 * (1260 - 700) + 15 * 0.7 * (360 - 200))
    assert found.today.profit == pytest.approx(15 * 700 + 15 * 0.7 * 200)


def test_what_a_plan_sells_earlier_is_lost_later():
    """Twice the orders: what is there is gone in half the time, and as much of A is sold as today. The bridge tells
    what is lost as a step of its own, and what is given away as if there were enough."""
    world = shop_of(*["A"] * COUNTED_DAYS, stock={"A": 15})
    plan = plan_of(world, 3_000, extra_bp=10_000)
    found = forecaster(world).forecast(plan)
    assert found.impact == pytest.approx(-15 * 100)
    steps = {one.key: one.amount for one in found.bridge}
    assert steps["given_away"] == pytest.approx(-30 * 100)
    assert steps["sold_out"] == pytest.approx((7.5 - 30) * 400 - (15 - 30) * 500)
    assert steps["more_orders"] == pytest.approx(7.5 * 400)


def test_what_is_put_in_and_what_is_bought_come_from_one_stock():
    """A cart of A gets B put in: two orders a day, of A and of B, take two of B; on day 8 all 15 are gone, whatever
    becomes of orders that miss it."""
    gift = {"kind": "put_in", "skus": ["B"], "quantity": 1, "amount": 0}
    holds_a = {"kind": "products", "n": 1, "bound": "at_least", "of": {"products": ["A"]}}
    world = shop_of(*["A", "B"] * COUNTED_DAYS, gives=[gift], stock={"B": 15})
    condition = {**PLAIN, "gives": [gift], "conditions": [holds_a]}
    world = stocked(make_world(world.slow_shop, world.slow_carts, [condition]), {"B": 15})
    for lost in (None, 0):
        (end,) = forecaster(world).forecast(plan_of(world, lost)).ends
        assert (end.day, end.used) == (date(2026, 3, 8).toordinal(), 15)


def test_a_kit_that_is_put_in_takes_what_it_is_made_of():
    """A kit of three of B for each A, and an order of B a day: four of B a day, so 42 are gone on day 11."""
    gift = {"kind": "put_in", "skus": ["KIT"], "quantity": 1, "amount": 0}
    holds_a = {"kind": "products", "n": 1, "bound": "at_least", "of": {"products": ["A"]}}
    goods = GOODS | {"KIT": slow.SlowGood(1200, None, 600, {"All"}, 300, "KIT")}
    carts = [slow.SlowCart([(sku, PRICES[sku])], "home") for sku in ["A", "B"] * COUNTED_DAYS]
    world = make_world(
        plain_shop(goods, home=(0,), far=(0,)), carts, [{**PLAIN, "gives": [gift], "conditions": [holds_a]}]
    )
    world = stocked(world, {"B": 42}, {"KIT": {"B": 3}})
    plan = plan_of(world, None)
    found, needs = forecaster(world).forecast(plan), over_time(forecaster(world), plan).needs
    (end,) = found.ends
    assert (world.batch.goods.skus[end.limit.sku], end.day) == ("B", date(2026, 3, 11).toordinal())
    assert sum(offer.uses for offer in found.offers) == pytest.approx(42 / 4)
    told = {world.batch.goods.skus[one.sku]: (one.stock, one.plan, one.ends) for one in needs}
    assert told == {
        "B": (42, pytest.approx(42 + 19.5), end.day),
        "KIT": (14, pytest.approx(10.5), end.day),
    }


def test_of_what_is_not_there_nothing_is_sold():
    world = shop_of(*["A", "B"] * COUNTED_DAYS, stock={"A": 0})
    found = forecaster(world).forecast(plan_of(world, 10_000))
    assert found.today.profit == pytest.approx(30 * 200)
    assert found.ends[0].day == date(2026, 3, 1).toordinal()


def test_every_draw_runs_out_on_its_own_day():
    """As many orders as usual, half and twice as many: 15 of A, then B alone."""
    world = shop_of(*["A"] * COUNTED_DAYS, stock={"A": 15})
    plan, room = plan_of(world, 0), forecaster(world)
    many = replace(room.drawn(plan), draws=3, orders=np.array([1.0, 0.5, 2.0]))
    assert room.impacts(plan, many).tolist() == pytest.approx([-1500.0] * 3)
    likely = impacts_of(room, plan, 10)
    assert likely.likely == pytest.approx(-1500.0)


def test_no_more_goods_are_told_apart_than_can_be():
    skus = "ABCDEFGHIJKLM"
    goods = {sku: slow.SlowGood(1000, None, 500, {"All"}, 100, sku) for sku in skus}
    carts = [slow.SlowCart([(sku, 1000)], "home") for sku in skus]
    world = make_world(plain_shop(goods, home=(0,), far=(0,)), carts, [{**PLAIN, "gives": [OFF]}])
    world = stocked(world, {sku: 0.1 + at / 100 for at, sku in enumerate(skus)})
    room = forecaster(world)
    found = room.may_sell_out(plan_of(world, 0))
    assert [world.batch.goods.skus[sku] for sku in found] == list(skus[:MOST_SOLD_OUT])


def test_what_shoppers_add_is_needed_and_runs_out_too():
    """Orders of A top up with B until its 5 are gone, and with nothing from then on."""
    holds = {"kind": "spend", "n": 1200, "bound": "at_least", "of": {}}
    world = shop_of(*["A"] * COUNTED_DAYS, stock={"B": 5})
    world = stocked(
        make_world(world.slow_shop, world.slow_carts, [{**PLAIN, "gives": [OFF], "conditions": [holds]}]), {"B": 5}
    )
    told = {"top_up_bp": 5_000, "top_up_reach": 500, "top_up_falls": False, "top_up_skus": ("B",)}
    room = forecaster(world)
    as_if_enough, found = (room.forecast(plan_of(world, lost, **told)) for lost in (None, 0))
    (need,) = over_time(room, plan_of(world, None, **told)).needs
    assert (need.today, need.plan) == (0, pytest.approx(15))
    assert as_if_enough.planned.units == pytest.approx(30 + 15)
    assert found.planned.units == pytest.approx(30 + 5)
    assert found.ends[0].day == date(2026, 3, 10).toordinal()
    assert sum(step.amount for step in found.bridge) == pytest.approx(found.impact)
