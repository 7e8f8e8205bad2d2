"""Carts of raw lines: which are one line, in what order, and what each stands at; parts of a batch, and other days.

Whole carts are held against the slow pricer in test_pricing.
"""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from tests.core.single_carts import carts_of, one_cart
from yellow_abacus.core.carts.carts import CartBatch, CartTooLargeError, RawLines, batch_of, make_batch
from yellow_abacus.core.carts.facts import labels, nothing_known
from yellow_abacus.core.goods.making_goods import make_goods
from yellow_abacus.core.goods.records import GoodRecord
from yellow_abacus.core.goods.scope import Scope
from yellow_abacus.core.ground.money import LARGEST_CART


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


FERN = GoodRecord("FERN", "Fern", list_price=900, weight=400.0, purchase_cost=300.0)
LARGE = GoodRecord("FERN-L", "Fern", list_price=1500, weight=900.0, purchase_cost=500.0)
POT = GoodRecord("POT", "Pot", list_price=900, reduced_price=700, reduced_to=date(2027, 3, 10), never_discounted=True)
GOODS = make_goods([FERN, LARGE, POT])


def lines_of(batch: CartBatch) -> list[tuple[str, int, int]]:
    lines = zip(batch.sku_by_line, batch.quantity_by_line, batch.standing_by_line, strict=True)
    return [(batch.goods.skus[sku], int(units), int(price)) for sku, units, price in lines]


def test_lines_of_one_sku_are_merged_and_lie_from_dear_to_cheap_then_by_sku():
    one = one_cart(GOODS, ("POT", 1), ("FERN", 2), ("FERN-L", 1), ("FERN", 3))
    other = one_cart(GOODS, ("FERN", 5), ("FERN-L", 1), ("POT", 1))
    assert lines_of(one) == lines_of(other) == [("FERN-L", 1, 1500), ("FERN", 5, 900), ("POT", 1, 700)]
    assert (one.worth_by_cart[0], one.units_by_cart[0], one.weight_by_cart[0]) == (6700, 7, 2_900_000)
    assert one.unit_costs_by_cart.tolist() == [5 * 300 + 500]


def test_a_day_with_other_prices_puts_lines_in_another_order():
    batch = one_cart(GOODS, ("POT", 1), ("FERN", 1))
    after = batch.on_day(date(2027, 3, 11))
    assert lines_of(batch.on_day(date(2027, 3, 10))) == [("FERN", 1, 900), ("POT", 1, 700)]
    assert lines_of(after) == [("FERN", 1, 900), ("POT", 1, 900)]
    assert after.on_day(date(2027, 4, 1)) is after


def test_a_part_has_the_lines_of_its_carts_and_is_kept():
    batch = carts_of(GOODS, [("POT", 1)], [], [("FERN", 2), ("POT", 3)])
    twice = batch.some(np.array([2, 0, 2]))
    assert lines_of(twice) == [("FERN", 2, 900), ("POT", 3, 700), ("POT", 1, 700), ("FERN", 2, 900), ("POT", 3, 700)]
    assert batch.part(np.array([2])) is batch.part(np.array([2]))
    assert batch.part(np.arange(3)) is batch


def test_blocks_hold_every_cart_once():
    batch = carts_of(GOODS, *[[("FERN", 1), ("POT", at + 1)] for at in range(7)])
    blocks = batch.blocks(4)
    assert [at for carts, _ in blocks for at in range(carts.start, carts.stop)] == list(range(7))
    assert [line for _, block in blocks for line in lines_of(block)] == lines_of(batch)
    assert batch.blocks(100) == [(slice(0, 7), batch)]


def test_carts_remade_with_other_goods_are_those_made_of_them():
    dearer = make_goods([replace(FERN, list_price=2000), LARGE, POT])
    carts = [[("POT", 1)], [("FERN", 2), ("POT", 3)], [("FERN", 1)]]
    whole = carts_of(GOODS, *carts).with_goods(dearer, np.array([1, 2]))
    assert lines_of(whole) == lines_of(carts_of(dearer, *carts))
    left = carts_of(GOODS, *carts).remade(np.array([1]), dearer, without=np.array([False, True, False, False]))
    assert lines_of(left) == [("POT", 3, 700)]


def test_what_an_offer_put_in_stands_in_no_cart():
    zero, ones = np.zeros(2, dtype=np.int64), np.ones(2, dtype=np.int64)
    raw = RawLines(zero, np.array([0, 2]), ones, zero, put_in=np.array([False, True]))
    batch = batch_of(GOODS, np.zeros(1, dtype=np.int64), raw, nothing_known(1))
    assert lines_of(batch) == [("FERN", 1, 900)]


def test_scopes_ranks_and_what_may_be_discounted_by_line():
    carts = [("FERN", 1), ("FERN-L", 1), ("POT", 1)], [("POT", 1), ("FERN-L", 2)]
    batch = carts_of(GOODS, *carts).on_day(date(2027, 3, 1))
    assert batch.lines_in(Scope(products=("Fern",))).tolist() == [True, True, False, True, False]
    assert batch.lines_in(Scope(reduced="out")).tolist() == [True, True, False, True, False]
    assert batch.rank_by_line("product").tolist() == [0, 0, 1, 0, 1]
    assert batch.rank_by_line("sku").tolist() == [0, 1, 2, 0, 1]
    assert batch.may_be_discounted_by_line.tolist() == [True, True, False, True, False]


def test_a_cart_the_sums_cannot_carry_is_refused_by_its_number():
    with pytest.raises(CartTooLargeError) as error:
        carts_of(GOODS, [("FERN", 1)], [("FERN", LARGEST_CART // 900 + 1)])
    assert error.value.cart == 1
