"""Sets that differ in one offer, priced as one: each comes to what it does by itself."""

from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.worlds import unless_too_much_is_put_in, worlds
from yellow_abacus.core.forecast.outlook import costed_rows
from yellow_abacus.core.forecast.variants import LINES_TOGETHER, apart, at_once, differ_in, side_by_side
from yellow_abacus.core.offers import AmountOff, Offer, PercentOff
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.rows import rows_of

ONE, TWO = Offer((PercentOff(1000),), id="one"), Offer((PercentOff(2000),), id="two")
DEEPER = replace(ONE, gives=(PercentOff(1500),))


def test_the_offer_in_which_all_differ():
    assert differ_in([(ONE, TWO), (DEEPER, TWO), (replace(ONE, gives=(AmountOff(5),)), TWO)]) == 0
    assert differ_in([(ONE, TWO), (DEEPER, TWO), (ONE, replace(TWO, gives=(AmountOff(5),)))]) is None
    assert differ_in([(ONE, TWO), (ONE,)]) is None
    assert differ_in([(ONE, TWO)]) is None


@given(st.integers(1, 30), st.integers(0, 3 * LINES_TOGETHER))
def test_every_copy_is_in_one_walk(many, lines):
    walks = list(at_once(many, lines))
    assert [at for some in walks for at in range(many)[some]] == list(range(many))
    assert all(len(range(many)[some]) * lines <= LINES_TOGETHER or len(range(many)[some]) == 1 for some in walks)


@settings(max_examples=40)
@given(worlds(), st.data())
@unless_too_much_is_put_in
def test_each_comes_to_what_it_does_by_itself(world, data):
    if not world.offers:
        return
    at, batch, shop = data.draw(st.integers(0, len(world.offers) - 1)), world.batch, world.shop
    others = [replace(world.offers[at], gives=(AmountOff(one),), steps=(), every_step=False) for one in (90, 400)]
    sets = [(*world.offers[:at], one, *world.offers[at + 1 :]) for one in others]
    offers, there = side_by_side(sets, at, [reached(one, shop, batch) for one in sets])
    carts = batch.axes.carts
    rows = rows_of(shop, batch.some(np.tile(np.arange(carts), 2)), offers, there)
    both = costed_rows(shop, rows, offers, "best", there)
    for own, copy in zip(sets, apart(both, at, len(sets[0]), [carts] * 2), strict=True):
        alone = costed_rows(shop, rows_of(shop, batch, own), own, "best")
        for cart in range(carts):
            mine, theirs = (
                (one.share_by_row * one.figures)[:, one.cart_by_row == cart].sum(axis=1) for one in (copy, alone)
            )
            np.testing.assert_allclose(mine, theirs, atol=1e-6)
        for number in range(len(own)):
            took = [one.took_effect_by_cart(number, carts) for one in (copy, alone)]
            np.testing.assert_allclose(*took, atol=1e-9)
