"""Carts of unknown time, once for each stretch of the week that offers tell apart."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.offers.test_turn import GOODS
from tests.core.single_carts import carts_of
from yellow_abacus.core.carts.facts import UNKNOWN, nothing_known
from yellow_abacus.core.offers import Offer, PercentOff, When
from yellow_abacus.core.pricing.by_time import EVENLY, Times, asked_of_time, by_time

TENTH = (PercentOff(1000),)


def offer(**when) -> Offer:
    return Offer(TENTH, when=When(**when))


def batch(*times: tuple[int, int]):
    weekday, minute = np.array(times).T
    facts = replace(nothing_known(len(times)), weekday_by_cart=weekday, minute_by_cart=minute)
    return carts_of(GOODS, *[[("POT", 1)]] * len(times), facts=facts)


def test_which_stretches_offers_tell_apart():
    assert asked_of_time([offer()]) == (False, (0,))
    assert asked_of_time([offer(weekdays=(5,)), offer(from_minute=600, to_minute=1440)]) == (True, (0, 600))


@pytest.mark.parametrize(
    ("offers", "copies"),
    [
        ([offer(weekdays=(5,))], [1, 7]),
        ([offer(from_minute=600, to_minute=720)], [1, 3]),
        ([offer(from_minute=600, to_minute=720, weekdays=(0,))], [1, 21]),
    ],
)
def test_only_carts_of_unknown_time_are_there_several_times(offers, copies):
    found = by_time(batch((2, 700), (UNKNOWN, UNKNOWN)), offers)
    assert np.bincount(found.cart).tolist() == copies
    assert found.batch.facts.weekday_by_cart[0] == 2
    assert by_time(batch((2, 700)), offers) is None
    assert by_time(batch((UNKNOWN, UNKNOWN)), [offer()]) is None


@given(st.lists(st.integers(1, 9), min_size=7, max_size=7), st.integers(1, 1439), st.booleans())
def test_the_copies_of_a_cart_are_as_likely_as_orders_come_then(days, minute, on_mondays):
    minutes = np.arange(1440) % 60 + 1.0
    times = Times(np.array(days) / sum(days), minutes / minutes.sum())
    asked = offer(from_minute=0, to_minute=minute, weekdays=(0,) if on_mondays else ())
    found = by_time(batch((3, 5), (UNKNOWN, UNKNOWN)), [asked])
    shares = found.shares(times)
    assert np.bincount(found.cart, weights=shares).tolist() == pytest.approx([1, 1])
    open_then = asked.when.passes(found.batch.facts) & (found.cart == 1)
    chance = times.by_minute[:minute].sum() * (times.by_weekday[0] if on_mondays else 1)
    assert shares[open_then].sum() == pytest.approx(chance)


def test_evenly_is_every_minute_alike():
    assert EVENLY.by_weekday.sum() == pytest.approx(1)
    assert EVENLY.by_minute.sum() == pytest.approx(1)
