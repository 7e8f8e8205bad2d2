"""Reduced lines, and quantity prices of groups; whole carts are held against the slow pricer in test_pricing."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from yellow_abacus.core.carts.carts import CartBatch, make_batch
from yellow_abacus.core.carts.facts import labels, nothing_known
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord


def one_line(good: GoodRecord, units: int = 1, group: str = "", paid: int = 0) -> CartBatch:
    goods = make_goods([good])
    facts = replace(nothing_known(1), group=labels([group]))
    zero = np.zeros(1, dtype=np.int64)
    return make_batch(goods, zero, zero, zero, np.array([units]), np.array([paid]), facts).on_day(date(2027, 3, 1))


@pytest.mark.parametrize(
    ("good", "units", "standing", "reduced"),
    [
        (GoodRecord("A", list_price=500, reduced_price=400), 1, 400, True),
        (GoodRecord("A", list_price=500, reduced_price=500), 1, 500, False),
        (GoodRecord("A", list_price=500, reduced_price=600), 1, 500, False),
        (GoodRecord("A", list_price=500, reduced_price=400, quantity_prices=((3, 400),)), 3, 400, False),
        (GoodRecord("A", list_price=500, reduced_price=400, quantity_prices=((3, 400),)), 2, 400, True),
        (GoodRecord("A", list_price=500, reduced_price=400, quantity_prices=((3, 300),)), 3, 300, False),
    ],
)
def test_a_line_is_reduced_only_where_it_would_cost_more_without(good, units, standing, reduced):
    batch = one_line(good, units)
    assert (batch.standing_by_line[0], batch.reduced_by_line[0]) == (standing, reduced)


def test_without_a_list_price_what_was_paid_tells_whether_it_is_reduced():
    good = GoodRecord("A", reduced_price=400)
    assert one_line(good, paid=500).reduced_by_line[0]
    assert not one_line(good, paid=400).reduced_by_line[0]


@pytest.mark.parametrize(("group", "units", "standing"), [("Trade", 5, 350), ("trade", 4, 500), ("", 5, 500)])
def test_a_groups_quantity_price_without_a_price_of_its_own_stands_beside_everybodys(group, units, standing):
    good = GoodRecord("A", list_price=500, group_prices=(("trade", 5, 350),))
    assert one_line(good, units, group).standing_by_line[0] == standing


def test_a_groups_quantity_price_does_not_make_its_goods_dearer():
    good = GoodRecord("A", list_price=500, reduced_price=300, group_prices=(("trade", 5, 350),))
    assert one_line(good, 5, "trade").standing_by_line[0] == 300
