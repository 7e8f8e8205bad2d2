"""Mixes made of a mix: other days, other shares, some of the carts, and carts from which something is missing."""

from datetime import date

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.single_carts import carts_of
from yellow_abacus.core.delivery.zones import Option, Zone
from yellow_abacus.core.forecast.mix import MOST_OTHERWISE, alike
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.offers import Offer, PercentOff, When
from yellow_abacus.core.pricing.by_time import EVENLY
from yellow_abacus.core.shop.shop import Settings, Shop

SHOP = Shop(Settings(), (Zone("Home", (Option("Post"),)),))
GOODS = make_goods(
    [
        GoodRecord("FERN", list_price=900, categories=("Plants",)),
        GoodRecord("POT", list_price=2000, reduced_price=1500, reduced_from=date(2027, 3, 8), categories=("Pots",)),
        GoodRecord("SEED", list_price=300),
    ]
)
BEFORE, AFTER = date(2027, 3, 7), date(2027, 3, 8)
FERN, POT, SEED = range(3)


def mix_of(*carts):
    return alike(SHOP, carts_of(GOODS, *carts))


MIX = mix_of([("FERN", 2), ("POT", 1)], [("SEED", 3)], [("POT", 1)], [("FERN", 1), ("SEED", 1)])


def test_carts_at_the_prices_of_a_day_are_found_once_and_of_the_same_types():
    then, now = MIX.on_day(BEFORE), MIX.on_day(AFTER)
    assert then is MIX.on_day(date(2027, 3, 1))
    assert now.batch.worth_by_cart.tolist() == [3300, 900, 1500, 1200]
    assert then.batch.worth_by_cart.tolist() == [3800, 900, 2000, 1200]
    assert then.key != now.key
    assert now.share_by_cart is MIX.share_by_cart
    assert now.types is MIX.types


def test_few_carts_that_cost_something_else_are_told_from_another_day():
    carts = [[("SEED", 1)]] * 19 + [[("POT", 1)]]
    few = mix_of(*carts)
    beside = few.on_day(AFTER).beside(few.on_day(BEFORE))
    assert beside.other_day.mix is few.on_day(BEFORE)
    assert beside.other_day.skus == {"POT"}
    assert beside.other_day.otherwise.nonzero()[0].tolist() == [19]
    assert 1 / 20 <= MOST_OTHERWISE < 0.5
    assert MIX.on_day(AFTER).beside(MIX.on_day(BEFORE)).other_day is None
    assert few.on_day(AFTER).beside(few.on_day(AFTER)).other_day is None


def test_other_shares_and_some_of_the_carts():
    shares = np.array([0.7, 0.1, 0.1, 0.1])
    weighed = MIX.weighed(b"mine", lambda: shares, EVENLY)
    assert weighed.share_by_cart is shares
    assert MIX.weighed(b"mine", lambda: pytest.fail("it is known"), EVENLY) is weighed
    some = weighed.only(b"some", lambda: np.array([True, True, False, False]))
    assert some.share_by_cart.tolist() == pytest.approx([0.875, 0.125, 0, 0])
    nobody = weighed.only(b"none", lambda: np.zeros(4, dtype=np.bool_))
    assert not nobody.share_by_cart.any()


@given(st.floats(0, 1), st.integers(0, 3))
def test_while_goods_are_sold_out_orders_go_without_them_or_are_lost(lost, gone):
    selling = MIX.selling_out((FERN, POT), lost)
    assert selling.share_by_cart[:4].tolist() == MIX.share_by_cart.tolist()
    found = selling.sold_out(gone)
    assert found.gone_skus == {sku for at, sku in enumerate((FERN, POT)) if gone >> at & 1}
    held = [{FERN, POT}, set(), {POT}, {FERN}]
    expected = 0.0
    for mine, whole in zip(held, ({FERN, POT}, {SEED}, {POT}, {FERN, SEED}), strict=True):
        missing = mine & found.gone_skus
        something_left = bool(whole - missing)
        expected += 0.25 * (1 - lost if missing else 1.0) * something_left
    assert found.share_by_cart.sum() == pytest.approx(expected)
    units = {sku: float(found.share_by_cart @ found.bought[sku]) for sku in (FERN, POT)}
    assert all(units[sku] == 0 for sku in found.gone_skus)


def test_carts_branch_by_what_is_not_known_of_them_and_offers_ask_for():
    mondays = Offer((PercentOff(1000),), when=When(weekdays=(0,)))
    found = MIX.branched((mondays,))
    assert found.batch.axes.carts == 28
    assert found.share_by_cart.sum() == pytest.approx(1)
    assert np.bincount(found.origin[1], weights=found.share_by_cart).tolist() == pytest.approx([0.25] * 4)
    assert found.drawn_by_cart.tolist() == list(range(7)) * 4
    assert MIX.branched((mondays,)) is found
    assert MIX.branched((Offer((PercentOff(1000),)),)) is MIX
    assert [one.labels for one in found.types.values()] == [one.labels for one in MIX.types.values()]
