"""Tax for each rate on the sum taxed at it, shared back over its parts, against plain loops over one cart."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.single_carts import carts_of
from tests.slow_costs import split_like_goods
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.shop.tax import RateIn, TaxClass, Taxes, tax_table

FULL, LOW = TaxClass("Full", 2000, (RateIn("Abroad", 2500),)), TaxClass("Low", 700, (RateIn("Abroad", 2500),))
TAXES = Taxes((FULL, LOW))
ZONES = ("Home", "Abroad")
GOODS = make_goods([GoodRecord("POT", list_price=4000), GoodRecord("SEED", list_price=305, tax_class="Low")])
CARTS = carts_of(GOODS, [("POT", 1), ("SEED", 2)], [("SEED", 1)], [("POT", 1), ("SEED", 1)])
BATCH = replace(CARTS, zone_by_cart=np.array([0, 0, 1]))
TABLE = tax_table(TAXES, ZONES, BATCH)

amounts = st.integers(0, 50_000)


@pytest.mark.parametrize(("amount", "with_tax", "on_top"), [(1200, 200, 240), (1, 0, 0), (3, 1, 1), (0, 0, 0)])
def test_tax_is_held_in_a_price_or_due_on_top_of_it(amount, with_tax, on_top):
    assert Taxes((FULL,)).of_one(amount, 2000) == with_tax
    assert Taxes((FULL,), included=False).of_one(amount, 2000) == on_top


def test_rates_by_zone_and_what_part_of_a_price_is_not_tax():
    assert TAXES.rates(ZONES).tolist() == [[2000, 700], [2500, 2500]]
    assert TAXES.rates(()).tolist() == [[0, 0]]
    assert TAXES.without(np.array([2500, 0])).tolist() == [0.8, 1]
    assert replace(TAXES, included=False).without(np.array([2500])).tolist() == [1]
    assert TAXES.class_of_sku(GOODS).tolist() == [0, 1]


def test_goods_by_rate_the_highest_first():
    found = TABLE.by_slot(BATCH.worth_by_line, BATCH.worth_by_cart)
    assert found.T.tolist() == [[4000, 610], [0, 305], [4305, 0]]  # abroad both classes are at one rate
    assert TABLE.rate_by_slot.T.tolist() == [[2000, 700], [2000, 700], [2500, 0]]


@given(amounts, amounts, amounts)
def test_a_charge_is_taxed_like_the_goods_of_the_cart(charge, full, low):
    table = TABLE.some(np.array([0]))
    found = table.like_goods(np.array([charge]), np.array([[full], [low]]))[:, 0]
    expected = split_like_goods(charge, {2000: full, 700: low}, 2000)
    assert found.tolist() == [expected.get(2000, 0), expected.get(700, 0)]
    assert found.sum() == charge


def test_or_at_a_class_of_its_own():
    assert TABLE.at_class(np.array([490, 490, 490]), "Low").T.tolist() == [[0, 490], [0, 490], [490, 0]]


@given(st.lists(st.tuples(amounts, amounts), min_size=3, max_size=3))
def test_the_tax_of_parts_adds_up_to_that_of_their_sum_for_each_rate(parts):
    table = TABLE.some(np.array([0]))
    by_slot = [np.array(part, dtype=np.int64)[:, None] for part in parts]
    found = table.shared(*by_slot)
    whole = [sum(part[slot] for part in parts) for slot in (0, 1)]
    due = [TAXES.of_one(amount, rate) for amount, rate in zip(whole, (2000, 700), strict=True)]
    assert sum(int(one[0]) for one in found) == sum(due)
    assert table.tax(sum(by_slot)).tolist() == [sum(due)]
    for part, tax in zip(parts, found, strict=True):
        alone = sum(TAXES.of_one(amount, rate) for amount, rate in zip(part, (2000, 700), strict=True))
        assert abs(int(tax[0]) - alone) <= 2


def test_what_is_asked_for_things_put_in_is_taxed_at_their_rate():
    by_slot = TABLE.by_slot(BATCH.worth_by_line, BATCH.worth_by_cart)
    found = TABLE.with_put_in(by_slot, [(1, np.array([100, 100, 100]))])
    assert (found - by_slot).T.tolist() == [[0, 100], [0, 100], [100, 0]]
    assert TABLE.with_put_in(by_slot, []) is by_slot
