"""What is always true of priced carts, whatever the offers. docs/sums.md."""

from dataclasses import replace
from unittest.mock import patch

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import slow
from tests.core.single_carts import assert_alike, costed_once, likeliest, priced_once
from tests.worlds import World, make_world, slow_offers, unless_too_much_is_put_in, worlds
from yellow_abacus.core.carts import blocks
from yellow_abacus.core.clauses.funded import Funded
from yellow_abacus.core.ground.axes import Axes
from yellow_abacus.core.offers import DeliveryAmountOff, DeliveryPercentOff, Offer, PercentOff, PutIn, Where, Who
from yellow_abacus.core.pricing.pricing import price
from yellow_abacus.core.pricing.rows import rows_of
from yellow_abacus.core.pricing.together import Together

many = settings(max_examples=90)
counts = st.lists(st.integers(0, 5), min_size=1, max_size=6)


@many
@given(counts, st.data())
def test_shares_add_up_to_the_amount_and_none_exceeds_its_base(sizes, data):
    axes = Axes(np.concatenate(([0], np.cumsum(sizes))))
    lines = st.lists(st.integers(0, 400_000_000), min_size=axes.lines, max_size=axes.lines)
    base = np.array(data.draw(lines), dtype=np.int64)
    whole = axes.sum_by_cart(base)
    amount = np.array([data.draw(st.integers(0, int(most))) for most in whole])
    shares = axes.share(amount, base)
    assert (axes.sum_by_cart(shares) == np.where(whole > 0, amount, 0)).all()
    assert (shares <= base).all()
    assert (shares >= 0).all()


@many
@given(worlds(most_carts=5))
def test_the_same_cart_never_pays_more_for_its_goods_than_without_offers(world):
    for apply in ("best", "first"):
        priced = priced_once(world, apply)
        bare = likeliest(world.shop, world.batch, (), apply)[1]
        assert (priced.by_line.net <= bare.by_line.net).all()


@many
@given(worlds(most_carts=4))
def test_where_no_offer_is_idle_the_kept_set_is_never_beaten_by_another_largest_set(world):
    plain = [offer | {"yields_to": []} for offer in world.slow_offers]
    world = make_world(world.slow_shop, world.slow_carts, plain)
    priced = priced_once(world)
    costs = priced.less_put_in
    together = Together(world.offers, world.shop.settings)
    for at, cart in enumerate(world.slow_carts):
        here = [n for n in range(len(plain)) if slow.takes_part(plain[n], cart)]
        sets = together.largest_sets(here)
        others = [slow.price_with(world.slow_shop, cart, plain, list(some)) for some in sets]
        if {one for other in others for one in other.effective()} == set(here):
            assert costs[at] <= min(other.less_put_in(world.slow_shop) for other in others)


@many
@given(worlds(most_carts=4), slow_offers(), st.sampled_from(["best", "first"]))
@unless_too_much_is_put_in
def test_an_offer_that_may_not_take_part_changes_nothing(world, stranger, apply):
    told = [*world.slow_offers, stranger | {"never_with": "all", "yields_to": []}]
    wide = make_world(world.slow_shop, world.slow_carts, told)
    for part in ({"who": Who(shoppers=("nobody",))}, {"where": Where(zones=("nowhere",))}):
        offers = (*wide.offers[:-1], replace(wide.offers[-1], **part))
        with_it = likeliest(wide.shop, wide.batch, offers, apply)[1]
        without = priced_once(world, apply)
        assert (with_it.goods_off[-1] == 0).all()
        assert with_it.total.tolist() == without.total.tolist()
        assert with_it.by_line.net.tolist() == without.by_line.net.tolist()


@many
@given(worlds(most_carts=8), st.integers(1, 9))
def test_cutting_a_batch_changes_nothing(world, lines):
    for apply in ("best", "first"):
        whole, costed = priced_once(world, apply), costed_once(world, apply)
        with patch.object(blocks, "LINES_A_BLOCK", lines):
            assert_alike(whole, priced_once(world, apply))
            assert (costed == costed_once(world, apply)).all()


@many
@given(worlds(most_carts=6, most_offers=3))
def test_what_came_off_goods_serves_sets_with_and_without_what_is_put_in(world):
    """It comes to what it does when the same carts are priced for the first time."""
    shop, batch = world.shop, world.batch
    gift = Offer((PutIn((batch.goods.skus[0],)),), id="gift")
    cheaper = Offer((DeliveryPercentOff(1000),), id="cheaper")
    both = Offer((PercentOff(1000), DeliveryAmountOff(50)), funded=Funded(share_bp=2000), returned_bp=9000, id="both")
    some = (cheaper, both, *world.offers)
    for offers in ((*some, gift), some, (gift, *some), (*some, gift), (both, *world.offers, gift)):
        fresh = batch.some(np.arange(batch.axes.carts))
        assert_alike(*(price(shop, rows_of(shop, one, offers), offers) for one in (batch, fresh)))


@many
@given(worlds(most_carts=6))
def test_no_limit_of_an_order_is_ever_passed(world: World):
    for apply in ("best", "first"):
        priced = priced_once(world, apply)
        for at, offer in enumerate(world.offers):
            if offer.limits.amount is not None:
                assert (priced.goods_off[at] <= offer.limits.amount).all()
            for gift, units in zip(priced.gifts, priced.put_in, strict=True):
                if gift.offer == at and offer.limits.times is not None:
                    most = max(reward.quantity for reward in offer.rewards() if isinstance(reward, PutIn))
                    assert (units <= most * offer.limits.times).all()


@many
@given(worlds(most_carts=5))
def test_what_each_line_lost_adds_up_to_what_each_offer_took(world):
    priced = priced_once(world)
    assert (world.batch.worth_by_line - priced.by_line.off.sum(axis=0) == priced.by_line.net).all()
    for at in range(len(world.offers)):
        assert (world.batch.axes.sum_by_cart(priced.by_line.off[at]) == priced.goods_off[at]).all()
