"""Shoppers who go by another option because an offer frees it, against carts priced both ways by the slow pricer."""

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow, slow_costs
from tests.core.forecast.test_forecast import COUNTED_DAYS, forecaster
from tests.worlds import PLAIN, make_world, simple_zone
from yellow_abacus.core.clauses.response import Ranged
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.ranges import range_of
from yellow_abacus.core.offers import Response

FIRST, LAST = date(2026, 3, 2), date(2026, 3, 8)
PRICES = {"A": 795, "B": 1250, "C": 2199}
GOODS = {sku: slow.SlowGood(price, None, price * 0.4, {"All"}, 200, sku) for sku, price in PRICES.items()}
NAMES = ("Post", "Courier", "Locker")

options = st.lists(
    st.tuples(st.sampled_from([0, 290, 490, 990]), st.sampled_from([None, 3000]), st.integers(1, 9)),
    min_size=1,
    max_size=3,
)
some_names = st.lists(st.sampled_from(NAMES), max_size=2, unique=True)
carts = st.lists(
    st.tuples(st.lists(st.sampled_from(list(PRICES)), min_size=1, max_size=4), st.sampled_from(["", *NAMES])),
    min_size=1,
    max_size=5,
)


def shop_of(told: list[tuple[int, int | None, int]]) -> slow.SlowShop:
    """A zone of some options: what each asks, free from what value, and how many choose it; each costs more."""
    found, tariffs = [], []
    for at, (name, (charge, free_from, share)) in enumerate(zip(NAMES, told, strict=False)):
        (option,), (tariff,) = simple_zone(charge, free_from, 300 + 150 * at)
        found.append(option | {"name": name, "share_bp": share * 1000})
        tariffs.append(tariff)
    return slow.SlowShop(GOODS, {"home": found, "far": []}, tariffs=tariffs)


def freeing(names: list[str], n: int, **more: object) -> dict:
    condition = {"kind": "spend", "n": n, "bound": "at_least", "of": {}}
    reward = {"kind": "delivery_lowered_to", "amount": 0, "zones": [], "below_weight": None, "options": names}
    return {**PLAIN, "conditions": [condition], "gives": [reward], **more}


def cart_of(told: tuple[list[str], str]) -> slow.SlowCart:
    return slow.SlowCart([(sku, PRICES[sku]) for sku in told[0]], "home", option=told[1])


def kept_where(shop: slow.SlowShop, cart: slow.SlowCart, offers: list[dict], share: dict[int, float]) -> float:
    """What a cart keeps where such a share of those who pay for another option go by one that an offer frees."""

    def go(option: dict | None) -> tuple[slow.SlowPriced, float]:
        priced = slow.price(shop, cart, offers, option=option)
        return priced, float(sum(slow_costs.ledger(shop, priced, cart).values()))

    every = [option for _, option in slow_costs.options_of(shop, replace(cart, option=""))]
    to = None
    for at in share:
        freed = [o for o in every if go(o)[0].delivery_off.get(at, 0) > 0 and go(o)[0].charge == 0]
        charged = any(chance and go(o)[0].charge > 0 for chance, o in slow_costs.options_of(shop, cart))
        if to is None and freed and charged:
            to = at, freed[0]
    whole = 0.0
    for chance, option in slow_costs.options_of(shop, cart):
        priced, kept = go(option)
        moves = share[to[0]] if to is not None and priced.charge > 0 else 0.0
        whole += float(chance) * ((1 - moves) * kept + (moves * go(to[1])[1] if moves else 0.0))
    return whole


@settings(max_examples=70, deadline=None)
@given(options, carts, some_names, some_names, st.integers(500, 5000), st.integers(0, 10_000), st.integers(0, 10_000))
def test_those_who_move_are_carts_priced_the_freed_way(told, found, names, others, n, one, other):
    shop, offers = shop_of(told), [freeing(names, n), freeing(others, 2000)]
    world = make_world(shop, [cart_of(cart) for cart in found], offers)
    told_of = [replace(o, response=Response(shift_bp=bp)) for o, bp in zip(world.offers, (one, other), strict=True)]
    plan = Plan(FIRST, LAST, tuple(told_of))
    share = {0: one / 10_000, 1: other / 10_000}
    expected = sum(kept_where(shop, cart, offers, share) for cart in world.slow_carts)
    room = forecaster(world)
    result = room.forecast(plan)
    assert result.planned.profit == pytest.approx(expected * plan.days / COUNTED_DAYS, rel=1e-9, abs=1e-6)
    assert result.planned.orders == pytest.approx(result.today.orders)
    assert sum(step.amount for step in result.bridge) == pytest.approx(
        result.planned.profit - result.today.profit, abs=1e-6
    )


TWO = [(490, None, 5), (990, None, 5)]


def forecast_of(offer: dict, response: Response, shop: slow.SlowShop | None = None):
    world = make_world(shop or shop_of(TWO), [cart_of((["B", "C"], ""))], [offer])
    plan = Plan(FIRST, LAST, (replace(world.offers[0], response=response),))
    return forecaster(world), plan


def test_what_is_put_in_by_choice_goes_along():
    """Half take A and half B with it, by whichever option: both are weighed as where it is not chosen."""
    gift = {"kind": "put_in", "skus": ["A"], "quantity": 1, "amount": 0}
    free = freeing(["Post"], 1000)
    twins = {**GOODS, "A2": GOODS["A"]}
    shop = replace(shop_of(TWO), goods=twins)
    alone = freeing(["Post"], 1000) | {"gives": [*free["gives"], gift]}
    choice = alone | {"gives": [*free["gives"], gift | {"skus": ["A", "A2"]}]}
    (one, of_one), (two, of_two) = (forecast_of(offer, Response(shift_bp=4_000), shop) for offer in (alone, choice))
    assert one.impact(of_one) == pytest.approx(two.impact(of_two))


def test_it_has_a_range_and_a_break_even_and_none_move_unsaid():
    offer = freeing(["Post"], 1000)
    room, plan = forecast_of(offer, Response())
    assert "shift_bp" not in room.forecast(plan).offers[0].break_evens
    told = Response(shift_bp=3_000, ranges=(Ranged("shift_bp", 1_000, 6_000),))
    room, plan = forecast_of(offer, told)
    assert room.forecast(plan).offers[0].break_evens["shift_bp"].verdict != "no_matter"
    (swing,) = range_of(room, plan).swings
    ends = [room.impact(forecast_of(offer, Response(shift_bp=bp))[1]) for bp in (1_000, 6_000)]
    assert [swing.impact_at_low, swing.impact_at_high] == pytest.approx(ends)
