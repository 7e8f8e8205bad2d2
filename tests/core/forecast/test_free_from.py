"""Delivery free from another value, against all priced anew with it."""

from dataclasses import replace
from datetime import timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.forecast.test_expected import FIRST, histories
from yellow_abacus.core.forecast.expected import expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.free_from import kept_by_free_from
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.sums import LEDGER

WINDOW = (FIRST, FIRST + timedelta(9))


@settings(max_examples=40)
@given(histories(), st.lists(st.integers(1, 6_000), min_size=1, max_size=3))
def test_each_value_comes_to_what_all_priced_anew_with_it_comes_to(case, values):
    _, told = case
    free = next((one.free_from for _, one in told.shop.delivery.options if one.free_from is not None), None)
    forecaster = Forecaster(expect(told))
    if free is None or not told.batch.axes.carts:
        return
    found = kept_by_free_from(forecaster, WINDOW, free, [free, *values])
    for value, kept in zip([free, *values], found, strict=True):
        zones = tuple(
            replace(
                zone,
                options=tuple(
                    replace(one, free_from=value) if one.free_from == free else one for one in zone.options
                ),
            )
            for zone in told.shop.zones
        )
        shop, expected = replace(told.shop, zones=zones), 0.0
        for _, orders, mix in forecaster.available(Plan(*WINDOW, ())):
            otherwise = Mix(shop, mix.batch, mix.share_by_cart)
            by_cart = Outlook(shop, otherwise).bare(otherwise).figures.by_cart[LEDGER].sum(axis=0)
            expected += orders * float(by_cart @ mix.share_by_cart)
        assert kept == pytest.approx(expected, rel=1e-9, abs=1e-6)
    assert found[0] == pytest.approx(forecaster.forecast(Plan(*WINDOW, ())).today.profit, rel=1e-9, abs=1e-6)
