"""Rows: the ways a cart may go; that each is priced right is in test_pricing."""

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.worlds import worlds
from yellow_abacus.core.carts.facts import UNKNOWN
from yellow_abacus.core.pricing.reached import reached
from yellow_abacus.core.pricing.rows import by_payment, rows_of

some = settings(max_examples=60)


@some
@given(worlds())
def test_shares_of_a_cart_add_up_and_its_rows_lie_together(world):
    reaches = reached(world.offers, world.shop, world.batch)
    for rows in (rows_of(world.shop, world.batch, world.offers, where) for where in (None, reaches)):
        assert (np.diff(rows.cart_by_row) >= 0).all()
        np.testing.assert_allclose(np.bincount(rows.cart_by_row, weights=rows.share_by_row), 1)
        assert rows.apart().one_a_cart


@some
@given(worlds(), st.data())
def test_some_carts_have_the_rows_they_have_among_all(world, data):
    rows = rows_of(world.shop, world.batch, world.offers)
    carts = np.flatnonzero(
        data.draw(st.lists(st.booleans(), min_size=len(world.slow_carts), max_size=len(world.slow_carts)))
    )
    at, some_rows = rows.of(carts)
    assert carts[some_rows.cart_by_row].tolist() == rows.cart_by_row[at].tolist()
    assert some_rows.option_by_row.tolist() == rows.option_by_row[at].tolist()
    assert some_rows.batch.worth_by_cart.tolist() == world.batch.worth_by_cart[carts].tolist()


@some
@given(worlds())
def test_every_cart_is_paid_in_some_way_where_that_changes_a_price(world):
    paid = by_payment(world.shop, world.batch, world.offers)
    np.testing.assert_allclose(np.bincount(paid.cart, weights=paid.share), 1)
    if paid.batch is not world.batch:
        assert (paid.batch.facts.payment.number_by_cart != UNKNOWN).all()
