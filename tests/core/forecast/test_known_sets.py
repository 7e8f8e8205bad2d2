"""Which known sets of offers serve another, and that what is made of them is what pricing finds."""

from dataclasses import replace
from unittest.mock import patch

import numpy as np
import pytest
from hypothesis import given, settings

from tests.core.forecast.test_forecast import COUNTED_DAYS, forecaster
from tests.core.forecast.test_selling_out import plan_of, selling_out, shop_of, stocked
from yellow_abacus.core.forecast import known_sets
from yellow_abacus.core.forecast.known_sets import at_most_one_apart
from yellow_abacus.core.forecast.outlook import Outlook
from yellow_abacus.core.offers import Offer, PercentOff


def test_what_does_not_differ_in_one_offer_alone_is_priced_anew():
    apart = at_most_one_apart
    a, b, c, d = (Offer((), id=name) for name in "abcd")
    assert apart((a, b, c), (a, d, c)) == (1, 1, (0, 1, 2))
    assert apart((a, b, c), (a, c)) == (None, 1, (0, 2))
    assert apart((a, c), (a, b, c)) == (1, None, (0, None, 1))
    assert apart((a, b), (a, b)) == (None, None, (0, 1))
    assert apart((a, b), (b, a)) is None
    assert apart((a, b, c), (a, d)) is None


@settings(max_examples=60, deadline=None)
@given(selling_out())
def test_what_was_found_while_there_was_enough_serves_where_something_is_missing(case):
    """One room knows of other numbers, the other of nothing."""
    world, plan, stock, kits = case
    before = [replace(one, gives=(PercentOff(1_700),)) for one in plan.offers[:1]]
    with patch.object(known_sets, "MOSTLY", 1.1):  # or few carts would all be priced anew
        room = forecaster(stocked(world, stock, kits))
        room.forecast(replace(plan, offers=(*before, *plan.offers[1:])))
        room.forecast(plan.as_if_enough)
        found = room.forecast(plan)
    with patch.object(known_sets, "MOSTLY", -1.0):
        anew = forecaster(stocked(world, stock, kits)).forecast(plan)
    assert found.planned.profit == pytest.approx(anew.planned.profit, rel=1e-9, abs=1e-6)
    assert found.today.profit == pytest.approx(anew.today.profit, rel=1e-9, abs=1e-6)
    assert found.planned.orders == pytest.approx(anew.planned.orders, rel=1e-9, abs=1e-9)


def test_carts_from_which_nothing_is_missing_are_priced_once(monkeypatch):
    world = shop_of(*["AB"] * COUNTED_DAYS, stock={"A": 15})
    priced: list[np.ndarray] = []
    costed = Outlook._costed

    def noted(self, mix, offers, apply, today, reaches, carts):
        priced.append(carts)
        return costed(self, mix, offers, apply, today, reaches, carts)

    monkeypatch.setattr(Outlook, "_costed", noted)
    forecaster(world).forecast(plan_of(world, 3_000))
    assert sorted(np.concatenate(priced).tolist()) == list(range(2 * COUNTED_DAYS))
