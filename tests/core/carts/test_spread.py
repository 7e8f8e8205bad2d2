import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_abacus.core.carts.spread import MOST_BANDS, ROUND_AMOUNTS, round_amount, round_width, spread_of_values


@given(st.lists(st.integers(0, 100_000), min_size=1, max_size=60))
def test_every_cart_is_in_the_band_of_its_value_or_above_them_all(values):
    bands, above = spread_of_values(np.array(values))
    for first, end, carts in bands:
        assert carts == sum(first <= one < end for one in values)
    assert sum(carts for _, _, carts in bands) + above == len(values)
    widths = {end - first for first, end, _ in bands}
    assert len(widths) == 1
    assert round_width(widths.pop()) in {end - first for first, end, _ in bands}
    assert len(bands) <= MOST_BANDS + 1


def test_no_carts_have_no_spread():
    assert spread_of_values(np.zeros(0, dtype=np.int64)) == ([], 0)


@pytest.mark.parametrize(("least", "width"), [(0.2, 1), (1, 1), (1.5, 2), (3, 5), (6, 10), (499, 500), (501, 1000)])
def test_a_width_is_a_round_amount(least, width):
    assert round_width(least) == width


@given(st.integers(100, 10**9))
def test_sixty_round_amounts_are_what_an_order_comes_to_or_somewhat_more(usual):
    assert usual <= ROUND_AMOUNTS * round_amount(usual) <= 2.5 * usual + ROUND_AMOUNTS
