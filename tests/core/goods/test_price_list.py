"""Quantity prices and prices of groups; whole carts at them are in test_carts and test_pricing."""

import numpy as np

from yellow_abacus.core.goods.price_list import NEVER, PriceStep, no_prices, price_list

SKUS = ("A", "B")
LIST = price_list(
    SKUS,
    [
        PriceStep("A", 10, 700),
        PriceStep("A", 3, 800),
        PriceStep("B", 2, 450, "Trade"),
        PriceStep("A", 1, 600, "trade"),
        PriceStep("GONE", 1, 1),
    ],
    np.array([False, True]),
)


def test_steps_rise_whatever_order_they_are_told_in():
    assert LIST.everybody.units.tolist() == [[3, NEVER], [10, NEVER]]
    assert LIST.everybody.price.tolist() == [[800, 0], [700, 0]]


def test_a_group_is_one_whatever_the_case_and_has_a_price_of_its_own_from_one_unit_on():
    assert list(LIST.by_group) == ["trade"]
    assert LIST.by_group["trade"].own.tolist() == [True, False]
    assert LIST.everybody.own.tolist() == [False, False]


def test_the_highest_step_reached_counts():
    standing, sku, units = np.full(4, 900), np.zeros(4, dtype=np.int64), np.array([2, 3, 9, 10])
    assert LIST.everybody.reached(standing, sku, units).tolist() == [900, 800, 800, 700]
    assert LIST.everybody.reached(standing, sku + 1, units * 1000).tolist() == [900] * 4


def test_an_empty_list_has_none():
    assert no_prices(3).is_empty
    assert not LIST.is_empty
    assert no_prices(3).by_product.tolist() == [False] * 3
