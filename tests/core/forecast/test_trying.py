"""Carts with something added, tried by entry; what whole plans come to with them is in test_topping_up."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.forecast.test_forecast import forecaster
from tests.core.forecast.test_topping_up import spend_offer, world_of
from yellow_abacus.core.forecast.adding import Added
from yellow_abacus.core.forecast.outlook import costed_rows
from yellow_abacus.core.forecast.sums import AT
from yellow_abacus.core.forecast.trying import (
    NOT_THERE,
    Setup,
    entries_in,
    entries_with_one_more,
    priced_together,
    tried,
)
from yellow_abacus.core.ground.axes import run_begins
from yellow_abacus.core.offers import AmountOff, PercentOff
from yellow_abacus.core.pricing.rows import rows_of

WORLD = world_of([{"A": 1}, {"B": 2}, {"C": 1, "D": 1}, {"D": 3}], [spend_offer(2000, 1000), spend_offer(3000, 500)])
SKUS = WORLD.batch.goods.skus

carts = st.lists(st.integers(0, 9), unique=True, min_size=1).map(sorted)


@given(carts, st.data())
def test_some_carts_are_there_twice_with_one_unit_more(cart, data):
    again = np.array([data.draw(st.booleans()) for _ in cart])
    units = np.array([data.draw(st.integers(1, 3)) for _ in cart])
    of, entries = entries_with_one_more(Added(np.array(cart), np.zeros(len(cart), dtype=np.int64), units), again)
    expected = [
        (one, many + more)
        for one, many, twice in zip(cart, units.tolist(), again.tolist(), strict=True)
        for more in range(1 + twice)
    ]
    assert list(zip(entries.cart.tolist(), entries.units.tolist(), strict=True)) == expected
    assert run_begins(of).sum() == len(cart)
    assert [cart[at] for at in of] == entries.cart.tolist()


def test_an_entry_is_the_same_where_cart_sku_and_units_are():
    one = Added(np.array([1, 2, 2, 5]), np.array([0, 0, 0, 3]), np.array([1, 2, 3, 1]))
    other = Added(np.array([2, 5, 6]), np.array([0, 4, 3]), np.array([3, 1, 1]))
    assert entries_in(one, other).tolist() == [NOT_THERE, NOT_THERE, 0, NOT_THERE]
    assert entries_in(one, one).tolist() == [0, 1, 2, 3]
    nothing = Added(*(np.zeros(0, dtype=np.int64) for _ in range(3)))
    assert entries_in(one, nothing).tolist() == [NOT_THERE] * 4


def setup(*percents: int) -> Setup:
    room = forecaster(WORLD)
    offers = tuple(replace(one, gives=(PercentOff(bp),)) for one, bp in zip(WORLD.offers, percents, strict=True))
    return Setup(room.outlook, room.mix, offers, "best")


def added(*told: tuple[int, str, int]) -> Added:
    cart, sku, units = zip(*((cart, SKUS.index(sku), units) for cart, sku, units in told), strict=True)
    return Added(np.array(cart), np.array(sku), np.array(units))


ADDED = added((0, "C", 1), (1, "D", 2), (1, "D", 3), (3, "A", 2))


def kept(costed, many: int) -> list[float]:
    return np.bincount(costed.cart_by_row, costed.figures[AT["kept"]] * costed.share_by_row, many).tolist()


def by_hand(one: Setup, entries: Added) -> list[float]:
    """Each cart made with what is added, and costed by itself."""
    found = []
    for cart, sku, units in zip(entries.cart, entries.sku, entries.units, strict=True):
        told = [{"A": 1}, {"B": 2}, {"C": 1, "D": 1}, {"D": 3}][cart]
        batch = world_of([{**told, SKUS[sku]: told.get(SKUS[sku], 0) + int(units)}], []).batch
        rows = costed_rows(one.outlook.shop, rows_of(one.outlook.shop, batch, one.offers), one.offers, "best")
        found += kept(rows, 1)
    return found


def test_entries_come_to_what_their_carts_do_by_themselves():
    one = setup(1000, 500)
    assert kept(tried(one, ADDED, 0), 4) == pytest.approx(by_hand(one, ADDED))


def test_a_try_under_nearly_the_same_offers_tells_all_it_can():
    before = setup(1000, 500)
    tried(before, ADDED, 0)
    after = replace(before, offers=(before.offers[0], replace(before.offers[1], gives=(AmountOff(70),))))
    assert kept(tried(after, ADDED, 0), 4) == pytest.approx(by_hand(after, ADDED))
    some = Added(*(getattr(ADDED, name)[[1, 3]] for name in ("cart", "sku", "units")))
    assert kept(tried(after, some, 0), 2) == pytest.approx(by_hand(after, some))


def test_scenes_that_differ_in_one_offer_are_tried_in_one_walk():
    one = setup(1000, 500)
    scenes = [
        replace(one, offers=(replace(one.offers[0], gives=(PercentOff(bp),)), one.offers[1])) for bp in (1, 9000)
    ]
    for own, found in zip(scenes, priced_together([(each, ADDED) for each in scenes], 0), strict=True):
        assert found.offers == own.offers
        assert kept(found.costed, 4) == pytest.approx(by_hand(own, ADDED))
        own.outlook.tries_ahead.put((*own.key(), 0), found)
        assert kept(tried(own, ADDED, 0), 4) == pytest.approx(by_hand(own, ADDED))
