"""Reached is never too small: whatever the other offers, an offer takes effect on no cart outside it."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow
from tests.core.pricing.test_why import PLAIN, SHOP, TEN_PERCENT, spend
from tests.core.single_carts import assert_alike
from tests.worlds import make_world, worlds
from yellow_abacus.core.clauses.conditions import coarse
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.rows import rows_of

many = settings(max_examples=120)


@many
@given(worlds(), st.sampled_from(["best", "first"]))
def test_no_offer_takes_effect_outside_what_it_reaches(world, apply):
    rows = rows_of(world.shop, world.batch, world.offers)
    everywhere = price(world.shop, rows.apart(), world.offers, apply, traced=True)
    reaches = reached(world.offers, world.shop, world.batch)
    assert not (everywhere.took_effect & ~reaches[:, rows.cart_by_row]).any()
    assert_alike(price(world.shop, rows, world.offers, apply), everywhere)


@given(st.integers(1, 10**10))
def test_a_threshold_is_taken_to_be_lower_by_an_eighth_at_most(n):
    assert n * 7 / 8 < coarse(n) <= n
    assert coarse(coarse(n)) == coarse(n)


@pytest.mark.parametrize(
    ("offer", "carts"),
    [
        ({"gives": [TEN_PERCENT], "conditions": [spend(2000)]}, [False, False, True]),
        ({"gives": [TEN_PERCENT], "on": {"categories": ["seeds"]}}, [True, False, False]),
        ({"gives": [TEN_PERCENT], "conditions": [spend(2000, bound="at_most")]}, [True, True, True]),
        ({"gives": [TEN_PERCENT], "who": PLAIN["who"] | {"first_order": True}}, [False, False, False]),
    ],
)
def test_what_an_offer_reaches(offer, carts):
    told = [slow.SlowCart([(sku, 0)], "home", before=3) for sku in ("SEED", "TOOL", "POT")]
    world = make_world(SHOP, told, [PLAIN | offer])
    assert np.array_equal(reached(world.offers, world.shop, world.batch), [carts])
