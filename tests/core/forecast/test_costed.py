"""Rows taken apart and put together, and what they come to beside others; sums of whole mixes are in test_outlook."""

from dataclasses import replace
from unittest.mock import patch

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.forecast.test_sums import assert_same
from tests.worlds import unless_too_much_is_put_in, worlds
from yellow_abacus.core.forecast import costed as costed_rows_of
from yellow_abacus.core.forecast.costed import Costed, end_to_end
from yellow_abacus.core.forecast.mix import Mix, alike
from yellow_abacus.core.forecast.outlook import costed_rows
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.pricing.rows import rows_of

some = settings(max_examples=30)


def costed(world) -> tuple[Mix, Costed]:
    mix = alike(world.shop, world.batch)
    return mix, costed_rows(world.shop, rows_of(world.shop, world.batch, world.offers), world.offers, "best")


@some
@given(worlds(), st.data())
@unless_too_much_is_put_in
def test_rows_end_to_end_come_to_what_they_all_do(world, data):
    mix, rows = costed(world)
    size, every = len(rows.cart_by_row), range(len(world.offers))
    cut = data.draw(st.integers(0, size))
    parts = [rows.some(slice(0, cut), every), rows.some(np.arange(cut, size), every)]
    assert_same(end_to_end(parts).summed(mix), rows.summed(mix))
    assert end_to_end([rows]) is rows
    with patch.object(costed_rows_of, "ROWS_AT_ONCE", 2):
        assert_same(rows.summed(mix), end_to_end(parts).summed(mix))


@some
@given(worlds(), st.data())
@unless_too_much_is_put_in
def test_some_rows_are_summed_as_by_themselves(world, data):
    mix, rows = costed(world)
    where = np.array([data.draw(st.booleans()) for _ in rows.cart_by_row], dtype=np.bool_)
    alone = rows.some(np.flatnonzero(where), range(len(world.offers)))
    assert_same(rows.summed(mix, where), alone.summed(mix))
    assert_same(rows.summed(mix, shares=mix.share_by_cart * 2).times(0.5), _but_sampled(rows.summed(mix), 2.0))


def _but_sampled(sums, times: float):
    """What carts that are so many times as likely vary by goes up with the square."""
    return replace(sums, sampled=sums.sampled * times)


@some
@given(worlds())
@unless_too_much_is_put_in
def test_rows_less_themselves_come_to_nothing(world):
    mix, rows = costed(world)
    nothing = rows.less(rows, mix)
    assert (np.abs(nothing.total) <= 1e-12 * np.abs(rows.summed(mix).total) + 1e-6).all()  # squares are large
    assert np.abs(nothing.sampled).max(initial=0) < 1e-9
    halves = end_to_end([rows.some(slice(None), [None] * len(world.offers))])
    assert not halves.summed(mix).reached.any()


@some
@given(worlds())
@unless_too_much_is_put_in
def test_how_often_an_offer_took_effect_on_each_cart(world):
    mix, rows = costed(world)
    for at in range(len(world.offers)):
        by_cart = rows.took_effect_by_cart(at, world.batch.axes.carts)
        share = rows.share_by_row * rows.took_effect[at]
        expected = [share[rows.cart_by_row == cart].sum() for cart in range(world.batch.axes.carts)]
        assert by_cart.tolist() == pytest.approx(expected)
        reached = rows.summed(mix).reached[:, at, AT["orders"]].sum()
        assert reached == pytest.approx(float(by_cart @ mix.share_by_cart))
