"""The spread of carts to expect, against plain loops over carts."""

from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.forecast.test_expected import FIRST, histories, terms
from yellow_abacus.core.clauses.where import Where
from yellow_abacus.core.forecast.expected import Source, expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.mix_seen import seen
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.spread_of_mix import OpenTo, groups, spread
from yellow_abacus.core.forecast.sums import LEDGER

WINDOW: tuple[date, date] = (FIRST, FIRST + timedelta(20))


@settings(max_examples=40)
@given(histories(), terms, st.sampled_from(["value", "units", "weight"]))
def test_bands_add_up_to_what_the_mix_comes_to(case, terms, by):
    _, told = case
    expected = expect(told, terms)
    if not expected.weight_by_cart.any():
        return
    forecaster = Forecaster(expected)
    found, whole = spread(forecaster, WINDOW, by), seen(forecaster, WINDOW)
    assert found.orders.sum() == pytest.approx(whole.orders)
    assert found.kept.sum() == pytest.approx(whole.kept, rel=1e-9, abs=1e-6)
    per_band, fine = found.width // found.fine_width, found.fine.sum(axis=0)
    for at, orders in enumerate(found.orders[:-1]):
        assert fine[at * per_band : (at + 1) * per_band].sum() == pytest.approx(orders)
    assert fine[-1] == pytest.approx(found.orders[-1])
    zones = [OpenTo(where=Where(zones=(zone,))) for zone in forecaster.shop.zone_names]
    by_zone = spread(forecaster, WINDOW, by, zones).fine.sum(axis=1)
    np.testing.assert_allclose(by_zone, groups(forecaster, WINDOW).zone[0], atol=1e-9)


@settings(max_examples=40)
@given(histories(), st.sampled_from(["value", "units", "weight"]))
def test_each_cart_lies_in_the_band_of_what_is_in_it(case, by):
    world, told = case
    forecaster = Forecaster(expect(told))
    expected = forecaster.expected
    orders, mix = Source(expected, forecaster.mix, 1.0, None).weighed(
        forecaster.mix, expected.volume.by_weekday([FIRST])
    )
    found = spread(forecaster, (FIRST, FIRST), by)
    batch = world.batch
    measure = {"value": batch.worth_by_cart, "units": batch.units_by_cart, "weight": batch.weight_by_cart // 1000}[by]
    plain = np.zeros(len(found.orders))
    for cart, size in enumerate(measure):
        plain[min(size // found.width, len(plain) - 1)] += orders * mix.share_by_cart[cart]
    np.testing.assert_allclose(found.orders, plain, atol=1e-9)


@settings(max_examples=40)
@given(histories(), terms)
def test_groups_are_what_plain_loops_over_carts_find(case, terms):
    world, told = case
    expected = expect(told, terms)
    if not expected.weight_by_cart.any():
        return
    forecaster = Forecaster(expected)
    found, facts = groups(forecaster, WINDOW), world.batch.facts
    plain = {"zone": {}, "shopper": {}, "hour": {}}
    for _, orders, mix in forecaster.available(Plan(*WINDOW, ())):
        kept = forecaster.outlook.bare(mix).figures.by_cart[LEDGER].sum(axis=0)
        for cart, share in enumerate(mix.share_by_cart):
            before, day, minute = (
                int(one[cart]) for one in (facts.orders_before_by_cart, facts.weekday_by_cart, facts.minute_by_cart)
            )
            keys = {
                "zone": int(mix.batch.zone_by_cart[cart]),
                "shopper": min(before, 1) if before >= 0 else None,
                "hour": day * 24 + minute // 60 if day >= 0 and minute >= 0 else None,
            }
            for way, key in keys.items():
                if key is not None:
                    had = plain[way].get(key, (0.0, 0.0))
                    plain[way][key] = (had[0] + orders * share, had[1] + orders * share * kept[cart])
    for way, sums in plain.items():
        for at, (orders, kept) in enumerate(zip(*getattr(found, way), strict=True)):
            assert (orders, kept) == pytest.approx(sums.get(at, (0.0, 0.0)), abs=1e-6)
