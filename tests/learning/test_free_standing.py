"""Top-ups to the value from which the shop's own delivery is free, in made-up years whose truth is known."""

from dataclasses import replace

import numpy as np
import pytest

from tests.learning.made_shops import DAYS, FIRST_DAY, SHOP, Truth, from_spend, made_shop
from yellow_abacus.core.delivery.charges import FlatCharge
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.offers import DeliveryLoweredTo
from yellow_abacus.learning.free_spells import FreeSpell
from yellow_abacus.learning.free_standing import FreeStanding, free_standing
from yellow_abacus.learning.ran import Past, all_ran

ALL_YEAR = from_spend(0, DAYS)
FREE_FROM = ALL_YEAR.earned.conditions[0].n
POST = Option("post", FlatCharge(490), free_from=FREE_FROM)
BEGINS = FIRST_DAY.toordinal()


def past_of(seed: int, top_up: float, orders: int = 12_000) -> Past:
    """A year in which delivery was free from a value, and so many of those just short of it topped up to it."""
    made = made_shop(np.random.default_rng(seed), orders, ALL_YEAR, Truth(extra=0.0, borrowed=0.0, top_up=top_up))
    return replace(made.past, shop=replace(SHOP, zones=(Zone("home", (POST,)),)))


def only(past: Past, ran=(), spells=()) -> FreeStanding:
    (found,) = free_standing(past, ran, spells)
    return found


def test_who_tops_up_to_free_delivery_is_told_with_how_far():
    held = near = 0
    for seed in range(10):
        found = only(past_of(seed, 0.4))
        assert (found.zones, found.free_from) == ((0,), FREE_FROM)
        assert found.top_ups
        held += found.top_ups.share.low <= 0.4 <= found.top_ups.share.high
        near += abs(found.top_ups.share.likely - 0.4) <= 0.1
    assert held >= 8
    assert near >= 6


def test_where_nobody_tops_up_none_is_in_the_range():
    nothing = [only(past_of(seed, 0.0)).top_ups for seed in range(6)]
    assert sum(one is not None and one.share.low <= 0 <= one.share.high for one in nothing) >= 5


def test_orders_and_days_are_those_nothing_else_held_on():
    past = past_of(1, 0.0)
    whole = only(past)
    assert whole.days == DAYS
    assert whole.orders == int((past.batch.worth_by_cart >= FREE_FROM).sum())
    month = from_spend(30, 31)
    lowered = all_ran(past, [replace(month, gives=(DeliveryLoweredTo(0),))])
    assert only(past, lowered).days == DAYS - 31
    assert only(past, all_ran(past, [month])).days == DAYS
    spell = FreeSpell((0,), 2_000, FREE_FROM, BEGINS + 100, BEGINS + 109, 50)
    assert only(past, spells=[spell]).days == DAYS - 10
    assert only(past, spells=[replace(spell, zones=(1,))]).days == DAYS


def test_what_came_off_counts_where_delivery_goes_by_what_is_paid():
    past = past_of(1, 0.0)
    off = np.full(past.batch.axes.carts, 100.0)
    paid = replace(past, off_by_cart=off)
    assert only(paid).orders == int((past.batch.worth_by_cart >= FREE_FROM + 100).sum())
    standing = replace(paid.shop.settings, delivery_from="standing")
    assert only(replace(paid, shop=replace(paid.shop, settings=standing))).orders == only(past).orders


@pytest.mark.parametrize("zones", [(Zone("home", ()),), (Zone("home", (replace(POST, free_from=None),)),)])
def test_delivery_that_is_never_free_tells_nothing(zones):
    past = past_of(1, 0.0, orders=500)
    assert list(free_standing(replace(past, shop=replace(SHOP, zones=zones)), [], [])) == []


def test_a_value_that_hardly_any_order_comes_to_tells_nothing_of_top_ups():
    past = past_of(2, 0.0, orders=3_000)
    for value in (9_000, 20_000, 60_000):
        shop = replace(SHOP, zones=(Zone("home", (replace(POST, free_from=value),)),))
        assert only(replace(past, shop=shop)).top_ups is None or value == 9_000
