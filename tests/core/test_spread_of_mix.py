"""The spread of carts to expect, against plain loops over carts."""

from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.test_expected import FIRST, histories, terms
from yellow_abacus.core.forecast.expected import expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.mix_seen import seen
from yellow_abacus.core.forecast.spread_of_mix import spread

WINDOW: tuple[date, date] = (FIRST, FIRST + timedelta(20))


@settings(max_examples=60)
@given(histories(), terms, st.sampled_from(["value", "units", "weight"]))
def test_bands_add_up_to_what_the_mix_comes_to(case, terms, by):
    _, told = case
    expected = expect(told, terms)
    if not expected.weight_by_cart.any():
        return
    forecaster = Forecaster(expected)
    found, whole = spread(forecaster, WINDOW, by), seen(forecaster, WINDOW)
    assert found.orders.sum() == pytest.approx(whole.orders)
    assert found.kept.sum() == pytest.approx(whole.kept, abs=1e-6)
    assert found.fine.sum() == pytest.approx(found.orders[:-1].sum())
    per_band = found.width // found.fine_width
    for at, orders in enumerate(found.orders[:-1]):
        assert found.fine[at * per_band : (at + 1) * per_band].sum() == pytest.approx(orders)


@settings(max_examples=60)
@given(histories(), st.sampled_from(["value", "units", "weight"]))
def test_each_cart_lies_in_the_band_of_what_is_in_it(case, by):
    world, told = case
    forecaster = Forecaster(expect(told))
    orders, mix = forecaster.expected.over(forecaster.mix, [FIRST])
    found = spread(forecaster, (FIRST, FIRST), by)
    batch = world.batch
    measure = {"value": batch.worth_by_cart, "units": batch.units_by_cart, "weight": batch.weight_by_cart // 1000}[by]
    plain = np.zeros(len(found.orders))
    for cart, size in enumerate(measure):
        plain[min(size // found.width, len(plain) - 1)] += orders * mix.share_by_cart[cart]
    np.testing.assert_allclose(found.orders, plain, atol=1e-9)
