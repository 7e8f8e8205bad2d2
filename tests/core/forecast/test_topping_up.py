"""Shoppers who add something, against carts made with it one by one and priced by the slow pricer."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow, slow_costs
from tests.core.forecast.test_forecast import COUNTED_DAYS, forecaster
from tests.worlds import PLAIN, World, make_world, plain_shop, worlds
from yellow_abacus.core.clauses.response import AlsoAt, Ranged
from yellow_abacus.core.forecast import trying
from yellow_abacus.core.forecast.adding import near, short_of
from yellow_abacus.core.forecast.mix import alike
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.ranges import draws_of, pert_ends, range_of
from yellow_abacus.core.ground.money import LARGEST_CART
from yellow_abacus.core.offers import Offer, PercentOff, Response

FIRST, LAST = date(2026, 3, 2), date(2026, 3, 8)
PRICES = {"A": 795, "B": 1250, "C": 2199, "D": 310}
GOODS = {sku: slow.SlowGood(price, None, price * 0.4, {"All"}, 200, sku) for sku, price in PRICES.items()}
SHOP = plain_shop(GOODS, home=(490, 6000, 450), far=(990, None, 900))

lines = st.dictionaries(st.sampled_from(list(PRICES)), st.integers(1, 4), min_size=1, max_size=3)
carts = st.lists(lines, min_size=1, max_size=6)


def cart_of(units: dict[str, int]) -> slow.SlowCart:
    return slow.SlowCart([(sku, PRICES[sku]) for sku, count in sorted(units.items()) for _ in range(count)], "home")


def world_of(found: list[dict[str, int]], offers: list[dict]) -> World:
    return make_world(SHOP, [cart_of(units) for units in found], offers)


def spend_offer(n: int, percent_bp: int, **more: object) -> dict:
    condition = {"kind": "spend", "n": n, "bound": "at_least", "of": {}}
    reward = {"kind": "percent_off", "percent_bp": percent_bp, "with_delivery": False}
    return {**PLAIN, "conditions": [condition], "gives": [reward], **more}


def kept(cart: slow.SlowCart, offers: list[dict]) -> tuple[float, int]:
    """What a cart keeps under the offers, and what the last one takes off its goods."""
    option = SHOP.zones["home"][0]
    found = slow.price(SHOP, cart, offers, "best", list(range(len(offers))), option)
    return float(sum(slow_costs.ledger(SHOP, found, cart).values())), found.goods_off.get(len(offers) - 1, 0)


def sold(found: list[dict[str, int]]) -> list[str]:
    return sorted(PRICES, key=lambda sku: (-sum(units.get(sku, 0) for units in found), sku))


def topped(found: list[dict[str, int]], units: dict[str, int], gap: int) -> dict[str, int]:
    """The cart with the least spend that closes the gap, of one SKU that sells; ties to what keeps more."""
    choices = [sku for sku in sold(found) if any(sku in one for one in found)]
    best = min(
        choices, key=lambda sku: (-(-gap // PRICES[sku]) * PRICES[sku], -PRICES[sku] * 0.6 * -(-gap // PRICES[sku]))
    )
    return {**units, best: units.get(best, 0) + -(-gap // PRICES[best])}


@settings(max_examples=50, deadline=None)
@given(
    carts, st.integers(500, 7000), st.integers(100, 3000), st.integers(1, 3000), st.booleans(), st.integers(0, 10_000)
)
def test_top_ups_are_carts_made_with_what_is_missing(found, n, percent_bp, reach, falls, share):
    """A threshold of spend, which those within reach of it top up to."""
    offer = spend_offer(n, percent_bp)
    world = world_of(found, [offer])
    told = Response(top_up_bp=share, top_up_reach=reach, top_up_falls=falls)
    plan = Plan(FIRST, LAST, (replace(world.offers[0], response=told),))
    expected = 0.0
    for units in found:
        worth = sum(PRICES[sku] * count for sku, count in units.items())
        as_is, _ = kept(cart_of(units), [offer])
        gap = n - worth
        chance = share / 10_000 * (max(0.0, 1 - gap / reach) if falls else 1.0) if 0 < gap <= reach else 0.0
        more = kept(cart_of(topped(found, units, gap)), [offer])[0] if chance else as_is
        expected += (1 - chance) * as_is + chance * more
    room = forecaster(world)
    result = room.forecast(plan)
    assert result.planned.profit == pytest.approx(expected * plan.days / COUNTED_DAYS, rel=1e-9, abs=1e-6)
    assert room.forecast(plan).planned.profit == result.planned.profit  # from what was kept
    changed = spend_offer(n, percent_bp + 7)
    again = replace(plan, offers=(replace(make_world(SHOP, [], [changed]).offers[0], response=told),))
    assert room.impact(again) == pytest.approx(forecaster(world).impact(again), rel=1e-9, abs=1e-6)


@settings(max_examples=40, deadline=None)
@given(carts, st.integers(1, 3), st.integers(1, 2), st.integers(0, 10_000), st.sampled_from(["once", "each_time"]))
def test_those_who_take_a_reward_add_what_is_missing_of_it(found, buy, get, share, repeat):
    """Buy so many of anything, get so many more free: who takes it adds the best seller."""
    free = {"kind": "percent_off", "percent_bp": 10_000, "with_delivery": False}
    reward = {"kind": "buy_get", "buy": buy, "get": get, "of": {}, "price": free, "units_from": "cheapest"}
    offer = {**PLAIN, "gives": [reward], "repeat": repeat}
    if repeat == "once":
        offer["conditions"] = [{"kind": "units", "n": buy, "bound": "at_least", "of": {}}]
    world = world_of(found, [offer])
    plan = Plan(FIRST, LAST, (replace(world.offers[0], response=Response(take_up_bp=share)),))
    expected = 0.0
    for units in found:
        bare, _ = kept(cart_of(units), [])
        as_is, had = kept(cart_of(units), [offer])
        count = sum(units.values())
        times = min(1, count // buy) if repeat == "once" else count // buy
        # Of the units there, those that do not earn may be given; the rest is added.
        missing = times * get - (count - times * buy)
        with_it = as_is
        if missing > 0:
            best = sold(found)[0]
            found_more, has = kept(cart_of({**units, best: units.get(best, 0) + missing}), [offer])
            with_it = found_more if has > had else as_is  # nobody adds what does not save them more
        expected += (1 - share / 10_000) * bare + share / 10_000 * with_it
    result = forecaster(world).forecast(plan)
    assert result.planned.profit == pytest.approx(expected * plan.days / COUNTED_DAYS, rel=1e-9, abs=1e-6)


def test_the_nearest_of_two_offers_is_topped_up_to():
    offers = [spend_offer(4000, 500), spend_offer(3500, 900)]
    found = [{"C": 1, "A": 1}]  # 29.94: short by 10.06 and by 5.06
    world = world_of(found, offers)
    told = Response(top_up_bp=10_000, top_up_reach=2000, top_up_falls=False)
    plan = Plan(FIRST, LAST, tuple(replace(one, response=told) for one in world.offers))
    expected, _ = kept(cart_of({"C": 1, "A": 2}), offers)  # one A more, 37.89, reaches 35.00 alone
    assert forecaster(world).forecast(plan).planned.profit == pytest.approx(expected * plan.days / COUNTED_DAYS)


def test_shares_follow_what_an_offer_gives():
    world = world_of([{"C": 3}], [spend_offer(3000, 1000)])

    def more(percent_bp: int, depth_bp: int | None) -> float:
        offer = make_world(SHOP, [], [spend_offer(3000, percent_bp)]).offers[0]
        told = Response(extra_bp=2000, depth_bp=depth_bp)
        found = forecaster(world).forecast(Plan(FIRST, LAST, (replace(offer, response=told),)))
        return found.offers[0].extra_orders / found.offers[0].reached

    assert more(1000, None) == pytest.approx(0.2)
    assert more(1000, 1000) == pytest.approx(0.2, rel=1e-3)
    assert more(1500, 1000) == pytest.approx(0.3, rel=1e-3)
    assert more(3000, 1000) == pytest.approx(0.4)


def test_what_was_said_at_several_depths_is_joined_by_lines():
    world = world_of([{"C": 3}], [spend_offer(3000, 1000)])
    also = (AlsoAt("extra_bp", 2000, 2400), AlsoAt("extra_bp", 4000, 1400))

    def more(percent_bp: int, first: int | None = None) -> float:
        offer = make_world(SHOP, [], [spend_offer(3000, percent_bp)]).offers[0]
        told = Response(extra_bp=2000, extra_first_bp=first, depth_bp=1000, also_at=also)
        assert not list(told.problems())
        found = forecaster(world).forecast(Plan(FIRST, LAST, (replace(offer, response=told),)))
        return found.offers[0].extra_orders / found.offers[0].reached

    assert more(500) == pytest.approx(0.1, rel=1e-3)
    assert more(1500) == pytest.approx(0.22, rel=1e-3)
    assert more(3000) == pytest.approx(0.19, rel=1e-3)
    assert more(5000) == pytest.approx(0.14, rel=1e-3)


@pytest.mark.parametrize(
    ("also", "response"),
    [
        ((AlsoAt("extra_bp", 2000, 900),), {"extra_bp": 500}),  # said at no depth
        ((AlsoAt("top_up_bp", 2000, 900),), {"extra_bp": 500, "depth_bp": 1000}),  # not said
        ((AlsoAt("extra_bp", 1000, 900),), {"extra_bp": 500, "depth_bp": 1000}),  # said twice
        (tuple(AlsoAt("extra_bp", at, 900) for at in (2000, 3000, 4000)), {"extra_bp": 500, "depth_bp": 1000}),
        ((AlsoAt("extra_bp", 0, 900),), {"extra_bp": 500, "depth_bp": 1000}),
        ((AlsoAt("extra_bp", 2000, 90_000),), {"extra_bp": 500, "depth_bp": 1000}),
    ],
)
def test_depths_that_make_no_sense_are_told(also, response):
    (problem,) = Response(**response, also_at=also).problems()
    assert problem.path[:2] == ("also_at", len(also) - 1)


def test_with_all_ranges_closed_and_luck_off_draws_are_the_likely_figure():
    world = world_of([{"C": 2}, {"A": 1, "B": 2}, {"D": 4}], [spend_offer(2500, 1200, code="FERN")])
    told = Response(uptake_bp=4000, extra_bp=3000, ranges=(Ranged("uptake_bp", 4000, 4000),))
    plan = Plan(FIRST, LAST, (replace(world.offers[0], response=told),))
    room = forecaster(world)
    found = range_of(room, plan)
    assert found.likely == pytest.approx(room.impact(plan))
    assert found.low < found.likely < found.high  # by luck alone
    assert found.middle == pytest.approx(found.likely, abs=0.05 * found.luck)
    assert found.swings == ()
    wide = replace(told, ranges=(Ranged("extra_bp", 500, 9000), Ranged("uptake_bp", 3000, 6000)))
    wider = range_of(room, replace(plan, offers=(replace(plan.offers[0], response=wide),)))
    assert wider.high - wider.low > found.high - found.low
    sizes = [one.size for one in wider.swings]
    assert sizes == sorted(sizes, reverse=True)
    assert {one.figure for one in wider.swings} == {"extra_bp", "uptake_bp"}


@given(st.floats(0, 1), st.floats(0.01, 1), st.floats(0, 1))
def test_a_tenth_of_draws_lies_beyond_the_low_and_the_high(low, width, where):
    high, likely = low + width, low + width * where
    start, end = pert_ends(low, likely, high)
    assert start <= likely <= end
    drawn = draws_of("any", low, likely, high, np.inf)
    inside = drawn[drawn > 0]
    if len(inside) == len(drawn):
        assert (drawn < low).mean() == pytest.approx(0.05, abs=0.002)
    assert (drawn > high).mean() == pytest.approx(0.05, abs=0.002)


def otherwise(offer: Offer, percent_bp: int) -> Offer:
    """The offer with another percentage off wherever it takes one."""

    def changed(gives):
        return tuple(replace(one, percent_bp=percent_bp) if isinstance(one, PercentOff) else one for one in gives)

    steps = tuple(replace(step, gives=changed(step.gives)) for step in offer.steps)
    return replace(offer, gives=changed(offer.gives), steps=steps)


@settings(max_examples=90, deadline=None)
@given(worlds(), st.integers(1, 10_000), st.integers(1, 5_000))
def test_who_is_near_an_offer_does_not_depend_on_how_much_comes_off(world, percent_bp, reach):
    """What is found of it is kept by `earning_part`."""
    mix, offers = alike(world.shop, world.batch), world.offers
    for at, offer in enumerate(offers):
        told = replace(offer, response=Response(top_up_bp=1_000, top_up_reach=reach))
        other = otherwise(told, percent_bp)
        assert other.earning_part == told.earning_part
        shorts = [
            short_of(world.shop, mix.batch, (*offers[:at], one, *offers[at + 1 :]), at, reach)
            for one in (told, other)
        ]
        both = [near(mix, one, short) for one, short in zip((told, other), shorts, strict=True)]
        for name in ("cart", "gap", "sku", "units", "spend"):
            np.testing.assert_array_equal(getattr(both[0], name), getattr(both[1], name))


def test_nobody_adds_more_than_a_cart_can_be_worth():
    """A threshold of all that sums carry; and goods free as often as there are any, of which none can be missing."""
    free = {"kind": "percent_off", "percent_bp": 10_000, "with_delivery": False}
    endless = {"kind": "buy_get", "buy": 0, "get": 1, "of": {}, "price": free, "units_from": "cheapest"}
    offers = [spend_offer(LARGEST_CART, 1000), {**PLAIN, "gives": [endless], "repeat": "each_time"}]
    responses = [Response(top_up_bp=10_000, top_up_reach=LARGEST_CART), Response(take_up_bp=4_000)]
    for offer, response in zip(offers, responses, strict=True):
        world = world_of([{"A": 1}, {"C": 2}], [offer])
        found = forecaster(world).forecast(Plan(FIRST, LAST, (replace(world.offers[0], response=response),)))
        assert found.planned.units == pytest.approx(found.today.units)


def test_a_threshold_or_goods_otherwise_are_earned_otherwise():
    world = world_of(
        [{"A": 1}], [spend_offer(1000, 500), spend_offer(1001, 500), spend_offer(1000, 500, on={"skus": ["A"]})]
    )
    first, higher, some = (replace(one, id="") for one in world.offers)
    assert len({first.earning_part, higher.earning_part, some.earning_part}) == 3
    assert otherwise(first, 700).earning_part is first.earning_part


def test_what_came_to_nothing_is_tried_with_one_more_at_once_the_next_time(monkeypatch):
    # A tenth comes off what is added too: what a cart lacks at standing prices does not bring it to the second offer.
    found = [{"D": at % 9 + 1} for at in range(12)]
    world = world_of(found, [spend_offer(1, 1000), spend_offer(2000, 500)])
    tenth, further = world.offers
    told = Response(top_up_bp=10_000, top_up_reach=1500, top_up_skus=("D",))

    def plan(percent_bp: int) -> Plan:
        return Plan(FIRST, LAST, (tenth, replace(further, gives=(PercentOff(percent_bp),), response=told)))

    walks, costed_rows = [], trying.costed_rows
    monkeypatch.setattr(trying, "costed_rows", lambda *told: walks.append(1) or costed_rows(*told))
    room = forecaster(world)
    room.forecast(plan(500))
    assert len(walks) == 2
    impact = room.forecast(plan(600)).impact
    assert len(walks) == 3
    assert impact == pytest.approx(forecaster(world).impact(plan(600)))
