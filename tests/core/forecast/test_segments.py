"""Whose carts are meant, and messages to those alone."""

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.carts.test_sketch import sketches
from tests.core.forecast.test_expected import FIRST, histories
from yellow_abacus.core.clauses.given import Given
from yellow_abacus.core.clauses.response import Sends
from yellow_abacus.core.clauses.whose import Whose
from yellow_abacus.core.forecast.cart_types import CartTypes
from yellow_abacus.core.forecast.expected import MixTerms, expect
from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.mix import Mix
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.forecast.segments import carts_of
from yellow_abacus.core.offers import Offer, PercentOff, Response

LAST = FIRST + timedelta(9)


def sent(sends: Sends | None) -> Plan:
    """A code that nobody holds but whom it is sent to."""
    response = Response(uptake_bp=0, sends=sends)
    offer = Offer((PercentOff(1_000),), id="sent", given=Given(by="code", code="FROND"), response=response)
    return Plan(FIRST, LAST, (offer,))


@settings(max_examples=40)
@given(histories(), sketches, st.sampled_from([0, 4_000]))
def test_messages_to_a_sketched_type_bring_its_carts_alone(case, sketch, anyway_bp):
    _, history = case
    if list(sketch.problems_in(history.batch.goods, history.shop.zone_names)):
        return
    sends = Sends(size=200, response_bp=500, anyway_bp=anyway_bp, cost=7, days=2, to="any")
    among = Whose(of="type", name=sketch.name)
    beside = Forecaster(expect(history, MixTerms(sketched=(replace(sketch, share_bp=3_000),), orders_a_day=4)))
    alone = Forecaster(expect(history, MixTerms(sketched=(replace(sketch, share_bp=10_000),), orders_a_day=4)))
    assert beside.impact(sent(replace(sends, among=among))) == pytest.approx(alone.impact(sent(sends)), abs=1e-4)


@settings(max_examples=40)
@given(histories())
def test_whose_carts_are_meant(case):
    _, history = case
    batch, facts = history.batch, history.batch.facts
    before, since = facts.orders_before_by_cart, facts.days_since_by_cart
    named = CartTypes(("Small ones", "Others"), (batch.units_by_cart > 2).astype(np.int64))
    mix = Mix(history.shop, batch, np.ones(batch.axes.carts), typed=lambda _: named)
    zones = [history.shop.zone_names[zone] for zone in batch.zone_by_cart.tolist()]
    assert carts_of(Whose(of="zone", name="FAR"), mix).tolist() == [zone == "far" for zone in zones]
    assert carts_of(Whose(of="first"), mix).tolist() == (before == 0).tolist()
    assert carts_of(Whose(of="returning"), mix).tolist() == (before > 0).tolist()
    assert carts_of(Whose(of="away", days=20), mix).tolist() == (since >= 20).tolist()
    assert carts_of(Whose(of="type", name="small ones"), mix).tolist() == (batch.units_by_cart <= 2).tolist()
    some = mix.only(b"far", lambda: carts_of(Whose(of="zone", name="far"), mix))
    assert carts_of(Whose(of="zone", name="home"), some.on_day(FIRST)).tolist() == [zone == "home" for zone in zones]
    assert some.share_by_cart.sum() == pytest.approx(1.0 if "far" in zones else 0.0)
