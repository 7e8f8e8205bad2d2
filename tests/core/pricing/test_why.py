"""Reasons: over generated carts against the slow pricer, and each one on a cart made for it."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow
from tests.core.single_carts import likeliest
from tests.worlds import PLAIN, World, make_world, plain_shop, worlds
from yellow_abacus.core.pricing.reasons import MEASURES, REASONS
from yellow_abacus.core.pricing.why import Why, why

many = settings(max_examples=90)


def whys(world: World, apply: str = "best", held: np.ndarray | None = None) -> list[Why]:
    rows, priced = likeliest(world.shop, world.batch, world.offers, apply, held)
    return why(world.shop, rows, world.offers, priced, apply, held=held)


def effective(world: World, cart: slow.SlowCart, apply: str, there: list[int] | None = None) -> list[int]:
    return slow.price(world.slow_shop, cart, world.slow_offers, apply, there).effective()


def beside(world: World, at: int, cart: slow.SlowCart, there: list[int]) -> list[int]:
    """Of the offers that are there, those that do not keep this one out, as the slow pricer sees it."""
    found = [
        other
        for other in there
        if slow.takes_part(world.slow_offers[other], cart)
        and (other == at or not slow.conflict(world.slow_shop, world.slow_offers, at, other))
    ]
    codes = {world.slow_offers[other]["code"].casefold() for other in found} - {""}
    own = world.slow_offers[at]["code"].casefold()
    if own and len(codes) > world.slow_shop.codes_per_order:
        found = [other for other in found if world.slow_offers[other]["code"].casefold() in ("", own)]
    return found


@many
@given(worlds(most_carts=5), st.data())
def test_applied_gates_and_shut_out_are_what_the_slow_pricer_says(world, data):
    codes = sorted({offer["code"].casefold() for offer in world.slow_offers})
    own = [data.draw(st.sets(st.sampled_from(codes))) if codes else set() for _ in world.slow_carts]
    held = np.array(
        [[not offer["code"] or offer["code"].casefold() in mine for mine in own] for offer in world.slow_offers],
        dtype=np.bool_,
    ).reshape(len(world.slow_offers), len(own))
    for apply in ("best", "first"):
        found = whys(world, apply, held)
        for number, cart in enumerate(world.slow_carts):
            there = [at for at in range(len(world.offers)) if held[at, number]]
            here = effective(world, cart, apply, there)
            for at, told in enumerate(found):
                reason = REASONS[told.reason[number]]
                passes = slow.takes_part(world.slow_offers[at], cart)
                alone = effective(world, cart, apply, beside(world, at, cart, there))
                assert (reason == "applied") == (at in here)
                if not held[at, number]:
                    assert reason == "no_code" or reason.startswith(("not_this", "wrong_hours"))
                    continue
                assert (reason == "shut_out") == (at not in here and at in alone)
                if at not in here:
                    assert reason.startswith(("not_this", "wrong_hours")) == (not passes) or reason == (
                        "not_this_destination"
                    )
                if told.shut_out_by[number] >= 0:
                    assert told.shut_out_by[number] in here


@many
@given(worlds(most_carts=5, most_offers=1))
def test_short_tells_by_how_much_and_that_much_more_of_it_is_enough(world):
    for at, told in enumerate(whys(world)):
        conditions = world.slow_offers[at]["conditions"]
        for number, cart in enumerate(world.slow_carts):
            if REASONS[told.reason[number]] != "short" or world.slow_offers[at]["counted"] != "pooled":
                continue
            lines = slow.make_lines(world.slow_shop, cart.units, cart.group)
            of, by = MEASURES[told.short_of[number]], told.short_by[number]
            sizes = [
                (slow.measured(world.slow_shop, one, lines, lines), one) for one in conditions if one["kind"] == of
            ]
            unmet = [(size, one) for size, one in sizes if not slow.reaches(one, size, one["n"])]
            if not slow.times_earned(world.slow_shop, world.slow_offers[at], lines, lines):
                size, one = unmet[0]
                assert slow.reaches(one, size + by, one["n"])
                assert not slow.reaches(one, size + by - 1, one["n"])
            else:
                assert of == "units"


GOODS = {
    "POT": slow.SlowGood(3000, None, 900.0, {"pots"}, 4000),
    "SEED": slow.SlowGood(300, None, 60.0, {"seeds"}, 10),
    "TOOL": slow.SlowGood(1500, None, 500.0, {"tools"}, 300),
}
SHOP = plain_shop(GOODS, far=(900,), home=(500, 5000))
TEN_PERCENT = {"kind": "percent_off", "percent_bp": 1000, "with_delivery": False}
SEEDS, POTS = {"categories": ["seeds"]}, {"categories": ["pots"]}
BUY_2_GET_1 = {
    "kind": "buy_get", "buy": 2, "get": 1, "of": SEEDS, "price": {"kind": "percent_off", "percent_bp": 10_000},
    "units_from": "cheapest",
}  # fmt: skip
SET = {
    "kind": "goods_set",
    "parts": [{"count": 1, "of": POTS}, {"count": 3, "of": SEEDS}],
    "price": {"kind": "set_price", "amount": 3500},
    "units_from": "dearest",
}
FREE_DELIVERY = {"kind": "delivery_lowered_to", "amount": 0, "zones": ["home"], "below_weight": 5000}


def spend(n: int, of: dict | None = None, bound: str = "at_least") -> dict:
    return {"kind": "spend", "n": n, "bound": bound, "of": of or {}}


@pytest.mark.parametrize(
    ("offer", "cart", "reason", "by"),
    [
        ({"gives": [TEN_PERCENT]}, {"SEED": 1}, "applied", 0),
        ({"gives": [TEN_PERCENT], "conditions": [spend(2000)]}, {"SEED": 2}, "short", 1400),
        ({"gives": [TEN_PERCENT], "conditions": [spend(600, bound="over")]}, {"SEED": 2}, "short", 1),
        ({"gives": [TEN_PERCENT], "conditions": [spend(500, bound="at_most")]}, {"SEED": 2}, "over", 0),
        ({"gives": [TEN_PERCENT], "conditions": [{"kind": "only", "of": POTS}]}, {"SEED": 2, "POT": 1}, "over", 0),
        ({"gives": [TEN_PERCENT], "on": POTS}, {"SEED": 2}, "nothing_in_scope", 0),
        ({"gives": [TEN_PERCENT], "on": POTS, "conditions": [spend(100)]}, {"SEED": 2}, "reward_not_in_cart", 0),
        ({"gives": [TEN_PERCENT], "conditions": [spend(100, POTS)]}, {"SEED": 2}, "nothing_in_scope", 0),
        ({"gives": [BUY_2_GET_1], "on": SEEDS}, {"SEED": 1, "POT": 1}, "short", 1),
        ({"gives": [BUY_2_GET_1], "on": SEEDS}, {"SEED": 2, "POT": 1}, "reward_not_in_cart", 0),
        ({"gives": [BUY_2_GET_1], "on": SEEDS}, {"POT": 1}, "nothing_in_scope", 0),
        ({"gives": [SET]}, {"SEED": 1, "POT": 1}, "short", 2),
        ({"gives": [SET]}, {"TOOL": 1}, "nothing_in_scope", 0),
        ({"gives": [FREE_DELIVERY]}, {"SEED": 1}, "applied", 0),
        ({"gives": [FREE_DELIVERY]}, {"POT": 2}, "over", 0),
        ({"gives": [FREE_DELIVERY | {"below_weight": None}]}, {"POT": 2}, "nothing_left", 0),
        ({"gives": [FREE_DELIVERY | {"zones": ["far"]}]}, {"SEED": 1}, "not_this_destination", 0),
        ({"gives": [TEN_PERCENT], "who": PLAIN["who"] | {"first_order": True}}, {"SEED": 1}, "not_this_shopper", 0),
        ({"gives": [TEN_PERCENT], "where": {"except_zones": ["home"]}}, {"SEED": 1}, "not_this_destination", 0),
        ({"gives": [TEN_PERCENT], "when": PLAIN["when"] | {"weekdays": [6]}}, {"SEED": 1}, "wrong_hours", 0),
    ],
)  # fmt: skip
def test_each_reason_on_a_cart_made_for_it(offer, cart, reason, by):
    units = [(sku, 0) for sku, many in cart.items() for _ in range(many)]
    (told,) = whys(make_world(SHOP, [slow.SlowCart(units, "home", before=3)], [PLAIN | offer]))
    assert (REASONS[told.reason[0]], told.short_by[0]) == (reason, by)


def test_without_the_code_comes_after_the_gates_and_before_the_goods():
    offers = [PLAIN | {"gives": [TEN_PERCENT], "code": "FERN", "on": POTS, "where": {"except_zones": ["far"]}}]
    carts = [slow.SlowCart([("SEED", 0)], zone) for zone in ("home", "far")]
    (told,) = whys(make_world(SHOP, carts, offers), held=np.zeros((1, 2), dtype=np.bool_))
    assert [REASONS[number] for number in told.reason] == ["no_code", "not_this_destination"]


def test_a_destination_that_is_not_served_comes_before_the_code():
    offers = [PLAIN | {"gives": [FREE_DELIVERY | {"zones": ["far"]}], "code": "FERN"}]
    world = make_world(SHOP, [slow.SlowCart([("SEED", 0)], "home")], offers)
    (told,) = whys(world, held=np.zeros((1, 1), dtype=np.bool_))
    assert REASONS[told.reason[0]] == "not_this_destination"


def test_an_offer_shut_out_names_the_one_that_did_it():
    offers = [
        PLAIN | {"gives": [TEN_PERCENT | {"percent_bp": 2000}]},
        PLAIN | {"gives": [TEN_PERCENT], "never_with": [0]},
        PLAIN | {"gives": [TEN_PERCENT], "yields_to": [0]},
    ]
    found = whys(make_world(SHOP, [slow.SlowCart([("SEED", 0)], "home")], offers))
    assert [REASONS[told.reason[0]] for told in found] == ["applied", "shut_out", "shut_out"]
    assert [int(told.shut_out_by[0]) for told in found] == [-1, 0, 0]


def test_a_code_nobody_holds_changes_no_reason():
    shop = plain_shop(GOODS, far=(900,), home=(500, 5000))
    shop.codes_per_order = 2
    offers = [
        PLAIN | {"gives": [TEN_PERCENT], "code": "FERN"},
        PLAIN | {"gives": [TEN_PERCENT], "code": "MOSS", "conditions": [spend(300)]},
        PLAIN | {"gives": [TEN_PERCENT], "code": "NOBODY"},
    ]
    cart = slow.SlowCart([("SEED", 0)], "home")
    for some in (offers[:2], offers):
        held = np.array([[True], [True], [False]])[: len(some)]
        told = whys(make_world(shop, [cart], some), held=held)[1]
        assert (REASONS[told.reason[0]], told.short_by[0]) == ("short", 30)
