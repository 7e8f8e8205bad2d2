"""Reached is never too small: whatever the other offers, an offer takes effect on no cart outside it."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow
from tests.core.pricing.test_why import PLAIN, POTS, SEEDS, SHOP, TEN_PERCENT, spend
from tests.core.single_carts import assert_alike
from tests.worlds import make_world, worlds
from yellow_abacus.core.clauses.conditions import coarse
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.reached import may_differ, reached
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


THRESHOLDS = st.sampled_from([300, 600, 1500, 1800, 3000, 3300])
"""What some carts of these goods come to."""
BASKETS = st.lists(st.lists(st.sampled_from(["POT", "SEED", "TOOL"]), min_size=1, max_size=4), min_size=3, max_size=6)


@pytest.mark.parametrize("exactly", [False, True])
@many
@given(BASKETS, THRESHOLDS, THRESHOLDS, st.sampled_from([0, 1]), st.data())
def test_where_near_thresholds_make_no_difference_prices_are_the_same(exactly, baskets, n, of_other, first, data):
    """One of two offers asks for one minor unit more or less than it did, the first or the second."""
    told = [slow.SlowCart([(sku, 0) for sku in skus], "home", before=3) for skus in baskets]
    rest = PLAIN | {"gives": [TEN_PERCENT], "on": data.draw(st.sampled_from([{}, POTS, SEEDS]))}
    repeat = data.draw(st.sampled_from(["once", "each_time"]))

    def asking(spent):
        own = PLAIN | {
            "gives": [{"kind": "amount_off", "amount": 100}],
            "conditions": [spend(spent)],
            "repeat": repeat,
        }
        mine, other = own, rest | {"conditions": [spend(of_other)]}
        return make_world(SHOP, told, [other, mine] if first else [mine, other])

    now, was = map(asking, data.draw(st.permutations([n, n + 1])))
    rows, reaches = rows_of(now.shop, now.batch, now.offers), reached(now.offers, now.shop, now.batch)
    differ = may_differ(now.shop, now.batch, now.offers, reaches, first, was.offers, first, exactly=exactly)
    one, another = (price(now.shop, rows, world.offers, "best") for world in (now, was))
    same = ~differ[rows.cart_by_row]
    assert np.array_equal(one.total[same], another.total[same])
    assert np.array_equal(one.goods_off[:, same], another.goods_off[:, same])


@pytest.mark.parametrize(("n", "exactly", "carts"), [(1450, False, [True, False]), (1450, True, [False, False])])
def test_a_spend_that_moves_by_little_matters_to_the_carts_between(n, exactly, carts):
    """A cart of 15.00 earns it from 14.40 and from 14.50; from 15.36 on, which is near those, it would not."""
    told = [slow.SlowCart([(sku, 0)], "home", before=3) for sku in ("TOOL", "POT")]
    offers = [PLAIN | {"gives": [TEN_PERCENT], "conditions": [spend(spent)]} for spent in (1440, n)]
    was, now = (make_world(SHOP, told, [offer]) for offer in offers)
    reaches = reached(now.offers, now.shop, now.batch)
    differ = may_differ(now.shop, now.batch, now.offers, reaches, 0, was.offers, 0, exactly=exactly)
    assert differ.tolist() == carts


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
